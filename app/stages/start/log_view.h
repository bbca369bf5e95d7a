#pragma once

#include "app/desk/worked.h"
#include "app/stages/start/log_rows.h"

#include <QWidget>

class QLabel;
class QStackedWidget;
class QTimer;

namespace vicegrip::app {

class ColumnList;
class KeyButton;
class ListTable;
class LogFiles;
class LogPlot;
class TypedField;

/// What a log says of the sensors and the wiring it came through: findings with the rows that show them drawn beneath,
/// what a change did since an older log, the pulls a tuner wants to see, and places that somebody marked.
class LogView : public QWidget
{
    Q_OBJECT

  public:
    explicit LogView(Desk& desk, QWidget* parent = nullptr);
    ~LogView() override;
    void refresh();
    void refreshLive();

  signals:
    void goTo(vicegrip::analysis::Stage stage);
    void notice(const QString& sentence);

  private:
    using Shown = std::shared_ptr<const ReviewedLog>;

    QLayout* buildTitle();
    QWidget* buildDrawn();
    void connectFiles();
    void ask();
    void take(const Shown& shown);
    void fill();
    void showRow();
    void showColumns();
    void showColumn();
    void show(const QString& what, const QString& todo, const std::vector<size_t>& columns,
              std::vector<review::Stretch> stretches);
    void nextStretch();
    void goToCircuit();
    void savePulls();
    void keep();
    void showKept();
    void mark(const QString& words);
    void removeMark();
    [[nodiscard]] const LogRow* row() const;

    Desk& m_desk;
    std::shared_ptr<Reading> m_reading; ///< of the file that is read now
    Shown m_shown;
    std::vector<LogRow> m_rows;
    std::vector<review::Stretch> m_stretches; ///< of what is chosen
    size_t m_stretch = 0; ///< that is in view
    LogFiles* m_files;
    QLabel *m_title, *m_what, *m_where, *m_todo;
    ListTable* m_list;
    ColumnList* m_columns;
    QStackedWidget* m_left; ///< what the log says, or its columns
    LogPlot* m_plot;
    KeyButton *m_next, *m_circuit, *m_save, *m_unmark, *m_columnsKey, *m_keep;
    TypedField* m_mark;
    QTimer* m_progress;
    Worked<Shown> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
