#pragma once

#include <QWidget>

class QVBoxLayout;

namespace vicegrip::app {

class ChoiceButton;
class Jobs;

/// Before any job is open: the last ones, a new one, the demo jobs. Enter takes the first of the last ones, or begins.
class StartPage : public QWidget
{
    Q_OBJECT

  public:
    explicit StartPage(Jobs& jobs, QWidget* parent = nullptr);

    /// The last ones as they are now.
    void refresh();

  private:
    QWidget* column(const QString& heading, QVBoxLayout*& into);

    Jobs& m_jobs;
    QVBoxLayout* m_last = nullptr;
    ChoiceButton *m_first = nullptr, *m_begin = nullptr;
};

} // namespace vicegrip::app
