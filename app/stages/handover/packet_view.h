#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/book/content.h"

#include <QWidget>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;

/// The tuner's packet: what may be trusted how far, as it will read there, the logs that go with it, and the packet as
/// a zip or a folder beside the job.
class PacketView : public QWidget
{
    Q_OBJECT

  public:
    explicit PacketView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    struct Written
    {
        QString file, trouble;
    };
    void write(bool zip);
    void showLogs();
    void showAtWork(bool isAtWork);
    void say(const QString& sentence, bool bad);

    Desk& m_desk;
    ListTable* m_trust;
    QLabel *m_logs, *m_said;
    KeyButton *m_zip, *m_folder, *m_add, *m_none;
    QStringList m_chosen; ///< logs, by path
    std::shared_ptr<const analysis::Analysis> m_of; ///< what the table is of
    Worked<std::vector<book::Block>> m_work;
    Worked<Written> m_writing;
};

} // namespace vicegrip::app
