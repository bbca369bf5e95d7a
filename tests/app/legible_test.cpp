#include "app/look/look.h"
#include "app/stages/board/board_model.h"
#include "tests/support/clipped.h"
#include "tests/support/new_user.h"
#include "tests/support/scale.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QScrollArea>
#include <gmock/gmock.h>

/// What a person must be able to read and a screen reader must be able to say, on every stage: in a small window, in
/// the design's, by day and by night.
namespace vicegrip {
namespace {

using analysis::Stage;

/// What takes the keyboard has a name to be spoken.
void expectNamed(test::Window& w, const std::string& where)
{
    for (const QWidget* each : test::shown<QWidget>(w.window)) {
        const bool takesKeys = (each->focusPolicy() & Qt::TabFocus) != 0 && each->focusProxy() == nullptr;
        const auto* button = qobject_cast<const QAbstractButton*>(each);
        const bool inner = qobject_cast<const QAbstractScrollArea*>(each->parentWidget()) != nullptr ||
                           qobject_cast<const QScrollArea*>(each) != nullptr;
        if (!takesKeys || inner)
            continue;
        EXPECT_TRUE(!each->accessibleName().isEmpty() || (button != nullptr && !button->text().isEmpty()))
            << where << ": " << test::named(each);
    }
}

struct Dress
{
    QSize size;
    bool night = false;
    int text = 100; ///< percent
};

class Legible : public testing::TestWithParam<Dress>
{
  public:
    ~Legible() override
    {
        app::look::setTextSize(100);
        app::look::apply(*qApp, false);
    }

    /// Puts the window into it.
    static void dress(test::Window& w)
    {
        const Dress& dress = GetParam();
        w.window.resize(dress.size / w.window.devicePixelRatioF()); // the whole is run at other scales of the desk too
        app::Preferred preferred = w.window.desk().preferences.now();
        preferred.paper = dress.night ? app::Paper::Night : app::Paper::Day;
        preferred.textSize = dress.text;
        w.window.desk().preferences.set(preferred);
        w.settle();
    }

    [[nodiscard]] static std::string dressed()
    {
        const Dress& dress = GetParam();
        return std::to_string(dress.size.width()) + (dress.night ? ", night" : "") + ", " + std::to_string(dress.text) +
               " %";
    }

