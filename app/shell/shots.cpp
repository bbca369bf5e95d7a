#include "app/shell/shots.h"

#include "app/shell/main_window.h"
#include "app/shell/notices.h"
#include "app/stages/scale/stroke_view.h"
#include "core/base/shipped.h"

#include <QAbstractButton>
#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QLineEdit>
#include <QPixmap>
#include <QPushButton>
#include <QTableWidget>
#include <QTimer>

#include <functional>
#include <memory>
#include <vector>

namespace vicegrip::app {
namespace {

using analysis::Stage;

struct Shot
{
    QString name; ///< empty: only a step on the way
    std::function<void()> arrange;
    std::function<void(const QString& file)> save = {}; ///< none: the window is grabbed
};

constexpr int kShotSettles_ms = 900; // links come up, samples arrive

void press(MainWindow& window, const char* name)
{
    if (auto* button = window.findChild<QAbstractButton*>(QLatin1String(name)))
        button->click();
}

void trigger(MainWindow& window, const QKeySequence& key)
{
    for (QAction* a : window.actions())
        if (a->shortcut() == key)
            a->trigger();
}

/// A file of the shipped folder, entered by its name: no path is in a picture.
void enterFile(MainWindow& window, const char* field, const char* folder, const char* name)
{
    QDir::setCurrent(QString::fromStdString((shippedFolder() / folder).string()));
    auto* file = window.findChild<QLineEdit*>(QLatin1String(field));
    file->setFocus();
    file->setText(QLatin1String(name));
    file->setModified(true);
    emit file->editingFinished();
}

std::vector<Shot> shots(MainWindow& window)
{
    const auto go = [&window](const char* circuit, Stage stage) {
        window.desk().selection.setCircuit({circuit});
        window.showStage(stage);
    };
    const auto dismiss = [&window] {
        for (QPushButton* b : window.notices().findChildren<QPushButton*>())
            if (b->text() == Notices::tr("Dismiss"))
                b->click();
    };
    return {
        {QString(), [] {}},
        {QString(), [] {}},
        {QStringLiteral("start"), [] {},
         [](const QString& file) { // another window, before any job is open in it
             MainWindow first;
             first.resize(1280, 800);
             first.show();
             QApplication::processEvents(); // it is laid out
             first.grab().save(file);
         }},
        {QStringLiteral("board"), [=] { go("clt", Stage::Board); }},
        {QStringLiteral("brief"), [=] { go("map", Stage::Brief); }},
        {QStringLiteral("inputs"), [=] { go("inj2", Stage::Inputs); }},
        {QStringLiteral("pins"), [=] { go("cam", Stage::Pins); }},
        {QStringLiteral("pins-harness"), [&window] { press(window, "pins-harness"); }},
        {QStringLiteral("meter"), [=] { go("fp", Stage::Meter); }},
        {QString(),
         [=, &window] {
             go("clt", Stage::Scale);
             auto* breakpoints = window.findChild<QComboBox*>(QStringLiteral("breakpoints"));
             breakpoints->setCurrentIndex(static_cast<int>(job::Breakpoints::Best));
             emit breakpoints->activated(breakpoints->currentIndex());
         }},
        {QString(), [=, &window] { press(window, "send"); }},
        {QStringLiteral("scale"), [] {}},
        {QStringLiteral("scale-budget"), [&window] { press(window, "scale-budget"); }},
        {QString(), [=] { go("crank", Stage::Trigger); }},
        {QString(),
         [&window] {
             press(window, "trigger-capture");
             enterFile(window, "capture-file", "captures", "crank-coil.wav");
         }},
        {QStringLiteral("trigger"), [] {}},
        {QString(), [=] { go("clt", Stage::Start); }},
        {QStringLiteral("run-sheet"),
         [&window] {
             if (auto* lines = window.findChild<QTableWidget*>(QStringLiteral("sheet-lines")))
                 lines->setCurrentCell(12, 1); // the battery, before any power
         }},
        {QString(),
         [&window] {
             press(window, "start-logs");
             enterFile(window, "log-file", "logs", "petrel-before.csv");
         }},
        {QStringLiteral("log-review"), [] {}},
        {QStringLiteral("handover"), [=] { go("clt", Stage::Handover); }},
        {QStringLiteral("handover-diagram"), [&window] { press(window, "handover-diagram"); }},
        {QString(), [&window] { trigger(window, QKeySequence(Qt::Key_F4)); }},
        {QString(), [&window] { trigger(window, QKeySequence(Qt::Key_F5)); }},
        {QString(), [] {}},
        {QString(), [] {}},
        {QString(), [&window] { trigger(window, QKeySequence(Qt::Key_F4)); }},
        {QString(), dismiss}, // what it says has a path in it
        {QStringLiteral("scale-throttle-night"),
         [=, &window] {
             go("tps", Stage::Scale);
             window.setNight(true);
             press(window, "scale-strokes");
             window.findChild<StrokeView*>()->readFile(
                 QString::fromStdString((shippedFolder() / "recordings/throttle-worn.csv").string()));
         }},
        {QString(),
         [&window] {
             window.setNight(false);
             trigger(window, QKeySequence(Qt::CTRL | Qt::Key_L));
             window.findChild<QLineEdit*>(QStringLiteral("recording-file"))
                 ->setText(window.desk().live.recorder().file());
         }},
        {QString(), [&window] { press(window, "recording-play"); }},
        {QString(), dismiss},
        {QStringLiteral("links"), [] {}},
        {QString(),
         [=, &window] { // the van: its job lies beside the first one
             window.setNight(false);
             window.desk().live.endReplay();
             const QDir folder = QFileInfo(window.desk().store.path()).dir();
             window.openJob(folder.filePath(QStringLiteral("curlew.vicegrip")));
         }},
        {QStringLiteral("scale-flex"),
         [=, &window] {
             go("flex", Stage::Scale);
             press(window, "scale-fuel");
             for (const auto& [field, typed] : {std::pair("flex-hz", "58.8"),
                                                {"flex-pulse", "2.6"},
                                                {"tank-flow", "70"},
                                                {"fill-in", "22 l E9"},
                                                {"fill-add", "28 l E62"}}) {
                 auto* edit = window.findChild<QLineEdit*>(QLatin1String(field));
                 edit->setFocus();
                 edit->setText(QLatin1String(typed));
                 edit->setModified(true);
                 emit edit->editingFinished();
             }
         }},
        {QString(),
         [&window] { // a round on the van: read twice, then given up
             window.setRoundSeed(4);
             window.beginRound(practice::Level::One);
         }},
        {QString(), [] {}},
        {QString(), [&window] { press(window, "take"); }},
        {QString(), [&window] { press(window, "next-place"); }},
        {QString(), [&window] { press(window, "take"); }},
        {QString(), [&window] { press(window, "take"); }},
        {QString(), [&window] { press(window, "practice-give-up"); }},
        {QStringLiteral("practice"), [] {}},
    };
}

void step(MainWindow& window, const std::shared_ptr<std::vector<Shot>>& all, size_t at, const QString& folder)
{
    if (at == all->size()) {
        window.close();
        QApplication::quit();
        return;
    }
    const Shot& shot = (*all)[at];
    shot.arrange();
    QTimer::singleShot(kShotSettles_ms, &window, [&window, all, at, folder] {
        const auto& [name, arranged, save] = (*all)[at];
        const QString file = QDir(folder).filePath(name + QStringLiteral(".png"));
        if (save)
            save(file);
        else if (!name.isEmpty())
            window.grab().save(file);
        step(window, all, at + 1, folder);
    });
}

} // namespace

void takeShots(MainWindow& window, const QString& folder)
{
    QDir().mkpath(folder);
    window.resize(1280, 800); // whatever the desk is
    step(window, std::make_shared<std::vector<Shot>>(shots(window)), 0, folder);
}

} // namespace vicegrip::app
