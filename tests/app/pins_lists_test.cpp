#include "app/stages/pins/branch_plot.h"
#include "core/branches/tree.h"
#include "core/logbook/logbook.h"
#include "tests/support/window.h"

#include <QClipboard>
#include <QComboBox>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QUndoStack>
#include <gmock/gmock.h>

/// The lists of the Pins stage: wires with their reasons, the harness as it lies, an old plug beside the new one, the
/// order of hands; and the logbook they write.
namespace vicegrip {
namespace {

using testing::AllOf;
using testing::HasSubstr;

struct Lists : test::Window
{
    explicit Lists(const char* view)
    {
        key(Qt::Key_3, Qt::ControlModifier);
        click(view);
        settle();
    }
    QTableWidget* table(const char* name) { return find<QTableWidget>(name); }
    int row(const char* name, const char* begins, int column = 0)
    {
        QTableWidget* t = table(name);
        for (int r = 0; r < t->rowCount(); ++r)
            if (t->item(r, column)->text().trimmed().startsWith(QLatin1String(begins)))
                return r;
        ADD_FAILURE() << "no row " << begins;
        return 0;
    }
    std::string cell(const char* name, int r, int column) { return table(name)->item(r, column)->text().toStdString(); }
    const job::Job& job() { return *window.desk().store.job(); }
    double length(const char* wire)
    {
        return std::ranges::find(job().wires, job::WireId{wire}, &job::Wire::id)->length_m;
    }
};

TEST(PinsWires, ARowSaysHowTheWireGoesOnAndWhatItIsFor)
{
    Lists w("pins-wires");
    const int r = w.row("wires", "w5");
    EXPECT_EQ(w.cell("wires", r, 1), "Plug CLT 1");
    EXPECT_EQ(w.cell("wires", r, 2), "BE-BC as w6");
    EXPECT_EQ(w.cell("wires", r, 4), "Coolant temp, signal");
    w.table("wires")->setCurrentCell(r, 6);
    EXPECT_THAT(w.textOf("wire-area-why"), HasSubstr("Mechanical minimum"));
    EXPECT_THAT(w.textOf("wire-colour-why"), HasSubstr("blue, white tracer"));
}

TEST(PinsWires, AThinWireIsSaidAndTheProposalTaken)
{
    Lists w("pins-wires");
    auto* take = w.find<QAbstractButton>("take-areas");
    EXPECT_FALSE(take->isVisible());
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("a larger fuse"),
                                           [](job::Job& job) { job.switches.front().rating_a = 20; }));
    w.settle();
    ASSERT_TRUE(take->isVisible());
    w.table("wires")->setCurrentCell(w.row("wires", "w29"), 6);
    EXPECT_THAT(w.textOf("wire-area-why"), AllOf(HasSubstr("2.5 mm²"), HasSubstr("20 A fuse")));
    w.click("take-areas");
    w.settle();
    EXPECT_FALSE(take->isVisible());
    EXPECT_DOUBLE_EQ(std::ranges::find(w.job().wires, job::WireId{"w29"}, &job::Wire::id)->area_m2, 2.5e-6);
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_TRUE(take->isVisible());
}

TEST(PinsWires, TwoColoursAlikeAreSaidAndTheProposalTaken)
{
    Lists w("pins-wires");
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("painted"),
                                           [](job::Job& job) { test::wire(job, "w6").colour = "GY"; }));
    w.settle();
    w.table("wires")->setCurrentCell(w.row("wires", "w6"), 5);
    EXPECT_THAT(w.textOf("wire-colour-why"), HasSubstr("is GY too"));
    w.click("take-colours");
    w.settle();
    EXPECT_FALSE(w.find<QAbstractButton>("take-colours")->isVisible());
}

TEST(PinsWires, ASpliceIsMadeAsItsMakerPrefers)
{
    Lists w("pins-wires");
    w.table("wires")->setCurrentCell(w.row("wires", "w18"), 5);
    EXPECT_THAT(w.textOf("wire-joint"), HasSubstr("crimp slowly"));
    auto* method = w.find<QComboBox>("joint-method");
    method->setFocus();
    QTest::keyClick(method, Qt::Key_Down);
    emit method->activated(method->currentIndex());
    w.settle();
    EXPECT_THAT(w.textOf("wire-joint"), HasSubstr("strain relief"));
    EXPECT_EQ(w.cell("wires", w.row("wires", "w18"), 2), "soldered in S1 with 4 more");
    w.table("wires")->setCurrentCell(w.row("wires", "w5"), 5);
    EXPECT_FALSE(method->isVisible()) << "a wire between plugs has no splice";
}

