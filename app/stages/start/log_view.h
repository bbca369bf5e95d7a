#pragma once

#include "app/desk/worked.h"
#include "app/stages/start/log_rows.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QTimer;
class QVBoxLayout;

namespace vicegrip::app {

class BenchDrive;
class KeyButton;
class ListTable;
class LogPlot;
class TypedField;

/// What a log says of the sensors and the wiring it came through: findings with the rows that show them drawn beneath,
/// what a change did since an older log, and the pulls a tuner wants to see.
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

    void buildFiles(QVBoxLayout* column);
    TypedField* fileField(const QString& name, const char* objectName);
    void ask(const QString& file, const QString& before);
    void take(const Shown& shown);
    void fill();
    void showRow();
    void show(const QString& what, const QString& todo, const std::vector<size_t>& columns,
              std::vector<review::Stretch> stretches);
    void nextStretch();
    void goToCircuit();
    void savePulls();
    void driven(const QString& file, const QString& before);
    [[nodiscard]] const LogRow* row() const;
    [[nodiscard]] ChangeAsked asked() const;

    Desk& m_desk;
    std::shared_ptr<Reading> m_reading; ///< of the file that is read now
    Shown m_shown;
    QString m_file, m_before; ///< that were asked for
    std::vector<LogRow> m_rows;
    std::vector<review::Stretch> m_stretches; ///< of what is chosen
    size_t m_stretch = 0; ///< that is in view
    TypedField *m_log, *m_old;
    QComboBox *m_purpose, *m_column;
    QWidget* m_change; ///< what the change was for
    QLabel *m_title, *m_what, *m_where, *m_todo;
    ListTable* m_list;
    LogPlot* m_plot;
    BenchDrive* m_drive;
    KeyButton *m_open, *m_driveKey, *m_next, *m_circuit, *m_save;
    QTimer* m_progress;
    Worked<Shown> m_worked; ///< last: it waits for what is under way
};

} // namespace vicegrip::app
