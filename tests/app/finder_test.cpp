#include "app/desk/part_library.h"
#include "app/store/taken.h"
#include "core/lookup/lookup.h"
#include "tests/support/new_user.h"

#include <QComboBox>
#include <QFile>
#include <QListWidget>
#include <QPlainTextEdit>

namespace vicegrip::app {
namespace {

/// The finder of a window that nothing was taken in before.
class Finder
{
    test::NewUser m_user; // before the window reads it

  public:
    /// Types into it and gives what stands first.
    std::string first(const char* typed)
    {
        if (!window().isVisible())
            w.key(Qt::Key_K, Qt::ControlModifier);
        auto* field = window().findChild<QLineEdit*>();
        field->selectAll();
        field->insert(QString::fromUtf8(typed)); // as a keyboard with every letter would
        const auto* list = window().findChild<QListWidget*>();
        return list->count() == 0 ? std::string() : list->item(0)->text().toStdString();
    }
    void take(const char* typed)
    {
        first(typed);
        QTest::keyClick(window().findChild<QLineEdit*>(), Qt::Key_Return);
        w.settle();
    }
    QWidget& window()
    {
        if (w.window.findChild<QWidget*>(QStringLiteral("finder")) == nullptr)
            w.key(Qt::Key_K, Qt::ControlModifier);
        return *w.find<QWidget>("finder");
    }

    test::Window w;
};

TEST(Finder, GoesToACavity)
{
    Finder f;
    EXPECT_EQ(f.first("a7"), "Cavity A7");
    f.take("a7");
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Pins);
    EXPECT_FALSE(f.window().isVisible());
    bool said = false;
    for (const QLabel* l : f.w.window.findChildren<QLabel*>())
        said = said || (l->isVisible() && l->text().contains(QStringLiteral("A7")));
    EXPECT_TRUE(said);
}

TEST(Finder, GoesToAWireByItsColours)
{
    Finder f;
    f.take("wire w6");
    auto* table = f.w.find<QTableWidget>("wires");
    ASSERT_TRUE(table->isVisible());
    ASSERT_GE(table->currentRow(), 0);
    EXPECT_EQ(table->item(table->currentRow(), 0)->text(), QStringLiteral("w6"));
    f.first("blue white");
    const auto* list = f.window().findChild<QListWidget*>();
    bool wire = false;
    for (int i = 0; i < list->count(); ++i)
        wire = wire || list->item(i)->text() == QStringLiteral("Wire w6");
    EXPECT_TRUE(wire);
}

TEST(Finder, GoesToCircuitsPlacesPartsFindingsTheLogAndViews)
{
    Finder f;
    f.take("gearbox temp");
    EXPECT_EQ(f.w.window.desk().selection.circuit().value, "gt");
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Meter);
    f.take("bulkhead be 6");
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Pins);
    f.take("error budget");
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Scale);
    EXPECT_TRUE(f.w.find<QAbstractButton>("scale-budget")->isChecked());
    const auto analysis = f.w.window.desk().store.analysis();
    ASSERT_FALSE(analysis->findings.empty());
    f.take(analysis->findings.front().what.c_str());
    EXPECT_TRUE(f.w.find<QWidget>("findings-drawer")->isVisible());
    ASSERT_FALSE(analysis->job->log.empty());
    f.take(analysis->job->log.front().what.c_str());
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Handover);
    f.take(analysis->job->parts.front().name.c_str());
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Inputs);
    const parts::Part* sensor =
        job::sensorOf(*analysis->job, *job::find(*analysis->job, f.w.window.desk().selection.circuit()));
    EXPECT_EQ(sensor->name, analysis->job->parts.front().name);
}

TEST(Finder, GoesToAFieldOfTheBrief)
{
    Finder f;
    f.take("altitude");
    EXPECT_EQ(f.w.window.stage(), analysis::Stage::Brief);
    EXPECT_EQ(f.w.window.focusWidget(), f.w.find<QLineEdit>("altitude_m"));
    f.take("ecu");
    EXPECT_NE(qobject_cast<QComboBox*>(f.w.window.focusWidget()), nullptr);
}

TEST(Finder, GoesToPartsOfTheLibrary)
{
    Finder f;
    const auto& all = library().parts;
    const auto job = f.w.window.desk().store.job();
    const auto other = std::ranges::find_if(all, [&](const parts::Part& s) {
        return std::ranges::find(job->parts, s.id, &parts::Part::id) == job->parts.end();
    });
    ASSERT_NE(other, all.end());
    f.take(other->name.c_str());
    auto* text = f.w.find<QPlainTextEdit>("part-text");
    ASSERT_TRUE(text->isVisible());
    EXPECT_TRUE(text->toPlainText().contains(QString::fromStdString(other->name)));
    f.take(library().layouts.front().name.c_str());
    EXPECT_TRUE(text->toPlainText().contains(QString::fromStdString(library().layouts.front().name)));
}

TEST(Finder, SaysWhatAWordMeans)
{
    Finder f;
    EXPECT_EQ(f.first("ratiometric"), "ratiometric");
    f.take("ratiometric");
    auto* sheet = f.w.find<QWidget>("sheet");
    ASSERT_TRUE(sheet->isVisible());
    bool said = false;
    for (const QLabel* l : sheet->findChildren<QLabel*>())
        said = said || l->text().contains(QStringLiteral("a share of its supply"));
    EXPECT_TRUE(said);
}

TEST(Finder, WhatIsTakenOftenComesFirstNextTimeToo)
{
    Finder f;
    const std::string before = f.first("temp");
    EXPECT_NE(before, "Gearbox temp");
    for (int i = 0; i < 6; ++i)
        f.take("gearbox temp");
    EXPECT_EQ(f.first("temp"), "Gearbox temp");
    EXPECT_EQ(Taken().times("circuit gt"), 6);
}

TEST(Finder, SaysWhenNothingIsCalledThat)
{
    Finder f;
    EXPECT_EQ(f.first("qqqq"), "Nothing here is called that");
    QTest::keyClick(f.window().findChild<QLineEdit*>(), Qt::Key_Return);
    EXPECT_TRUE(f.window().isVisible());
    QTest::keyClick(f.window().findChild<QLineEdit*>(), Qt::Key_Escape);
    EXPECT_FALSE(f.window().isVisible());
}

TEST(Taken, ForgetsTheLeastTaken)
{
    const test::NewUser user;
    Taken taken;
    taken.add("often");
    taken.add("often");
    for (int i = 0; i < 300; ++i)
        taken.add(std::to_string(i));
    EXPECT_EQ(Taken().times("often"), 2);
    EXPECT_EQ(Taken().times("299"), 1);
    EXPECT_EQ(Taken().times("never"), 0);
    taken.add({});
    EXPECT_EQ(Taken().times({}), 0);
}

} // namespace
} // namespace vicegrip::app