TEST(PinsWires, AListIsPastedWithItsTroublesBesideTheLines)
{
    Lists w("pins-wires");
    const size_t before = w.job().wires.size();
    QApplication::clipboard()->setText(
        QStringLiteral("From\tTo\tColour\tLength cm\nCLT.1\tB5\tBU\t120\nCLT.9\tB6\tBU\t1\n"));
    w.key(Qt::Key_V, Qt::ControlModifier);
    EXPECT_EQ(w.textOf("paste-wires-verdict"), "1 understood, 1 left out");
    auto* lines = w.find<QListWidget>("paste-wires-lines");
    ASSERT_EQ(lines->count(), 2);
    EXPECT_THAT(lines->item(0)->text().toStdString(), HasSubstr("Plug CLT 1 to Cavity B5, BU, 0.5 mm², 1.20 m"));
    EXPECT_THAT(lines->item(1)->text().toStdString(), AllOf(HasSubstr("3:"), HasSubstr("no cavity 9")));
    auto* text = w.find<QPlainTextEdit>("paste-wires-text");
    text->setPlainText(text->toPlainText().replace(QStringLiteral("CLT.9"), QStringLiteral("TPS.2")));
    EXPECT_EQ(w.textOf("paste-wires-verdict"), "2 understood, 0 left out");
    QTest::keyClick(text, Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(w.job().wires.size(), before + 2);
    EXPECT_TRUE(w.table("wires")->isVisible());
    w.key(Qt::Key_V, Qt::ControlModifier);
    EXPECT_EQ(w.textOf("paste-wires-verdict"), "0 understood, 2 left out") << "the first is drawn already";
    QTest::keyClick(w.find<QPlainTextEdit>("paste-wires-text"), Qt::Key_Escape);
    EXPECT_TRUE(w.table("wires")->isVisible());
    EXPECT_EQ(w.job().wires.size(), before + 2);
}

TEST(PinsWires, UnusedWiresAreNamedAndTakenOut)
{
    Lists w("pins-wires");
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("came with it"), [](job::Job& job) {
        job.wires.push_back({{"w90"}, {"BE", "12"}, {"BE", "13"}, 1, 0.5e-6, "GY"});
    }));
    w.settle();
    EXPECT_EQ(w.cell("wires", w.row("wires", "w90"), 4), "nothing: take it out");
    w.click("remove-unused");
    w.settle();
    EXPECT_EQ(job::findConnector(w.job(), "BE")->id, "BE");
    EXPECT_TRUE(std::ranges::none_of(w.job().wires, [](const job::Wire& x) { return x.id.value == "w90"; }));
}

TEST(PinsHarness, AStretchOffTheTapeMovesItsWires)
{
    Lists w("pins-harness");
    const int r = w.row("stretches", "Y2", 0);
    ASSERT_EQ(w.cell("stretches", r, 1), "MAP, Manifold pressure plug");
    const double before = w.length("w1");
    w.table("stretches")->item(r, 2)->setText(QStringLiteral("35 cm"));
    w.settle();
    EXPECT_EQ(w.cell("stretches", r, 2), "0.35 m");
    EXPECT_NEAR(w.length("w1"), before + 0.15 + 0.01, 1e-9) << "it was a centimetre short of its way";
    w.table("stretches")->item(r, 2)->setText(QStringLiteral("0"));
    w.settle();
    EXPECT_THAT(w.textOf("stretches-said"), HasSubstr("1 cm"));
    EXPECT_EQ(w.cell("stretches", r, 2), "0.35 m");
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_NEAR(w.length("w1"), before, 1e-12);
}

TEST(PinsHarness, StretchesAreAddedWalledAndRemovedFromTheKeyboard)
{
    Lists w("pins-harness");
    const size_t before = w.job().branches.size();
    w.type(w.find<QLineEdit>("new-stretch"), "y9 g3 40 cm");
    ASSERT_EQ(w.job().branches.size(), before + 1);
    EXPECT_EQ(w.job().branches.back().to, "G3");
    w.type(w.find<QLineEdit>("new-stretch"), "MAP CLT 1 m");
    EXPECT_THAT(w.textOf("stretches-said"), HasSubstr("ring"));
    EXPECT_EQ(w.job().branches.size(), before + 1);
    w.table("stretches")->setCurrentCell(static_cast<int>(before), 2);
    w.table("stretches")->setFocus();
    w.click("stretch-wall");
    w.settle();
    EXPECT_TRUE(w.job().branches.back().wall);
    EXPECT_THAT(w.cell("stretches", static_cast<int>(before), 3), HasSubstr("through"));
    w.click("stretch-remove");
    w.settle();
    EXPECT_EQ(w.job().branches.size(), before);
}

TEST(PinsHarness, AStretchIsPickedWhereItIsDrawnAndTheVansIsProposed)
{
    Lists w("pins-harness");
    auto* tree = w.find<app::BranchPlot>("harness-tree");
    std::set<int> met;
    for (int x = 40; x < tree->width() - 20; x += 5)
        for (int y = 4; y < tree->height() - 4; y += 5) {
            QTest::mouseClick(tree, Qt::LeftButton, {}, QPoint(x, y));
            met.insert(w.table("stretches")->currentRow());
        }
    EXPECT_GE(met.size(), w.job().branches.size() - 1) << "all but the centimetre between two splices";
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("none"), [](job::Job& job) { job.branches.clear(); }));
    w.settle();
    EXPECT_THAT(w.textOf("stretches-said"), HasSubstr("Nobody has said"));
    w.click("stretch-propose");
    w.settle();
    EXPECT_EQ(w.table("stretches")->rowCount(), static_cast<int>(w.job().branches.size()));
    EXPECT_GT(w.job().branches.size(), 15U);
}

