#pragma once

#include "app/stages/stage_page.h"
#include "core/parts/describe.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPlainTextEdit;
class QTableWidget;

namespace vicegrip::app {

class KeyButton;

/// One's own sensor or ECU, written in lines off its sheet and checked as it is typed; kept in the user's library.
class PartPage : public StagePage
{
    Q_OBJECT

  public:
    enum class What { Sensor, Ecu };

    explicit PartPage(Desk& desk, QWidget* parent = nullptr);

    /// Starts on one or the other; what was being written of it is still there.
    void describe(What what);
    void refresh() override {}
    [[nodiscard]] bool wantsList() const override { return false; }

  signals:
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void offerStarts();
    void startFrom(int index);
    void check();
    void showComplaints(const std::vector<parts::LineComplaint>& complaints);
    void showSensor(const parts::Sensor& sensor);
    void showEcu(const parts::EcuProfile& profile);
    void showRows(const QStringList& headers, const std::vector<QStringList>& rows);
    void goToLine(int line);
    void keep();

    What m_what = What::Sensor;
    QString m_other; ///< the text of the one that is not shown
    QLabel *m_title, *m_verdict;
    QComboBox* m_start;
    QPlainTextEdit* m_text;
    QListWidget* m_complaints;
    QTableWidget* m_understood;
    KeyButton *m_keep, *m_back;
    std::optional<parts::Sensor> m_sensor;
    std::optional<parts::EcuProfile> m_ecu;
};

} // namespace vicegrip::app
