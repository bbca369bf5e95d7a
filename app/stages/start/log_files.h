#pragma once

#include "app/desk/desk.h"
#include "app/stages/start/reviewed_log.h"

#include <QWidget>

class QComboBox;
class QVBoxLayout;

namespace vicegrip::app {

class BenchDrive;
class KeyButton;
class TypedField;

/// Which log is looked at, which older one beside it, and what the change between them was for. The bench's car is
/// driven from here, too.
class LogFiles : public QWidget
{
    Q_OBJECT

  public:
    explicit LogFiles(Desk& desk, QWidget* parent = nullptr);
    void refreshLive();

    [[nodiscard]] const QString& file() const { return m_file; } ///< empty: none
    [[nodiscard]] const QString& before() const { return m_before; }
    [[nodiscard]] ChangeAsked asked() const;

    /// Beside the field: why it cannot be read, or compared.
    void refuseFile(const QString& sentence);
    void refuseBefore(const QString& sentence);
    /// The columns that a change may be of.
    void offer(const log::Log& log);
    void showChange(bool isOne);

  signals:
    void chosen();
    void driving(int percent);
    void notDriven(const QString& why);

  private:
    void buildChange(QVBoxLayout* column);
    void choose(const QString& file, const QString& before);
    void openOne();

    Desk& m_desk;
    QString m_file, m_before;
    TypedField *m_log, *m_old;
    KeyButton* m_driveKey;
    BenchDrive* m_drive;
    QWidget* m_change;
    QComboBox *m_purpose = nullptr, *m_column = nullptr;
};

} // namespace vicegrip::app
