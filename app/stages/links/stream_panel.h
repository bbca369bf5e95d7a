#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;

namespace vicegrip::app {

class KeyButton;

/// How the ECU is heard: over which adapter, by which database, and what comes of it now.
class StreamPanel : public QWidget
{
    Q_OBJECT

  public:
    explicit StreamPanel(Desk& desk, QWidget* parent = nullptr);
    void refresh();
    void refreshStatus();
    [[nodiscard]] QWidget* first() const; ///< where the hand begins

  signals:
    void benchAsked();

  private:
    void build();
    void buildButtons();
    void fillLinks();
    void choose(int index);
    void show(const StreamProfile& profile);
    [[nodiscard]] std::optional<StreamProfile> typed();
    void chooseFile();
    void act(bool keep);
    [[nodiscard]] QString status() const;
    [[nodiscard]] QString health() const;
    void showRemarks();

    Desk& m_desk;
    QComboBox *m_link, *m_adapter, *m_rate;
    QLineEdit *m_file, *m_name;
    QLabel *m_status, *m_health, *m_remarks, *m_wrong;
    KeyButton *m_use, *m_try, *m_forget;
    Worked<std::vector<std::pair<QString, QString>>> m_adapters; ///< plugin and interface of each there is
    QString m_used; ///< by the job, when that was looked at last
    QString m_shown; ///< the link whose fields these are; empty: a new one
};

} // namespace vicegrip::app
