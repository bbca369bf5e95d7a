#include "app/store/job_store.h"

#include <QCoreApplication>

#include <charconv>
#include <cstdio>
#include <cstring>
#include <string>

/// Edits and saves a job as a window does, as fast as it can, and says what it has recorded; or looks what is left.
///
///     attacked_editor JOB FROM [TIMES]   edits numbered above FROM, until it is killed or TIMES are done
///     attacked_editor --look JOB         the numbers in the job and in what is offered; all of it is taken and saved
namespace vicegrip {
namespace {

constexpr const char* kMark = "edit ";

int numberIn(const job::Job& job)
{
    const std::string& title = job.title;
    int number = 0;
    if (title.starts_with(kMark))
        std::from_chars(title.data() + std::strlen(kMark), title.data() + title.size(), number);
    return number;
}

void say(const char* what, int number)
{
    std::printf("%s %d\n", what, number);
    std::fflush(stdout);
}

int look(const QString& path)
{
    app::JobStore store;
    if (const auto opened = store.open(path); !opened) {
        std::fprintf(stderr, "%s\n", opened.error().text().c_str());
        return 1;
    }
    if (!store.readOnlyReason().isEmpty()) {
        std::fprintf(stderr, "%s\n", store.readOnlyReason().toUtf8().constData());
        return 2;
    }
    std::printf("%d\n", numberIn(*store.job()));
    int best = numberIn(*store.job());
    job::Job latest = *store.job();
    while (store.hasRecovery()) {
        store.takeRecovery();
        std::printf("%d\n", numberIn(*store.job()));
        if (numberIn(*store.job()) > best) {
            best = numberIn(*store.job());
            latest = *store.job();
        }
    }
    const auto kept = store.edit(QStringLiteral("The latest"), [&](job::Job& job) { job = latest; });
    return kept && store.save() ? 0 : 3;
}

/// Without a folder to write to it goes on and says nothing.
int edit(const QString& path, int from, int times)
{
    app::JobStore store;
    if (!store.open(path) || !store.readOnlyReason().isEmpty())
        return 0; // it was told why
    while (store.hasRecovery())
        store.takeRecovery();
    for (int n = from + 1; n <= from + times; ++n) {
        if (!store.edit(QStringLiteral("Edit"), [&](job::Job& job) { job.title = kMark + std::to_string(n); }))
            return 4;
        if (store.keep())
            say("kept", n);
        if (n % 3 == 0 && store.save())
            say("saved", n);
    }
    return 0;
}

} // namespace
} // namespace vicegrip

int main(int argc, char** argv)
{
    QCoreApplication app(argc, argv);
    const QStringList arguments = QCoreApplication::arguments();
    if (arguments.size() == 3 && arguments[1] == QLatin1String("--look"))
        return vicegrip::look(arguments[2]);
    if (arguments.size() < 3)
        return 2;
    constexpr int kForever = 1 << 20;
    return vicegrip::edit(arguments[1], arguments[2].toInt(), arguments.value(3, QString::number(kForever)).toInt());
}