TEST(PinsRemap, AnOldListIsWrittenAndComparedByFunction)
{
    Lists w("pins-remap");
    auto* box = w.find<QComboBox>("remap-connector");
    const int a = box->findData(QStringLiteral("A"));
    box->setCurrentIndex(a);
    emit box->activated(a);
    w.click("remap-write");
    auto* text = w.find<QPlainTextEdit>("old-plug-text");
    text->setPlainText(QStringLiteral("1; ECU 12V; RD\n7; IAT; GY\n8; Coolant temp; BU/WH\n5; MAP; GN\n5; again;\n"));
    auto* lines = w.find<QListWidget>("old-plug-lines");
    EXPECT_THAT(lines->item(4)->text().toStdString(), HasSubstr("twice"));
    QTest::keyClick(text, Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    ASSERT_EQ(w.job().oldPlugs.size(), 1U);
    const int clt = w.row("remap", "Coolant temp");
    EXPECT_THAT(w.cell("remap", clt, 3), HasSubstr("exchanged"));
    EXPECT_EQ(w.cell("remap", clt, 1), "8");
    EXPECT_EQ(w.cell("remap", clt, 4), "7");
    EXPECT_THAT(w.cell("remap", w.row("remap", "Manifold pressure"), 3), HasSubstr("other colour"));
    EXPECT_THAT(w.textOf("remap-verdict"), HasSubstr("2 are exchanged"));
    EXPECT_GT(w.table("remap-work")->rowCount(), 3);
    w.click("remap-repinned");
    w.settle();
    EXPECT_FALSE(w.job().oldPlugs.front().repinned);
    EXPECT_THAT(w.cell("remap-work", 0, 1), HasSubstr("Old 1 to new 1"));
}

TEST(PinsOrder, APlugIsMovedToWhereItIsInThisCar)
{
    Lists w("pins-order");
    w.table("order")->setCurrentCell(w.row("order", "Pin and count ECU plug B"), 0);
    EXPECT_FALSE(w.find<QComboBox>("plug-place")->isVisible()) << "the ECU is where it was mounted";
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("out"), [](job::Job& job) {
        EXPECT_TRUE(pinning::pullOut(job, {"CLT", "1"}, "t"));
    }));
    w.settle();
    w.table("order")->setCurrentCell(w.row("order", "Pin and count Coolant"), 0);
    auto* place = w.find<QComboBox>("plug-place");
    EXPECT_EQ(place->currentText(), QStringLiteral("under the intake"));
    place->setEditText(QStringLiteral("behind the head"));
    QTest::keyClick(place->lineEdit(), Qt::Key_Return);
    w.settle();
    EXPECT_EQ(job::findConnector(w.job(), "CLT")->place, "behind the head");
    EXPECT_EQ(w.cell("order", w.row("order", "Pin and count Coolant") - 2, 0), "Behind the head");
}

TEST(Logbook, WhatIsDoneStandsThereAndIsFound)
{
    Lists w("pins-order");
    w.table("order")->setCurrentCell(w.row("order", "Close sleeves"), 0);
    w.table("order")->setFocus();
    QTest::keyClick(w.table("order"), Qt::Key_Space);
    w.settle();
    w.key(Qt::Key_8, Qt::ControlModifier);
    w.settle();
    w.click("handover-logbook");
    w.settle();
    EXPECT_THAT(w.cell("logbook", 0, 1), HasSubstr("Close sleeves and shrink: done"));
    const int all = w.table("logbook")->rowCount();
    w.type(w.find<QLineEdit>("logbook-filter"), "clt seated");
    EXPECT_LT(w.table("logbook")->rowCount(), all);
    EXPECT_EQ(w.table("logbook")->rowCount(), 2) << "two cavities of the coolant plug";
}

TEST(PinsView, AProposedFaceIsSaidUntilSomebodyComparedIt)
{
    Lists w("pins-plug");
    EXPECT_FALSE(w.find<QAbstractButton>("face-confirm")->isVisible());
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("proposed"), [](job::Job& job) {
        for (job::Connector& c : job.connectors)
            c.faceProposed = true;
    }));
    w.settle();
    EXPECT_THAT(w.textOf("face-said"), HasSubstr("compare it with the part"));
    w.click("face-confirm");
    w.settle();
    EXPECT_FALSE(w.find<QAbstractButton>("face-confirm")->isVisible());
}

} // namespace
} // namespace vicegrip
