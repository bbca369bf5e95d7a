#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;

namespace vicegrip::app {

/// Which face and terminals a plug has: one of the library's that fit, one's own, and whether somebody has looked at
/// the part or it is only proposed.
class FaceChooser : public QWidget
{
    Q_OBJECT

  public:
    explicit FaceChooser(Desk& desk, QWidget* parent = nullptr);

    /// Null when there is no plug.
    void show(const job::Connector* connector);

  signals:
    void describeAsked(); ///< a connector of one's own

  private:
    void choose(int index);
    void confirm();
    void edit(const QString& description, const std::function<void(job::Connector&)>& change);

    Desk& m_desk;
    QLabel* m_name;
    QComboBox* m_layouts;
    QPushButton* m_confirm;
    std::string m_connector; ///< id
};

} // namespace vicegrip::app
