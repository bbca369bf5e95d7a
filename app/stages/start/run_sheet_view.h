#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/run_sheet/run_sheet.h"

#include <QTimer>
#include <QWidget>

#include <memory>

class QLabel;

namespace vicegrip::app {

class LineCard;
class ListTable;

/// May it be powered, cranked, run? The run sheet of this job, a line in hand at a time. What the ECU reports
/// passes a line by itself once it has been steady within its window; eyes and a meter pass the others.
class RunSheetView : public QWidget
{
    Q_OBJECT

  public:
    explicit RunSheetView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  signals:
    void goTo(vicegrip::analysis::Stage stage);

  private:
    using SheetPtr = std::shared_ptr<const run_sheet::Sheet>;
    struct Made
    {
        AnalysisPtr of;
        SheetPtr sheet;
    };

    void take(const Made& made);
    void fill();
    void choose(const QString& id);
    void showLine();
    void goOn();
    void pass(const run_sheet::Seen& seen);
    void takeReading();
    void askProgram();
    void hearProgram(const std::optional<job::Reading>& reading);
    [[nodiscard]] bool isOfProgram() const; ///< the line in hand wants what the bench's program shows
    [[nodiscard]] bool isOpen(size_t line) const;
    void findFault();
    [[nodiscard]] std::optional<size_t> line() const; ///< that is in hand, in today's sheet
    [[nodiscard]] std::optional<job::Reading> heard() const;
    [[nodiscard]] bool isOfNow() const;
    [[nodiscard]] bool isSteady(const job::Reading& reading);

    Desk& m_desk;
    SheetPtr m_sheet;
    AnalysisPtr m_of; ///< what it was made of
    QString m_id; ///< of the line in hand
    std::vector<std::optional<size_t>> m_rows; ///< of the list: a line, or a heading
    int m_steady = 0; ///< readings of the line that were within its window, one after the other
    std::optional<job::Reading> m_program; ///< what the unit's program shows now
    bool m_follows = true; ///< the next line comes into hand when this one has passed
    ListTable* m_list;
    LineCard* m_card;
    QLabel* m_summary;
    QTimer m_ask; ///< for what the program shows
    Worked<Made> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