  private:
    test::NewUser m_user;
};

TEST_P(Legible, EveryStageCanBeReadAndSpoken)
{
    test::Window w;
    dress(w);
    for (int stage = 0; stage < analysis::kStageCount; ++stage)
        for (const char* circuit : {"map", "clt", "cam"}) {
            w.choose(circuit);
            w.window.showStage(static_cast<Stage>(stage));
            w.settle();
            QCoreApplication::processEvents();
            const std::string where =
                std::string(analysis::stageName(static_cast<Stage>(stage))) + ", " + circuit + " at " + dressed();
            test::expectNothingClipped(w, where);
            expectNamed(w, where);
        }
}

/// Their numbers are longer.
TEST_P(Legible, InUsUnitsToo)
{
    test::Window w;
    dress(w);
    const app::Preferred before = w.window.desk().preferences.now();
    app::Preferred us = before;
    us.shown.system = units::System::US;
    w.window.desk().preferences.set(us);
    for (const Stage stage : {Stage::Board, Stage::Brief, Stage::Inputs, Stage::Pins, Stage::Meter, Stage::Scale})
        for (const char* circuit : {"map", "clt", "fp"}) {
            w.choose(circuit);
            w.window.showStage(stage);
            w.settle();
            test::expectNothingClipped(w, "US, " + std::string(analysis::stageName(stage)) + ", " + circuit + " at " +
                                              dressed());
        }
    w.window.desk().preferences.set(before);
}

/// A reading on the Board ends with what says it is wrong: the longest there is has room.
TEST_P(Legible, TheBoardCutsNoReading)
{
    test::Window w;
    dress(w);
    w.window.showStage(Stage::Board);
    w.settle();
    using app::look::operator""_px;
    const int kAround = 12_px;
    const QFontMetrics letters(app::look::numbers(app::look::Size::Small));
    EXPECT_GE(w.find<QTableView>("board")->columnWidth(app::BoardModel::Value),
              letters.horizontalAdvance(QStringLiteral("12.34 bar gauge ✗")) + kAround);
}

TEST_P(Legible, ThePinsViewsAndOwnPartsToo)
{
    test::Window w;
    dress(w);
    w.window.showStage(Stage::Pins);
    for (const char* view : {"pins-remap", "pins-wires", "pins-harness", "pins-buy", "pins-order", "pins-plug"}) {
        w.click(view);
        w.settle();
        test::expectNothingClipped(w, view);
        expectNamed(w, view);
    }
    w.choose("crank");
    w.window.showStage(Stage::Trigger);
    for (const char* view : {"trigger-gap", "trigger-capture", "trigger-light", "trigger-mount", "trigger-hand"}) {
        w.click(view);
        w.settle();
        test::expectNothingClipped(w, view);
        expectNamed(w, view);
    }
    w.click("hand-loose");
    w.settle();
    test::expectNothingClipped(w, "trigger-hand, loose");
    w.window.showStage(Stage::Start);
    w.click("start-logs");
    for (const char* field : {"log-file", "log-before"}) {
        w.type(w.find<QLineEdit>(field), VICEGRIP_SOURCE_DIR "/data/logs/petrel-before.csv");
        w.settle();
        test::expectNothingClipped(w, field);
        expectNamed(w, field);
    }
    w.click("log-columns-key");
    w.settle();
    test::expectNothingClipped(w, "log-columns");
    expectNamed(w, "log-columns");
    w.window.showStage(Stage::Pins);
    for (const auto& [view, list] : {std::pair("pins-wires", "paste-list"), {"pins-remap", "remap-write"}}) {
        w.click(view);
        w.click(list);
        QCoreApplication::processEvents();
        test::expectNothingClipped(w, list);
        expectNamed(w, list);
    }
    w.click("pins-plug");
    for (const char* part : {"describe-connector", "describe-ecu", "describe-sensor"}) {
        w.window.showStage(std::string_view(part) == "describe-connector" ? Stage::Pins : Stage::Brief);
        w.settle();
        w.click(part);
        QCoreApplication::processEvents();
        test::expectNothingClipped(w, part);
        expectNamed(w, part);
    }
}

TEST_P(Legible, TheLinksToo)
{
    test::Window w;
    dress(w);
    w.key(Qt::Key_L, Qt::ControlModifier);
    w.settle();
    test::expectNothingClipped(w, "links");
    expectNamed(w, "links");
    w.click("view-units");
    w.settle();
    test::expectNothingClipped(w, "units");
    expectNamed(w, "units");
}

TEST_P(Legible, TheScaleViewsToo)
{
    test::Window w;
    dress(w);
    w.window.showStage(Stage::Scale);
    for (const auto& [circuit, view] : {std::pair("map", "scale-readings"),
                                        {"map", "scale-budget"},
                                        {"tps", "scale-strokes"},
                                        {"clt", "scale-table"}}) {
        w.choose(circuit);
        w.click(view);
        w.settle();
        test::expectNothingClipped(w, view);
        expectNamed(w, view);
    }
    w.click("compare");
    QCoreApplication::processEvents();
    test::expectNothingClipped(w, "compare");
    expectNamed(w, "compare");
    w.click("compare");
    w.choose("map");
    w.click("scale-readings");
    w.click("paste-readings");
    QCoreApplication::processEvents();
    test::expectNothingClipped(w, "paste-readings");
    expectNamed(w, "paste-readings");
    for (const auto& [part, input, view] :
         {std::tuple("hall-speed", "DG3", "scale-speed"), {"egt-0-5v", "AN10", "scale-probe"}}) {
        w.choose(test::addSensor(w, part, input).value.c_str());
        w.click(view);
        w.settle();
        test::expectNothingClipped(w, view);
        expectNamed(w, view);
    }
    test::openCurlew(w);
    w.choose("flex");
    w.click("scale-fuel");
    w.settle();
    test::expectNothingClipped(w, "scale-fuel");
    expectNamed(w, "scale-fuel");
    w.choose("clutch");
    w.click("scale-switch");
    w.settle();
    test::expectNothingClipped(w, "scale-switch");
    expectNamed(w, "scale-switch");
}

INSTANTIATE_TEST_SUITE_P(Windows, Legible,
                         testing::Values(Dress{QSize(1280, 800)}, Dress{QSize(1024, 700)}, Dress{QSize(840, 700)},
                                         Dress{QSize(1920, 1080), true}, Dress{QSize(1280, 800), false, 80},
                                         Dress{QSize(1280, 800), true, 150}, Dress{QSize(1280, 800), false, 200}),
                         [](const auto& at) {
                             return "W" + std::to_string(at.param.size.width()) + (at.param.night ? "Night" : "") +
                                    "Text" + std::to_string(at.param.text);
                         });

} // namespace
} // namespace vicegrip
