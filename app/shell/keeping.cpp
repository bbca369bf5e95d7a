#include "app/shell/keeping.h"

#include "app/store/job_store.h"
#include "core/book/since.h"
#include "core/photos/photos.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QStandardPaths>

namespace vicegrip::app {

Keeping::Keeping(JobStore& store, Notices& notices, QWidget* window)
    : QObject(window), m_store(store), m_notices(notices), m_window(window)
{
    connect(&store, &JobStore::writtenElsewhere, this,
            [this] { sayTheirs(tr("Another program has written this job since it was read here.")); });
    connect(&store, &JobStore::goneFromDisk, this, [this] {
        say(tr("The job's file is gone from its folder: what is here is nowhere on disk."),
            {{tr("Save it again"), [this] { save(); }}, {tr("Save a copy"), [this] { askForCopy(); }}});
    });
    connect(&store, &JobStore::savedChanged, this, [this] { // what is kept now is not "not kept" any more
        if (m_store.isSaved() && !m_notKept.isEmpty() && m_notices.said() == m_notKept)
            m_notices.hide();
    });
}

void Keeping::say(const QString& sentence, const std::vector<Notices::Choice>& choices)
{
    m_notKept = sentence;
    m_notices.say(sentence, choices);
}

void Keeping::save()
{
    const auto saved = m_store.save();
    if (saved)
        return;
    const QString sentence = QString::fromStdString(saved.error().sentence);
    if (m_store.readOnlyReason().isEmpty() && m_store.changedElsewhere())
        sayTheirs(sentence);
    else
        sayNotKept(sentence);
}

/// Keep mine, take theirs, or mine beside theirs.
void Keeping::sayTheirs(const QString& sentence)
{
    say(sentence, {{tr("Save a copy"), [this] { askForCopy(); }},
                   {tr("Open theirs"), [this] { openTheirs(); }},
                   {tr("Write mine over it"), [this] {
                        if (const auto over = m_store.saveOver(); !over)
                            sayNotKept(QString::fromStdString(over.error().sentence));
                    }}});
}

/// What was changed here stays beside it and is offered, as after a crash.
void Keeping::openTheirs()
{
    if (mayLeave(tr("Open without it"), [this] { emit theirsAsked(); }))
        emit theirsAsked();
}

/// Beside the other documents, under the job's own name: Enter takes it.
void Keeping::askForCopy()
{
    const QDir folder(QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation));
    const QString name = QFileInfo(m_store.path()).completeBaseName();
    QString proposed = folder.filePath(name + QStringLiteral(".vicegrip"));
    for (int n = 2; QFile::exists(proposed); ++n)
        proposed = folder.filePath(tr("%1, copy %2.vicegrip").arg(name).arg(n));
    folder.mkpath(QStringLiteral("."));
    const QString path =
        QFileDialog::getSaveFileName(m_window, tr("Save a copy"), proposed, tr("Vicegrip jobs (*.vicegrip)"));
    if (!path.isEmpty())
        saveCopy(path.endsWith(QLatin1String(".vicegrip")) ? path : path + QStringLiteral(".vicegrip"));
}

void Keeping::saveCopy(const QString& path)
{
    const QString before = m_store.path();
    if (const auto saved = m_store.saveCopy(path); !saved) {
        sayNotKept(QString::fromStdString(saved.error().text()));
        return;
    }
    const std::string from = QFile::encodeName(before).toStdString(), to = QFile::encodeName(path).toStdString();
    if (const auto carried =
            photos::carry(*m_store.job(), from, to).and_then([&] { return book::carryKept(from, to); });
        !carried) {
        m_notices.say(tr("Saved as %1, but not all that lies beside it came along: %2")
                          .arg(QDir::toNativeSeparators(path), QString::fromStdString(carried.error().text())));
        emit copied();
        return;
    }
    m_notices.say(tr("Saved as %1, which is what is open now. %2 stays as it was saved last.")
                      .arg(QDir::toNativeSeparators(path), QDir::toNativeSeparators(before)));
    emit copied();
}

/// With the way to keep it.
void Keeping::sayNotKept(const QString& sentence)
{
    std::vector<Notices::Choice> choices = {{tr("Save a copy"), [this] { askForCopy(); }}};
    if (m_store.canTakeOver())
        choices.push_back({tr("Take it over"), [this] {
                               if (const auto taken = m_store.takeOver(); !taken)
                                   sayNotKept(QString::fromStdString(taken.error().sentence));
                               else
                                   m_notices.say(tr("The job is yours now: what you change is kept."));
                           }});
    say(sentence, choices);
}

/// What was changed and can be kept nowhere is not dropped in silence: he saves a copy, or says that he goes without.
bool Keeping::mayLeave(const QString& without, const std::function<void()>& leave)
{
    const auto kept = m_leaving ? Result<void>{} : m_store.keep();
    if (!kept)
        say(tr("What you changed is kept nowhere: %1").arg(QString::fromStdString(kept.error().sentence)),
            {{tr("Save a copy"), [this] { askForCopy(); }}, {without, [this, leave] {
                                                                 m_leaving = true;
                                                                 leave();
                                                                 m_leaving = false;
                                                             }}});
    return kept.has_value();
}

} // namespace vicegrip::app
