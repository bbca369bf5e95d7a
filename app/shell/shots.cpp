#include "app/shell/shots.h"

#include "app/shell/main_window.h"

#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QPixmap>
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
};

constexpr int kSettle_ms = 900; // links come up, samples arrive

void press(MainWindow& window, const char* name)
{
    if (auto* button = window.findChild<QAbstractButton*>(QLatin1String(name)))
        button->click();
}

/// On the page of own parts: from the part of the library whose name begins so.
void startFrom(MainWindow& window, const char* name)
{
    auto* start = window.findChild<QComboBox*>(QStringLiteral("part-start"));
    const int index = start->findText(QLatin1String(name), Qt::MatchStartsWith);
    start->setCurrentIndex(index);
    emit start->activated(index);
}

std::vector<Shot> shots(MainWindow& window)
{
    const auto go = [&window](const char* circuit, Stage stage) {
        window.desk().selection.setCircuit({circuit});
        window.showStage(stage);
    };
    return {
        {QString(), [] {}},
        {QString(), [] {}},
        {QStringLiteral("board"), [=] { go("clt", Stage::Board); }},
        {QStringLiteral("brief"), [=] { go("map", Stage::Brief); }},
        {QStringLiteral("brief-range"), [&window] { press(window, "go-section-range"); }},
        {QStringLiteral("brief-air"), [&window] { press(window, "go-section-air"); }},
        {QStringLiteral("brief-harness"), [&window] { press(window, "go-section-harness"); }},
        {QStringLiteral("brief-tuner"), [&window] { press(window, "go-section-questions"); }},
        {QStringLiteral("own-part"),
         [&window] {
             press(window, "describe-ecu");
             startFrom(window, "Small");
         }},
        {QStringLiteral("inputs"), [=] { go("clt", Stage::Inputs); }},
        {QStringLiteral("pins"), [=] { go("cam", Stage::Pins); }},
        {QStringLiteral("pins-mating"), [&window] { press(window, "flip"); }},
        {QStringLiteral("pins-wires"),
         [&window] {
             press(window, "flip");
             press(window, "pins-wires");
         }},
        {QStringLiteral("pins-order"), [&window] { press(window, "pins-order"); }},
        {QStringLiteral("own-connector"),
         [=, &window] {
             press(window, "describe-connector");
             startFrom(window, "80-way");
         }},
        {QStringLiteral("meter"), [=] { go("fp", Stage::Meter); }},
        {QString(),
         [=, &window] {
             go("clt", Stage::Scale);
             press(window, "send");
         }},
        {QStringLiteral("scale"), [] {}},
        {QStringLiteral("findings"), [&window] { press(window, "findings"); }},
        {QString(), [&window] { press(window, "findings"); }},
        {QStringLiteral("meter-battery-off"),
         [=, &window] {
             go("ot", Stage::Meter);
             window.desk().selection.setCondition(job::Condition::BatteryOff);
         }},
        {QString(), [&window] { window.desk().selection.setCondition(job::Condition::KeyOn); }},
        {QStringLiteral("scale-night"),
         [=, &window] {
             go("iat", Stage::Scale);
             window.setNight(true);
             press(window, "send");
         }},
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
    QTimer::singleShot(kSettle_ms, &window, [&window, all, at, folder] {
        const QString& name = (*all)[at].name;
        if (!name.isEmpty())
            window.grab().save(QDir(folder).filePath(name + QStringLiteral(".png")));
        step(window, all, at + 1, folder);
    });
}

} // namespace

void takeShots(MainWindow& window, const QString& folder)
{
    QDir().mkpath(folder);
    step(window, std::make_shared<std::vector<Shot>>(shots(window)), 0, folder);
}

} // namespace vicegrip::app
