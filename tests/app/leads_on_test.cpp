#include "app/look/look.h"
#include "app/shell/opening_size.h"
#include "app/stages/board/board_model.h"
#include "core/harness/resistors.h"
#include "tests/support/scale.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableView>

#include <gmock/gmock.h>

/// Nothing to show is never a dead end, and one thing is selected everywhere.
namespace vicegrip::test {
namespace {

using analysis::Stage;
using testing::HasSubstr;

TEST(LeadsOn, ATriggerHasNothingToScaleAndLeadsToItsStage)
{
    Window w;
    for (const char* trigger : {"crank", "cam"}) {
        goTo(w, trigger);
        EXPECT_THAT(w.textOf("signpost"), HasSubstr("nothing to scale"));
        EXPECT_FALSE(w.window.findChild<QTableWidget*>(QStringLiteral("points-table"))->isVisible());
        EXPECT_FALSE(w.window.findChild<QAbstractButton*>(QStringLiteral("scale-table"))->isVisible());
        w.key(Qt::Key_Return);
        EXPECT_EQ(w.window.stage(), Stage::Trigger);
    }
    goTo(w, addSensor(w, "vr-speed", "DG3").value.c_str());
    EXPECT_THAT(w.textOf("signpost"), HasSubstr("nothing to scale"));
    EXPECT_FALSE(w.find<QAbstractButton>("signpost-step")->isVisible()) << "the wheels' coil is no matter of Trigger";
    goTo(w, "clt");
    EXPECT_TRUE(w.find<QTableWidget>("points-table")->isVisible()) << "and a thermistor has its table again";
    EXPECT_TRUE(w.find<QAbstractButton>("scale-table")->isChecked());
}

TEST(LeadsOn, ASwitchHasItsLevelsAndNoTable)
{
    Window w;
    openCurlew(w);
    goTo(w, "clutch");
    EXPECT_TRUE(w.find<QAbstractButton>("scale-switch")->isChecked());
    EXPECT_FALSE(w.window.findChild<QAbstractButton*>(QStringLiteral("scale-table"))->isVisible());
    goTo(w, "clt");
    EXPECT_TRUE(w.find<QTableWidget>("points-table")->isVisible());
}

TEST(LeadsOn, ANewJobSaysAtEveryStageWhereToBegin)
{
    const UserFolder user;
    Window w;
    w.key(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    for (const Stage stage : {Stage::Pins, Stage::Meter, Stage::Scale}) {
        w.window.showStage(stage);
        EXPECT_THAT(w.textOf("signpost"), HasSubstr("There is no"));
        w.key(Qt::Key_Return);
        EXPECT_EQ(w.window.stage(), Stage::Brief);
    }
    // At Inputs the ECU is chosen, and there is something to seat on.
    w.window.showStage(Stage::Inputs);
    EXPECT_TRUE(w.find<QLabel>("no-ecu")->isVisible());
    EXPECT_FALSE(w.window.findChild<QAbstractButton*>(QStringLiteral("seat-all"))->isVisible());
    auto* ecu = w.find<QComboBox>("ecu");
    ASSERT_GT(ecu->count(), 1);
    ecu->setCurrentIndex(1);
    emit ecu->activated(1);
    w.settle();
    EXPECT_FALSE(w.window.desk().store.job()->ecu.inputs.empty());
    EXPECT_FALSE(w.find<QLabel>("no-ecu")->isVisible());
    EXPECT_TRUE(w.find<QAbstractButton>("seat-all")->isVisible());
}

/// The row of the brief's list whose standing begins so.
int rowOf(const QTableWidget& table, const char* standing, const char* name = "")
{
    for (int row = 0; row < table.rowCount(); ++row)
        if (table.item(row, 0)->text().startsWith(QLatin1String(standing)) &&
            table.item(row, 1)->text().contains(QLatin1String(name)))
            return row;
    return -1;
}

TEST(LeadsOn, TheBriefAndTheStripShowOneSelection)
{
    Window w;
    w.choose("crank");
    w.window.showStage(Stage::Brief);
    auto* list = w.find<QTableWidget>("consequences");
    EXPECT_EQ(list->item(list->currentRow(), 1)->text(), QStringLiteral("Crank trigger"));
    w.choose("clt");
    EXPECT_EQ(list->item(list->currentRow(), 1)->text(), QStringLiteral("Coolant temp")) << "it follows";
    EXPECT_THAT(w.textOf("siting"), Not(testing::IsEmpty()));

    w.click("watch-egt");
    w.settle();
    const int wished = rowOf(*list, "+  to add");
    ASSERT_GE(wished, 0) << "what is to be added is not called added";
    list->setCurrentCell(wished, 0);
    w.settle();
    EXPECT_TRUE(w.window.desk().selection.circuit().empty()) << "no other circuit stands in the strip";
    EXPECT_EQ(w.window.desk().selection.wish(), list->item(wished, 1)->text().toStdString());
    EXPECT_EQ(list->currentRow(), wished);
    w.key(Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    ASSERT_NE(job::find(*w.window.desk().store.job(), w.window.desk().selection.circuit()), nullptr)
        << "brought in, it is the circuit that is selected";
    EXPECT_EQ(job::find(*w.window.desk().store.job(), w.window.desk().selection.circuit())->function.value, "egt");
}

TEST(LeadsOn, WithNothingSelectedTheKeysTakeEitherEnd)
{
    Window w;
    const auto& circuits = w.window.desk().store.job()->circuits;
    w.window.desk().selection.setCircuit({});
    w.key(Qt::Key_Down, Qt::AltModifier);
    EXPECT_EQ(w.window.desk().selection.circuit(), circuits.front().id);
    w.window.desk().selection.setCircuit({});
    w.key(Qt::Key_Up, Qt::AltModifier);
    EXPECT_EQ(w.window.desk().selection.circuit(), circuits.back().id);
}

TEST(LeadsOn, TheBriefsLinksShowWhereOneIs)
{
    Window w;
    w.window.showStage(Stage::Brief);
    QCoreApplication::processEvents();
    const std::vector<const char*> links = {"go-section-circuits", "go-section-air",    "go-section-range",
                                            "go-section-harness",  "go-section-siting", "go-section-questions"};
    EXPECT_TRUE(w.find<QAbstractButton>(links.front())->isChecked());
    for (const char* link : links) {
        w.click(link);
        EXPECT_TRUE(w.find<QAbstractButton>(link)->isChecked()) << link;
    }
    // By hand, from top to bottom: every section has its turn, in order.
    QScrollBar* bar = nullptr;
    for (QWidget* up = w.find<QTableWidget>("consequences"); up != nullptr && bar == nullptr; up = up->parentWidget())
        if (auto* area = qobject_cast<QScrollArea*>(up))
            bar = area->verticalScrollBar();
    ASSERT_NE(bar, nullptr);
    std::vector<std::string> seen;
    for (int at = 0; at <= bar->maximum(); at += 5) {
        bar->setValue(at);
        for (const char* link : links)
            if (w.find<QAbstractButton>(link)->isChecked() && (seen.empty() || seen.back() != link))
                seen.emplace_back(link);
    }
    bar->setValue(bar->maximum());
    EXPECT_EQ(seen.size(), links.size());
    EXPECT_TRUE(std::ranges::equal(seen, links));
}

TEST(LeadsOn, TheWindowOpensWithinTheFreeDesk)
{
    EXPECT_EQ(app::openingSize({1920, 1040}), QSize(1280, 800));
    const QSize small = app::openingSize({1280, 760}); // a desk of 1280 x 800 with a bar
    EXPECT_LE(small.width(), 1280);
    EXPECT_LT(small.height(), 760) << "its own frame has room too";
}

TEST(LeadsOn, TheBoardCutsNeitherSignalsNorSeatsShort)
{
    Window w;
    ASSERT_TRUE(w.window.desk().store.editOrSay(QStringLiteral("Odd wiring"), [](job::Job& job) {
        EXPECT_TRUE(harness::unseat(job, job::CircuitId{"clt"}));
        for (parts::EcuInput& i : job.ecu.inputs)
            i.pull_up_ohm.reset();
        EXPECT_TRUE(harness::addPullUp(job, job::CircuitId{"iat"}, 12400, 0.01));
        EXPECT_TRUE(harness::addPullUp(job, job::CircuitId{"crank"}, 12400, 0.01));
    }));
    w.settle();
    w.window.showStage(Stage::Board);
    QCoreApplication::processEvents();
    auto* board = w.find<QTableView>("board");
    std::string all;
    for (int row = 0; row < board->model()->rowCount(); ++row)
        for (const int column : {app::BoardModel::Signal, app::BoardModel::Input}) {
            const QModelIndex cell = board->model()->index(row, column);
            const QString words = cell.data().toString();
            const QFontMetrics metrics(cell.data(Qt::FontRole).value<QFont>());
            EXPECT_LE(metrics.horizontalAdvance(words), board->columnWidth(column) - 12) << words.toStdString();
            all += words.toStdString() + "\n";
        }
    EXPECT_THAT(all, testing::AllOf(HasSubstr("no seat"), HasSubstr("thermistor, 12k4 fitted"),
                                    HasSubstr("open collector, 12k4 fitted")));
}

TEST(LeadsOn, AChoiceIsAsFlatAsAFieldAndItsListHasAnEdge)
{
    Window w;
    goTo(w, "clt");
    auto* box = w.find<QComboBox>("breakpoints");
    const QImage drawn = box->grab().toImage();
    for (int y = 3; y < drawn.height() - 3; ++y)
        EXPECT_EQ(drawn.pixelColor(3, y), app::look::colours().card) << y << ": no gradient";
    box->showPopup();
    QCoreApplication::processEvents();
    const QImage list = box->view()->grab().toImage();
    EXPECT_EQ(list.pixelColor(0, list.height() / 2), app::look::colours().inkSoft);
    EXPECT_GE(box->view()->mapToGlobal(QPoint()).y(), box->mapToGlobal(QPoint(0, box->height())).y() - 2)
        << "beneath it, not over it";
    box->hidePopup();
}

TEST(LeadsOn, ARefusedEditIsSaid)
{
    Window w;
    const auto before = w.window.desk().store.job();
    EXPECT_FALSE(w.window.desk().store.editOrSay(QStringLiteral("Shorten a wire"),
                                                 [](job::Job& job) { job.wires.front().length_m = -1; }));
    EXPECT_THAT(w.notice(), HasSubstr("Shorten a wire"));
    EXPECT_EQ(w.window.desk().store.job(), before);
}

TEST(LeadsOn, ThePullUpThatIsChosenInTheTableIsTheOneThatIsFitted)
{
    Window w;
    ASSERT_TRUE(w.window.desk().store.editOrSay(QStringLiteral("Small ECU"),
                                                [](job::Job& job) { return harness::setEcu(job, ecu("small-4")); }));
    w.settle();
    w.window.showStage(Stage::Inputs);
    w.key(Qt::Key_S);
    w.settle();
    w.choose("clt");
    auto* table = w.find<QTableWidget>("pull-ups");
    ASSERT_GT(table->rowCount(), 3);
    const std::string proposed = w.textOf("way-title-0");
    EXPECT_THAT(proposed,
                HasSubstr(table->item(table->currentRow(), 0)->text().section(' ', 0, 0).toStdString() + " pull-up"))
        << "the proposed one is the chosen one at first";
    const int other = table->currentRow() == 0 ? 1 : 0;
    table->setCurrentCell(other, 0);
    const std::string value = table->item(other, 0)->text().section(' ', 0, 0).toStdString();
    EXPECT_THAT(w.textOf("way-title-0"), HasSubstr(value + " pull-up"));
    w.click("way-0");
    w.settle();
    const auto job = w.window.desk().store.job();
    const job::Resistor* fitted = electrics::Wiring(*job).pullUp(*job::find(*job, job::CircuitId{"clt"}));
    ASSERT_NE(fitted, nullptr);
    EXPECT_EQ(units::formatOhms(fitted->ohm), value);
}

} // namespace
} // namespace vicegrip::test
