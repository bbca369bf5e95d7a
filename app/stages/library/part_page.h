#pragma once

#include "app/stages/stage_page.h"
#include "core/parts/describe.h"

#include <array>
#include <variant>

class QComboBox;
class QLabel;
class QListWidget;
class QPlainTextEdit;
class QTableWidget;

namespace vicegrip::app {

class KeyButton;

class ConnectorFace;

/// One's own sensor, ECU or connector, written in lines off its sheet and checked as it is typed; kept in the user's
/// library. A connector's face is drawn beside its lines.
class PartPage : public StagePage
{
    Q_OBJECT

  public:
    explicit PartPage(Desk& desk, QWidget* parent = nullptr);

    /// Starts on one kind; what was being written of it is still there.
    void describe(PartKind what);
    /// From a part of the library, by its id; what was written of that kind is replaced.
    void startFrom(const QString& id);
    /// Goes on with what is being written on a page that is taken away.
    void takeOver(const PartPage& before);
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
    void showSensor(const parts::Part& sensor);
    void showEcu(const parts::EcuProfile& profile);
    void showLayout(const parts::Layout& layout);
    void takeFaces(parts::EcuProfile& profile) const;
    void showRows(const QStringList& headers, const std::vector<QStringList>& rows);
    void goToLine(int line);
    void keep();

    PartKind m_what = PartKind::Sensor;
    std::array<QString, 3> m_texts; ///< by kind; of the one that is shown as it was when it was shown
    QLabel *m_title, *m_verdict;
    QComboBox* m_start;
    QPlainTextEdit* m_text;
    QListWidget* m_complaints;
    QTableWidget* m_understood;
    KeyButton *m_keep, *m_back;
    ConnectorFace* m_face;
    std::variant<std::monostate, parts::Part, parts::EcuProfile, parts::Layout> m_part; ///< once it makes sense
};

} // namespace vicegrip::app
