#include "app/shell/jobs.h"
#include "app/store/preferences.h"
#include "core/materials/cut_list.h"
#include "tests/support/new_user.h"

#include <QComboBox>
#include <QMenu>

#include <gmock/gmock.h>

namespace vicegrip::app {
namespace {

using testing::HasSubstr;
using testing::Not;

/// The user's own configuration, and the window on a copy of the demo job.
class Preferring : public testing::Test
{
  protected:
    test::NewUser user; // before the window reads what he prefers
    test::Window w;

    void SetUp() override { press("Preferences"); }
    void TearDown() override { EXPECT_TRUE(units::setShown({})); }

    void press(const char* action)
    {
        for (QAction* a : w.window.findChild<QMenu*>(QStringLiteral("job-menu"))->actions())
            if (a->text() == QLatin1String(action))
                a->trigger();
    }
    void choose(const char* box, const char* what)
    {
        auto* combo = w.find<QComboBox>(box);
        const int index = combo->findText(QString::fromUtf8(what));
        ASSERT_GE(index, 0) << what;
        combo->setFocus();
        combo->setCurrentIndex(index);
        emit combo->activated(index);
        w.settle();
    }
    /// As a keyboard that has the sign would.
    void enterEuro()
    {
        auto* field = w.find<QLineEdit>("currency");
        field->setFocus();
        field->insert(QString::fromUtf8("€"));
        QTest::keyClick(field, Qt::Key_Return);
    }
    void show(analysis::Stage stage)
    {
        w.window.showStage(stage);
        w.settle();
    }
    [[nodiscard]] QString file() const { return user.file(".config/vicegrip/preferences.json"); }
    /// Everything a person can read in the window now.
    [[nodiscard]] std::string everything()
    {
        QStringList all;
        for (const QLabel* l : w.window.findChildren<QLabel*>())
            if (l->isVisible())
                all << l->text();
        for (const QLineEdit* e : w.window.findChildren<QLineEdit*>())
            if (e->isVisible())
                all << e->text();
        for (const QTableWidget* t : w.window.findChildren<QTableWidget*>())
            for (int r = 0; t->isVisible() && r < t->rowCount(); ++r)
                for (int c = 0; c < t->columnCount(); ++c)
                    if (const QTableWidgetItem* i = t->item(r, c))
                        all << i->text();
        return all.join(QLatin1Char('\n')).toStdString();
    }
};

TEST_F(Preferring, OneSwitchShowsEveryViewInUsUnits)
{
    EXPECT_EQ(w.textOf("example-temperature"), "85.0 °C");
    choose("units-system", "US");
    EXPECT_EQ(w.textOf("example-temperature"), "185.0 °F");
    EXPECT_EQ(w.textOf("example-gauge-pressure"), "46.4 psi gauge");
    w.click("preferences-done");
    w.choose("map");
    show(analysis::Stage::Brief);
    EXPECT_THAT(everything(), HasSubstr("17.4 psi gauge"));
    show(analysis::Stage::Meter);
    EXPECT_THAT(everything(), HasSubstr("71.6 °F"));
    EXPECT_THAT(everything(), HasSubstr("14.27 psi abs"));
    show(analysis::Stage::Scale);
    EXPECT_THAT(everything(), HasSubstr("43.51 psi abs"));
    EXPECT_EQ(w.textOf("expected-value"), "14.27 psi abs");
    show(analysis::Stage::Pins);
    w.click("pins-wires");
    w.settle();
    EXPECT_THAT(everything(), HasSubstr("0.5 mm² ≈ 20 AWG"));
    EXPECT_THAT(everything(), HasSubstr("3 ft"));
    for (const char* id : {"map", "clt"}) {
        w.choose(id);
        for (int stage = 0; stage < analysis::kStageCount; ++stage) {
            if (stage == static_cast<int>(analysis::Stage::Scale))
                continue; // the ECU's table stands there in the ECU's unit
            show(static_cast<analysis::Stage>(stage));
            const std::string said = QString::fromStdString(everything())
                                         .remove(QStringLiteral("at 25 °C")) // in the names of parts
                                         .toStdString();
            EXPECT_THAT(said, Not(HasSubstr("°C"))) << id << " at " << stage;
        }
    }
    EXPECT_TRUE(w.window.desk().store.isSaved()) << "the job is the same";
    press("Preferences");
    choose("units-system", "metric");
    w.click("preferences-done");
    show(analysis::Stage::Meter);
    EXPECT_THAT(everything(), HasSubstr("22.0 °C"));
}

TEST_F(Preferring, WhatTheAnalysisSaysIsSaidAgain)
{
    const auto said = [&] {
        std::string all;
        for (const auto& f : w.window.desk().store.analysis()->findings)
            all += f.what + "\n";
        return all;
    };
    const std::string metric = said();
    EXPECT_THAT(metric, HasSubstr("°C off at"));
    choose("units-system", "US");
    EXPECT_TRUE(QTest::qWaitFor([&] { return said().find("°F off at") != std::string::npos; }, 10000));
    EXPECT_THAT(said(), Not(HasSubstr("°C")));
    choose("units-system", "metric");
    EXPECT_TRUE(QTest::qWaitFor([&] { return said() == metric; }, 10000));
}

TEST_F(Preferring, AFieldMeansTheUnitItShows)
{
    choose("units-system", "US");
    w.click("preferences-done");
    show(analysis::Stage::Brief);
    w.type(w.find<QLineEdit>("target_kpa"), "20");
    EXPECT_NEAR(w.window.desk().store.job()->brief->target_pa, 20 * 6894.757, 1);
    w.type(w.find<QLineEdit>("target_kpa"), "120 kPa");
    EXPECT_NEAR(w.window.desk().store.job()->brief->target_pa, 120e3, 1e-6);
    // Leaving a field that nobody typed into changes nothing.
    const auto before = *w.window.desk().store.job();
    w.find<QLineEdit>("target_kpa")->setFocus();
    QTest::keyClick(w.find<QLineEdit>("target_kpa"), Qt::Key_Tab);
    EXPECT_EQ(*w.window.desk().store.job(), before);
}

TEST_F(Preferring, TheEcusUnitStandsBesideOnesOwn)
{
    choose("units-absolute-pressure", "psi");
    w.click("preferences-done");
    w.choose("map");
    show(analysis::Stage::Scale);
    EXPECT_EQ(w.textOf("expected-value"), "14.27 psi abs");
    EXPECT_THAT(everything(), HasSubstr("must return 98.4 kPa abs"));
    press("Preferences");
    choose("units-absolute-pressure", "kPa");
    w.click("preferences-done");
    show(analysis::Stage::Scale);
    EXPECT_EQ(w.textOf("expected-value"), "98.4 kPa abs");
    EXPECT_THAT(everything(), Not(HasSubstr("must return 98.4")));
}

TEST_F(Preferring, TheyComeBack)
{
    choose("units-system", "US");
    choose("units-absolute-pressure", "inHg");
    choose("paper", "night");
    enterEuro();
    w.type(w.find<QLineEdit>("habit-slack"), "5 %");
    w.type(w.find<QLineEdit>("habit-spare"), "2");
    w.type(w.find<QLineEdit>("meter-volts-share"), "0.8 %");
    const Preferences again;
    EXPECT_EQ(again.now(), w.window.desk().preferences.now());
    EXPECT_EQ(again.now().shown.own.at(units::Dimension::AbsolutePressure), "inHg");
    EXPECT_EQ(again.now().shown.system, units::System::US);
    EXPECT_TRUE(again.night(false));
    EXPECT_EQ(again.now().currency, QString::fromUtf8("€"));
    EXPECT_NEAR(again.now().habits.slack, 0.05, 1e-12);
    EXPECT_EQ(again.now().habits.spareForEach, 2);
    EXPECT_NEAR(again.now().meter.voltsShare, 0.008, 1e-12);
    EXPECT_TRUE(again.complaint().isEmpty());
    choose("paper", "day");
}

TEST_F(Preferring, WhatCannotBeIsSaidAndTheRestHolds)
{
    const std::pair<const char*, const char*> files[] = {
        {R"({"version": 1, "units": {"system": "us", "temperature": "furlong"}})", "units/temperature"},
        {R"({"version": 1, "units": {"system": "us"}, "cutting": {"slack_percent": 5000}})", "cutting/slack_percent"},
        {R"({"version": 1, "units": {"system": "us"}, "meter": {"input_ohm": "many"}})", "meter/input_ohm"},
        {R"({"version": 1, "units": {"system": "us"}, "paper": "green"})", "paper"},
        {R"({"version": 1, "units": {"system": "us"}, "meter": [1]})", "meter"}};
    for (const auto& [text, where] : files) {
        test::NewUser::write(file(), text);
        const Preferences read;
        EXPECT_THAT(read.complaint().toStdString(), HasSubstr(where));
        EXPECT_EQ(read.now().shown.system, units::System::US) << text;
        EXPECT_EQ(read.now().habits, materials::Habits{}) << text;
        EXPECT_EQ(read.now().meter, job::Meter{}) << text;
    }
    test::NewUser::write(file(), R"({"version": 2, "units": 7})");
    const Preferences newer;
    EXPECT_THAT(newer.complaint().toStdString(), HasSubstr("newer"));
    EXPECT_EQ(newer.now(), Preferred{});
    test::NewUser::write(file(), R"({"version": 1, "units": 7})");
    EXPECT_THAT(Preferences().complaint().toStdString(), HasSubstr("units"));
    QFile::remove(file());
    EXPECT_TRUE(Preferences().complaint().isEmpty());
}

TEST_F(Preferring, HabitsCutAndBuy)
{
    const auto job = w.window.desk().store.job();
    const auto cutOf = [&] {
        show(analysis::Stage::Pins);
        w.click("pins-wires");
        w.settle();
        return w.find<QTableWidget>("wires")->item(0, 8)->text().toStdString();
    };
    const materials::Habits none{0, 0, 0, 0, 0};
    const auto drawn = materials::cutList(*job, none);
    const std::string before = cutOf();
    press("Preferences");
    for (const char* habit : {"habit-slack", "habit-loop", "habit-stagger", "habit-wire", "habit-spare"})
        w.type(w.find<QLineEdit>(habit), "0");
    EXPECT_EQ(w.window.desk().preferences.now().habits, none);
    const std::string after = cutOf();
    EXPECT_NE(after, before);
    const auto first = std::ranges::find(drawn, job->wires.front().id, &materials::Cut::wire);
    EXPECT_EQ(after, units::format(first->cut_m, units::Dimension::Length, "m", 2));
    EXPECT_NEAR(first->cut_m, job->wires.front().length_m, 0.01);
    EXPECT_THAT(everything(), HasSubstr("with 0 % slack, 0 cm at each plug"));
    press("Preferences");
    w.type(w.find<QLineEdit>("habit-slack"), "90 %");
    EXPECT_THAT(everything(), HasSubstr("expected 0.0 to 50.0 %"));
    EXPECT_EQ(w.window.desk().preferences.now().habits.slack, 0);
}

TEST_F(Preferring, OnesOwnMeterIsTheJobsWhenAsked)
{
    auto* use = w.find<QAbstractButton>("use-meter");
    const double width = w.at("map", "A.5").expectation.high - w.at("map", "A.5").expectation.low;
    w.type(w.find<QLineEdit>("meter-volts-share"), "2");
    EXPECT_EQ(w.window.desk().store.job()->meter.voltsShare, 0.005) << "a job is changed when asked";
    ASSERT_TRUE(use->isEnabled());
    QTest::mouseClick(use, Qt::LeftButton);
    w.settle();
    EXPECT_NEAR(w.window.desk().store.job()->meter.voltsShare, 0.02, 1e-12);
    EXPECT_FALSE(use->isEnabled());
    EXPECT_GT(w.at("map", "A.5").expectation.high - w.at("map", "A.5").expectation.low, width + 0.02);
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->meter.voltsShare, 0.005);
    w.window.desk().store.undoStack().redo();
    ASSERT_TRUE(w.window.desk().store.save());
    w.window.jobs().begin();
    EXPECT_NEAR(w.window.desk().store.job()->meter.voltsShare, 0.02, 1e-12) << "a new one begins with it";
}

TEST_F(Preferring, PricesHaveTheirCurrency)
{
    enterEuro();
    w.click("preferences-done");
    show(analysis::Stage::Brief);
    auto* hour = w.find<QLineEdit>("price-hour");
    EXPECT_EQ(hour->text().toStdString(), "60\u00A0€");
    hour->setFocus();
    hour->selectAll();
    hour->insert(QString::fromUtf8("75 €"));
    QTest::keyClick(hour, Qt::Key_Return);
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->brief->prices.hour, 75);
    w.type(hour, "80");
    EXPECT_EQ(w.window.desk().store.job()->brief->prices.hour, 80);
}

TEST_F(Preferring, EscapeLeavesToWhereOneWas)
{
    w.click("preferences-done");
    show(analysis::Stage::Scale);
    w.key(Qt::Key_Comma, Qt::ControlModifier);
    EXPECT_TRUE(w.find<QWidget>("preferences")->isVisible());
    QTest::keyClick(w.window.focusWidget(), Qt::Key_Escape);
    EXPECT_FALSE(w.find<QWidget>("preferences")->isVisible());
    EXPECT_EQ(w.window.stage(), analysis::Stage::Scale);
}

} // namespace
} // namespace vicegrip::app
