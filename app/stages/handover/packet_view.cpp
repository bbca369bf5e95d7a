#include "app/stages/handover/packet_view.h"

#include "app/store/whole_file.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/book/since.h"
#include "core/packet/answers.h"
#include "core/packet/folder.h"
#include "core/packet/zip.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

namespace vicegrip::app {

PacketView::PacketView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_trust(new ListTable("packet-trust", tr("What the tuner may trust how far"),
                            {{tr("Value"), 140, false},
                             {tr("Trust it"), 0, false},
                             {tr("At worst off by"), 200, true},
                             {tr("That is"), 150, true}})),
      m_logs(label({}, look::Size::Body)),
      m_said(label({}, look::Size::Body)),
      m_zip(KeyButton::bound(this, "packet-zip", {}, Qt::Key_Z, true)),
      m_folder(KeyButton::bound(this, "packet-folder", tr("As a folder"), Qt::Key_F, false)),
      m_add(KeyButton::bound(this, "packet-add", tr("Add logs"), Qt::Key_O, false)),
      m_none(KeyButton::bound(this, "packet-none", tr("Remove the logs"), Qt::Key_X, false)),
      m_work([this](const std::vector<book::Block>& blocks) {
          std::vector<QStringList> rows;
          for (const book::Block& block : blocks)
              if (const auto* table = std::get_if<book::Table>(&block))
                  for (const auto& row : table->rows) {
                      rows.emplace_back();
                      for (const std::string& cell : row)
                          rows.back() += text(cell);
                  }
          m_trust->fill(rows);
      }),
      m_writing([this](const Written& w) {
          say(w.trouble.isEmpty()
                  ? tr("%1 is written, beside the job. It opens with start.html.").arg(QDir::toNativeSeparators(w.file))
                  : w.trouble,
              !w.trouble.isEmpty());
          showAtWork(false);
      })
{
    m_logs->setObjectName(QStringLiteral("packet-logs"));
    m_said->setObjectName(QStringLiteral("packet-said"));
    m_trust->growRows();
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    for (KeyButton* key : {m_zip, m_folder, m_add, m_none})
        keys->addWidget(key);
    keys->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(label(tr("For the person who tunes the car, without Vicegrip: what to trust how far, twelve "
                               "questions answered, tables, errors and what they do to the mixture, a page for each "
                               "sensor, logs, the book and the job. The least to be trusted stands first."),
                            look::Size::Small, false, true));
    column->addWidget(m_trust, 1);
    column->addWidget(m_logs);
    column->addWidget(m_said);
    column->addLayout(keys);
    connect(m_zip, &KeyButton::clicked, this, [this] { m_writing.isAtWork() ? m_writing.stop() : write(true); });
    connect(m_folder, &KeyButton::clicked, this, [this] { write(false); });
    connect(m_add, &KeyButton::clicked, this, [this] {
        m_chosen +=
            QFileDialog::getOpenFileNames(this, tr("Logs for the tuner"), QFileInfo(m_desk.store.path()).path());
        m_chosen.removeDuplicates();
        showLogs();
    });
    connect(m_none, &KeyButton::clicked, this, [this] {
        m_chosen.clear();
        showLogs();
    });
    handFocus(this, m_trust);
    showLogs();
    showAtWork(false);
}

void PacketView::showAtWork(bool isAtWork)
{
    m_zip->setText(isAtWork ? tr("Stop") : tr("Write the packet as a zip"));
    m_folder->setEnabled(!isAtWork);
}

void PacketView::showLogs()
{
    QStringList names;
    for (const QString& file : m_chosen)
        names += QFileInfo(file).fileName();
    m_logs->setText(names.isEmpty() ? tr("No logs go with it.")
                                    : tr("Logs that go with it: %1").arg(names.join(QLatin1String(", "))));
    m_none->setEnabled(!names.isEmpty());
}

void PacketView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().ink);
}

void PacketView::refresh()
{
    if (m_of != m_desk.store.analysis()) {
        m_of = m_desk.store.analysis();
        m_work.ask(
            [of = m_of](const std::stop_token& stop) { return packet::trustOf(*of, packet::pricedOf(*of, stop)); });
    }
    if (m_said->text().isEmpty())
        say(m_desk.store.path().isEmpty() ? tr("Save the job first: the packet is written beside it.")
                                          : tr("It is written beside the job, in place of the packet that is there."),
            false);
}

void PacketView::write(bool zip)
{
    const QFileInfo job(m_desk.store.path());
    if (m_desk.store.path().isEmpty()) {
        say(tr("Save the job first: the packet is written beside it."), true);
        return;
    }
    showAtWork(true);
    say(tr("Writing the packet …"), false);
    const QString file =
        job.dir().filePath(job.completeBaseName() + (zip ? QStringLiteral("-packet.zip") : QStringLiteral("-packet")));
    std::vector<std::filesystem::path> logs;
    for (const QString& log : m_chosen)
        logs.emplace_back(QFile::encodeName(log).toStdString());
    m_writing.ask([analysis = m_desk.store.analysis(), habits = m_desk.preferences.now().habits,
                   path = QFile::encodeName(m_desk.store.path()).toStdString(), logs, zip,
                   file](const std::stop_token& stop) -> Written {
        const auto read = packet::readLogs(logs);
        if (!read)
            return {file, text(read.error().text())};
        const auto made = packet::packetOf(
            *analysis, {habits, photos::albumOf(*analysis->job, path), book::lastBookOf(*analysis->job, path), stop},
            *read);
        if (stop.stop_requested())
            return {file, tr("Stopped: nothing was written. The packet that was there is as it was.")};
        if (!made)
            return {file, text(made.error().text())};
        if (!zip) {
            const auto written = packet::writeFolder(*made, QFile::encodeName(file).toStdString());
            return {file, written ? QString() : text(written.error().text())};
        }
        const auto bytes = packet::zipOf(*made);
        if (!bytes)
            return {file, text(bytes.error().text())};
        const auto written = writeWhole(file, QByteArray::fromStdString(*bytes));
        return {file, written ? QString() : text(written.error().text())};
    });
}

} // namespace vicegrip::app
