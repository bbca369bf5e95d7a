#include "app/look/look.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/typed_field.h"
#include "core/units/units.h"
#include "tests/support/window.h"

#include <QComboBox>
#include <QPainter>
#include <QTableView>

#include <gmock/gmock.h>
#include <set>

namespace vicegrip {
namespace {

using app::look::wire;
using proof::State;
using testing::HasSubstr;

app::TypedField* voltsField(QWidget* parent)
{
    return new app::TypedField(
        QStringLiteral("Volts"),
        [](const QString& typed) -> Result<QString> {
            return units::parse(typed.toStdString(), units::Dimension::Voltage).map([](double v) {
                return QString::fromStdString(units::format(v, units::Dimension::Voltage, "V", 2));
            });
        },
        parent);
}

TEST(TypedField, SaysWhatItUnderstoodWhileTyping)
{
    QWidget parent;
    auto* field = voltsField(&parent);
    parent.show();
    QTest::keyClicks(field->edit(), QStringLiteral("250 mV"));
    EXPECT_EQ(field->findChild<QLabel*>()->text(), QStringLiteral("0.25 V"));
    QTest::keyClicks(field->edit(), QStringLiteral("x"));
    EXPECT_THAT(field->findChild<QLabel*>()->text().toStdString(), HasSubstr("expected a voltage"));
    EXPECT_THAT(field->edit()->accessibleDescription().toStdString(), HasSubstr("expected a voltage"));
}

TEST(TypedField, EntersOnceAndOnlyWhatIsUnderstood)
{
    QWidget parent;
    auto* field = voltsField(&parent);
    parent.show();
    QStringList entered;
    QObject::connect(field, &app::TypedField::entered, [&](const QString& t) { entered << t; });
    field->setText(QStringLiteral("1.00 V"));
    QTest::keyClick(field->edit(), Qt::Key_Return);
    EXPECT_TRUE(entered.isEmpty()) << "nothing was typed";
    field->edit()->selectAll();
    QTest::keyClicks(field->edit(), QStringLiteral("2 V"));
    QTest::keyClick(field->edit(), Qt::Key_Return);
    QTest::keyClick(field->edit(), Qt::Key_Return);
    EXPECT_EQ(entered, QStringList{QStringLiteral("2 V")});
    field->edit()->selectAll();
    QTest::keyClicks(field->edit(), QStringLiteral("two"));
    QTest::keyClick(field->edit(), Qt::Key_Return);
    EXPECT_EQ(entered.size(), 1);
}

/// The five states must differ without colour: rendered in grey, no two are alike.
TEST(StateGlyph, ShapesDifferWithoutColour)
{
    std::set<QByteArray> shapes;
    for (const State s : {State::Untouched, State::Done, State::Failing, State::Stale, State::NotNeeded}) {
        QImage image(24, 24, QImage::Format_ARGB32);
        image.fill(app::look::colours().paper);
        QPainter p(&image);
        app::drawState(p, QRectF(2, 2, 20, 20), s);
        p.end();
        // Ink or not, at a coarse threshold: what is left when hue and shade are gone.
        const QImage grey = image.convertToFormat(QImage::Format_Grayscale8);
        QByteArray bits;
        for (int y = 0; y < grey.height(); ++y)
            for (int x = 0; x < grey.width(); ++x)
                bits.append(qGray(grey.pixel(x, y)) < 160 ? '1' : '0');
        shapes.insert(bits);
    }
    EXPECT_EQ(shapes.size(), 5U);
}

// IEC 60757 letters of the colours a harness has; each must be drawn as something of its own.
TEST(WireColours, CodesOfIec60757AreAllDifferent)
{
    std::set<QRgb> seen;
    const QStringList codes{QStringLiteral("BK"), QStringLiteral("BN"), QStringLiteral("RD"), QStringLiteral("OG"),
                            QStringLiteral("YE"), QStringLiteral("GN"), QStringLiteral("BU"), QStringLiteral("VT"),
                            QStringLiteral("GY"), QStringLiteral("WH"), QStringLiteral("PK"), QStringLiteral("TQ")};
    for (const QString& code : codes)
        seen.insert(wire(code).rgb());
    EXPECT_EQ(seen.size(), static_cast<size_t>(codes.size()));
    EXPECT_GT(wire(QStringLiteral("RD")).red(), 2 * wire(QStringLiteral("RD")).blue());
    EXPECT_GT(wire(QStringLiteral("BU")).blue(), 2 * wire(QStringLiteral("BU")).red());
    EXPECT_EQ(wire(QStringLiteral("??")), app::look::colours().ink);
}

TEST(CircuitText, SaysWhatASignalIs)
{
    const job::Job job = test::petrel();
    const auto signal = [&](const char* id) {
        return app::signalText(job, *job::find(job, job::CircuitId{id})).toStdString();
    };
    EXPECT_EQ(signal("clt"), "thermistor on 2k49 pull-up");
    EXPECT_EQ(signal("tps"), "potentiometer");
    EXPECT_EQ(signal("map"), "0.5–4.5 V transducer");
    EXPECT_EQ(app::conditionText(job, job::Condition::KeyOn).toStdString(), "key on, 22 °C, 98.4 kPa abs");
    EXPECT_EQ(app::wireBetween(job, job::PointRef::fromText("BC.6"), job::PointRef::fromText("A.7")),
              QStringLiteral("BU/WH"));
    EXPECT_EQ(app::wireBetween(job, job::PointRef::fromText("BE.6"), job::PointRef::fromText("BC.6")), QString());
    EXPECT_EQ(app::inputIndex(job, {"clt"}), 2);
    EXPECT_EQ(app::inputIndex(job, {"none"}), -1);
}

TEST(CircuitStrip, ShowsTheConductorOfTheChosenPlace)
{
    test::Window w;
    w.choose("map");
    EXPECT_NE(w.window.findChild<QAbstractButton*>(QStringLiteral("station-value")), nullptr);
    w.window.desk().selection.setStation("MAP.3");
    w.settle();
    QStringList visible;
    for (const QAbstractButton* b : w.find<QWidget>("circuit-strip")->findChildren<QAbstractButton*>())
        if (b->isVisible())
            visible << b->accessibleName();
    EXPECT_THAT(visible.join(QLatin1Char('|')).toStdString(), HasSubstr("Splice S1"));
    EXPECT_FALSE(visible.contains(QStringLiteral("Value")));
}

TEST(CircuitStrip, ClickingAStationSelectsIt)
{
    test::Window w;
    w.choose("clt");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.click("station-BE.6");
    w.settle();
    EXPECT_EQ(w.window.desk().selection.station(), "BE.6");
    EXPECT_EQ(w.textOf("probe"), "Probe bulkhead BE 6");
}

TEST(Board, LiveColumnsFollowTheEcu)
{
    test::Window w;
    const auto* model = w.find<QTableView>("board")->model();
    EXPECT_EQ(model->index(0, 3).data().toString(), QStringLiteral("–")) << "no ECU on the link";
    w.startBench();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return model->index(0, 3).data().toString().startsWith(QStringLiteral("1.8")); }, 5000));
    EXPECT_THAT(model->index(0, 4).data().toString().toStdString(), HasSubstr("kPa"));
    EXPECT_EQ(model->index(1, 4).data().toString(), QStringLiteral("no table"));
    EXPECT_EQ(model->headerData(3, Qt::Horizontal, Qt::DisplayRole).toString(), QStringLiteral("Input now"));
    w.click("condition-battery-off");
    EXPECT_TRUE(QTest::qWaitFor([&] { return model->index(0, 3).data().toString() == QStringLiteral("–"); }, 5000));
}

