#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QButtonGroup;
class QLabel;
class QPushButton;

/// The band along the top: the job and whether it is saved, the car's condition, the links, findings, the finder.
namespace vicegrip::app {

class Header : public QWidget
{
    Q_OBJECT

  public:
    explicit Header(Desk& desk, QWidget* parent = nullptr);
    void refresh();
    /// What the links say alone: it may change many times a second.
    void refreshChips();

    /// Where the job's menu opens, in the window's coordinates.
    [[nodiscard]] QPoint menuPlace() const;

  signals:
    void menuAsked();
    void linksAsked();
    void findingsAsked();
    void finderAsked();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void restyle();
    void fit();

    Desk& m_desk;
    QLabel *m_title, *m_saved;
    QButtonGroup* m_condition;
    QPushButton *m_job, *m_ecu, *m_meter, *m_findings, *m_finder;
};

} // namespace vicegrip::app
