#include "bench/server.h"

#include <QCommandLineParser>
#include <QCoreApplication>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSocketNotifier>
#include <QTextStream>

#include <array>
#include <unistd.h>

/// Ends the bench when standard input closes: whoever started it is gone.
static void endWithParent(QCoreApplication& app)
{
    auto* input = new QSocketNotifier(STDIN_FILENO, QSocketNotifier::Read, &app);
    QObject::connect(input, &QSocketNotifier::activated, &app, [input] {
        std::array<char, 256> ignored{};
        if (read(STDIN_FILENO, ignored.data(), ignored.size()) > 0)
            return;
        input->setEnabled(false);
        QCoreApplication::quit();
    });
}

/// What is wrong with its files, for who started it: as JSON for a program, as a sentence for a person.
static void say(const QString& sentence)
{
    QTextStream(stdout)
        << QJsonDocument(QJsonObject{{QStringLiteral("trouble"), sentence}}).toJson(QJsonDocument::Compact) << Qt::endl;
    if (!sentence.isEmpty())
        QTextStream(stderr) << sentence << Qt::endl;
}

int main(int argc, char** argv)
{
    QCoreApplication app(argc, argv);
    QCoreApplication::setApplicationName(QStringLiteral("vicegrip-bench"));
    QCoreApplication::setApplicationVersion(QStringLiteral(VICEGRIP_VERSION));
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("Simulates the car of a job, its ECU and a multimeter. "
                                                    "Says on standard output where it listens and what lets in, "
                                                    "and ends when standard input closes."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("JOB"), QStringLiteral("A .vicegrip file; read again when it changes"));
    const QCommandLineOption faults(QStringLiteral("faults"),
                                    QStringLiteral("A fault list; read again when it changes"), QStringLiteral("FILE"));
    parser.addOption(faults);
    parser.process(app);
    if (parser.positionalArguments().size() != 1)
        parser.showHelp(2);

    vicegrip::bench::Server server(parser.positionalArguments().constFirst().toStdString(),
                                   parser.value(faults).toStdString());
    QObject::connect(&server, &vicegrip::bench::Server::troubled, say);
    if (const auto started = server.start(); !started) {
        say(QString::fromStdString(started.error().text()));
        return 3;
    }
    endWithParent(app);
    QTextStream(stdout) << server.announcement() << Qt::endl;
    return QCoreApplication::exec();
}