TEST(Shell, FitsTheSmallestScreen)
{
    test::Window w;
    w.window.resize(1024, 700);
    const auto* frame = w.find<QWidget>("frame");
    for (const Qt::Key stage : {Qt::Key_0, Qt::Key_4, Qt::Key_5}) {
        w.key(stage, Qt::ControlModifier);
        w.settle();
        // A layout in a layout asks again in the next turn of the event loop.
        (void)QTest::qWaitFor([&] { return frame->size() == w.window.size(); }, 500);
        EXPECT_EQ(frame->size(), w.window.size()) << "stage " << stage - Qt::Key_0 << ": nothing to scroll";
        for (const QAbstractButton* b : w.window.findChildren<QAbstractButton*>()) {
            if (!b->isVisible())
                continue;
            const QRect at(b->mapTo(&w.window, QPoint(0, 0)), b->size());
            EXPECT_TRUE(w.window.rect().contains(at))
                << b->objectName().toStdString() << " " << b->text().toStdString();
        }
    }
}

TEST(Shell, SavingIsOneKeyAndIsShown)
{
    test::Window w;
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "renamed"; }));
    w.settle();
    EXPECT_EQ(w.textOf("saved"), "not saved");
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(w.textOf("saved"), "saved");
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "renamed");
}

TEST(Shell, NightColoursChangeEveryViewAndBack)
{
    test::Window w;
    const QColor day = app::look::colours().paper;
    w.key(Qt::Key_D, Qt::ControlModifier);
    EXPECT_TRUE(app::look::isNight());
    EXPECT_LT(app::look::colours().paper.lightness(), day.lightness());
    const QImage picture = w.window.grab().toImage();
    EXPECT_LT(qGray(picture.pixel(w.window.width() / 2, 560)), 80) << "the frame itself is dark";
    w.key(Qt::Key_D, Qt::ControlModifier);
    EXPECT_FALSE(app::look::isNight());
}

TEST(Scale, ChoosingAnotherSensorIsAnEditThatEmbedsIt)
{
    test::Window w;
    w.choose("clt");
    w.key(Qt::Key_5, Qt::ControlModifier);
    w.settle();
    auto* sensor = w.find<QComboBox>("sensor");
    const int other = sensor->findData(QStringLiteral("ntc-2k5"));
    ASSERT_GE(other, 0);
    sensor->setCurrentIndex(other);
    emit sensor->activated(other);
    w.settle();
    const auto job = w.window.desk().store.job();
    EXPECT_NE(job::findPart(*job, {"ntc-2k5"}), nullptr);
    EXPECT_EQ(job::findPart(*job, {"ntc-2k2"}), nullptr) << "what nobody uses is not carried along";
    EXPECT_EQ(w.at("clt", "A.7").reason.substr(0, 9), "input AN3");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_NE(job::findPart(*w.window.desk().store.job(), {"ntc-2k2"}), nullptr);
}

} // namespace
} // namespace vicegrip
