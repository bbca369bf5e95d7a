#include "app/look/look.h"
#include "app/shell/language.h"
#include "app/shell/main_window.h"
#include "app/shell/shots.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>
#include <QTimer>
#include <QTranslator>

#include <future>

int main(int argc, char** argv)
{
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("Vicegrip"));
    QApplication::setApplicationVersion(QStringLiteral(VICEGRIP_VERSION));
    QApplication::setDesktopFileName(QStringLiteral("vicegrip"));
    QApplication::setWindowIcon(QIcon::fromTheme(QStringLiteral("vicegrip")));

    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("Wires, proves and scales an engine-management installation."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("JOB"), QStringLiteral("A .vicegrip file"), QStringLiteral("[JOB]"));
    const QCommandLineOption bench(QStringLiteral("bench"), QStringLiteral("Connect to a simulated bench of the job"));
    const QCommandLineOption faults(QStringLiteral("faults"), QStringLiteral("Fault list for the bench"),
                                    QStringLiteral("FILE"));
    const QCommandLineOption night(QStringLiteral("night"), QStringLiteral("Start with the night colours"));
    const QCommandLineOption practice(QStringLiteral("practice"),
                                      QStringLiteral("Practise finding faults, on a copy of the job or of a demo job"));
    const QCommandLineOption shots(QStringLiteral("shots"),
                                   QStringLiteral("Take the pictures for the documentation, then end"),
                                   QStringLiteral("FOLDER"));
    const QCommandLineOption quitWhenUsable(QStringLiteral("quit-when-usable"),
                                            QStringLiteral("End once the first window has been drawn (for timing)"));
    parser.addOptions({bench, faults, night, practice, shots, quitWhenUsable});
    parser.process(app);

    QTranslator language; // before anything is said
    vicegrip::app::speakLanguage(language);
    // The job is read and analysed while typefaces are loaded and the window is built.
    const QString job = parser.positionalArguments().value(0);
    std::future<vicegrip::Result<vicegrip::app::OpenedJob>> reading;
    if (!job.isEmpty())
        reading = std::async(std::launch::async, [job] { return vicegrip::app::JobStore::read(job); });
    auto preferences = std::make_unique<vicegrip::app::Preferences>();
    vicegrip::app::look::setTextSize(preferences->now().textSize);
    vicegrip::app::look::apply(app, parser.isSet(night));
    if (preferences->night(vicegrip::app::look::desktopIsNight()) && !vicegrip::app::look::isNight())
        vicegrip::app::look::apply(app, true);
    vicegrip::app::MainWindow window(std::move(preferences));
    const bool opened = reading.valid() && window.openJob(reading.get());
    window.show();
    if (opened && parser.isSet(bench))
        window.desk().live.startBench(QApplication::applicationDirPath() + QStringLiteral("/vicegrip-bench"), job,
                                      parser.value(faults));
    if (parser.isSet(practice))
        window.showPractice();
    if (parser.isSet(shots))
        vicegrip::app::takeShots(window, parser.value(shots));
    if (parser.isSet(quitWhenUsable))
        QTimer::singleShot(0, &app, &QApplication::quit);
    return QApplication::exec();
}
