#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QVBoxLayout;

namespace vicegrip::app {

/// The questions for the tuner, each with a line for its answer.
class QuestionsForm : public QWidget
{
    Q_OBJECT

  public:
    explicit QuestionsForm(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void build(const std::vector<std::string>& ids);

    Desk& m_desk;
    QVBoxLayout* m_column;
    std::vector<std::string> m_ids; ///< of the lines that stand
};

} // namespace vicegrip::app
