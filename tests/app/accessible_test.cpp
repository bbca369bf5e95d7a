#include "tests/support/window.h"

#include <QAbstractItemView>
#include <QAccessible>
#include <QCheckBox>
#include <QComboBox>
#include <QPlainTextEdit>
#include <QScrollArea>

#include <algorithm>
#include <set>

/// What a screen reader is told, read through the accessibility tree as it reads it.
namespace vicegrip {
namespace {

using analysis::Stage;

struct View
{
    Stage stage;
    const char* circuit;
    const char* button; ///< of the view; null: the stage has one
};

constexpr View kViews[] = {{Stage::Board, "clt", nullptr},
                           {Stage::Brief, "map", nullptr},
                           {Stage::Inputs, "clt", nullptr},
                           {Stage::Pins, "clt", "pins-plug"},
                           {Stage::Pins, "clt", "pins-remap"},
                           {Stage::Pins, "clt", "pins-wires"},
                           {Stage::Pins, "clt", "pins-harness"},
                           {Stage::Pins, "clt", "pins-buy"},
                           {Stage::Pins, "clt", "pins-order"},
                           {Stage::Meter, "clt", nullptr},
                           {Stage::Scale, "clt", "scale-table"},
                           {Stage::Scale, "map", "scale-readings"},
                           {Stage::Scale, "clt", "scale-budget"},
                           {Stage::Scale, "tps", "scale-strokes"},
                           {Stage::Handover, "clt", "handover-book"},
                           {Stage::Handover, "clt", "handover-diagram"},
                           {Stage::Handover, "clt", "handover-labels"},
                           {Stage::Handover, "clt", "handover-packet"},
                           {Stage::Handover, "clt", "handover-again"},
                           {Stage::Handover, "clt", "handover-compare"},
                           {Stage::Handover, "clt", "handover-photos"},
                           {Stage::Handover, "clt", "handover-lists"},
                           {Stage::Handover, "clt", "handover-logbook"},
                           {Stage::Trigger, "clt", nullptr},
                           {Stage::Trigger, "crank", "trigger-hand"},
                           {Stage::Trigger, "crank", "trigger-gap"},
                           {Stage::Trigger, "crank", "trigger-capture"},
                           {Stage::Trigger, "crank", "trigger-light"},
                           {Stage::Trigger, "crank", "trigger-mount"},
                           {Stage::Start, "clt", "start-sheet"},
                           {Stage::Start, "clt", "start-logs"}};

std::string nameOf(const View& v)
{
    return std::string(analysis::stageName(v.stage)) + (v.button == nullptr ? "" : std::string(", ") + v.button);
}

void show(test::Window& w, const View& v)
{
    w.choose(v.circuit);
    w.window.showStage(v.stage);
    w.settle();
    if (v.button != nullptr)
        w.click(v.button);
    w.settle();
}

std::string described(const QWidget* w)
{
    return std::string(w->metaObject()->className()) + " " + w->objectName().toStdString();
}

/// Widgets that take the keys now.
std::vector<QWidget*> takingKeys(test::Window& w)
{
    std::vector<QWidget*> out;
    for (QWidget* each : w.window.findChildren<QWidget*>())
        if (each->isVisible() && each->isEnabled() && (each->focusPolicy() & Qt::TabFocus) != 0 &&
            each->focusProxy() == nullptr)
            out.push_back(each);
    return out;
}

TEST(Accessible, WhatTakesTheKeysHasANameARoleAndItsValue)
{
    test::Window w;
    for (const View& v : kViews) {
        show(w, v);
        for (QWidget* each : takingKeys(w)) {
            const QAccessibleInterface* face = QAccessible::queryAccessibleInterface(each);
            ASSERT_NE(face, nullptr) << nameOf(v) << ": " << described(each);
            EXPECT_FALSE(face->text(QAccessible::Name).isEmpty()) << nameOf(v) << ": " << described(each);
            EXPECT_NE(face->role(), QAccessible::NoRole) << nameOf(v) << ": " << described(each);
            EXPECT_TRUE(face->state().focusable) << nameOf(v) << ": " << described(each);
            if (const auto* line = qobject_cast<QLineEdit*>(each)) {
                EXPECT_EQ(face->text(QAccessible::Value), line->text()) << nameOf(v) << ": " << described(each);
            }
            if (const auto* box = qobject_cast<QComboBox*>(each); box != nullptr && box->count() > 0) {
                EXPECT_EQ(face->text(QAccessible::Value), box->currentText()) << nameOf(v) << ": " << described(each);
            }
            if (const auto* check = qobject_cast<QCheckBox*>(each)) {
                EXPECT_EQ(face->state().checked, check->isChecked()) << nameOf(v) << ": " << described(each);
            }
        }
    }
}

/// What is drawn is said as well: no drawing that takes the keys without a sentence of what it shows.
TEST(Accessible, DrawingsHaveATextTwin)
{
    test::Window w;
    std::set<std::string> drawn;
    for (const View& v : kViews) {
        show(w, v);
        for (const QWidget* each : w.window.findChildren<QWidget*>()) {
            const std::string kind = each->metaObject()->className();
            const bool ours = kind.starts_with("vicegrip::app::");
            const bool drawing = ours && each->focusPolicy() != Qt::NoFocus && each->isVisible() &&
                                 each->focusProxy() == nullptr && each->children().empty() &&
                                 qobject_cast<const QAbstractButton*>(each) == nullptr &&
                                 qobject_cast<const QAbstractItemView*>(each) == nullptr;
            if (!drawing)
                continue;
            drawn.insert(kind);
            EXPECT_FALSE(each->accessibleName().isEmpty()) << nameOf(v) << ": " << described(each);
            EXPECT_FALSE(each->accessibleDescription().isEmpty()) << nameOf(v) << ": " << described(each);
        }
    }
    EXPECT_GE(drawn.size(), 4U) << "the drawings are among what was looked at";
}

/// Rows of lists: each cell that shows something without words says it.
TEST(Accessible, CellsSayTheirStates)
{
    test::Window w;
    for (const View& v : kViews) {
        show(w, v);
        for (QAbstractItemView* list : w.window.findChildren<QAbstractItemView*>()) {
            if (!list->isVisible() || list->model() == nullptr)
                continue;
            for (int row = 0; row < list->model()->rowCount(); ++row) {
                std::string said;
                for (int column = 0; column < list->model()->columnCount(); ++column) {
                    const QModelIndex cell = list->model()->index(row, column);
                    said += cell.data(Qt::DisplayRole).toString().toStdString() +
                            cell.data(Qt::AccessibleTextRole).toString().toStdString();
                    if (cell.data(Qt::DecorationRole).isValid() && cell.data(Qt::DisplayRole).toString().isEmpty()) {
                        EXPECT_FALSE(cell.data(Qt::AccessibleTextRole).toString().isEmpty())
                            << nameOf(v) << ": " << described(list) << " " << row << ", " << column;
                    }
                }
                EXPECT_FALSE(said.empty()) << nameOf(v) << ": " << described(list) << " row " << row;
            }
        }
    }
}

/// Of buttons one of which is down.
bool oneOfSeveral(const QWidget* widget)
{
    const auto* button = qobject_cast<const QAbstractButton*>(widget);
    return button != nullptr && (button->autoExclusive() || button->group() != nullptr);
}

/// Tab goes through all that takes the keys and comes round; nothing holds it.
TEST(Accessible, TabComesToEverythingAndRound)
{
    test::Window w;
    for (const View& v : kViews) {
        show(w, v);
        w.window.activateWindow();
        const auto all = takingKeys(w);
        ASSERT_FALSE(all.empty());
        all.front()->setFocus();
        std::set<const QWidget*> visited;
        const QWidget* first = QApplication::focusWidget();
        for (size_t step = 0; step < 3 * all.size(); ++step) {
            QWidget* now = QApplication::focusWidget();
            ASSERT_NE(now, nullptr) << nameOf(v);
            visited.insert(now);
            QTest::keyClick(now, Qt::Key_Tab);
            ASSERT_NE(QApplication::focusWidget(), now) << nameOf(v) << ": held by " << described(now);
            if (QApplication::focusWidget() == first)
                break;
        }
        EXPECT_EQ(QApplication::focusWidget(), first) << nameOf(v) << ": it comes round";
        for (const QWidget* each : all) {
            if (oneOfSeveral(each) && std::ranges::any_of(visited, [&](const QWidget* other) {
                    return oneOfSeveral(other) && other->parentWidget() == each->parentWidget();
                }))
                continue; // Tab comes to one of them, the arrows to its neighbours
            EXPECT_TRUE(visited.contains(each)) << nameOf(v) << ": never at " << described(each);
        }
    }
}

/// The keys are seen where they are: with them a widget is drawn otherwise than without.
TEST(Accessible, FocusIsSeen)
{
    test::Window w;
    for (const bool night : {false, true}) {
        w.window.setNight(night);
        for (const View& v : kViews) {
            show(w, v);
            for (QWidget* each : takingKeys(w)) {
                QWidget* elsewhere = w.find<QAbstractButton>("condition-key-on");
                elsewhere->setFocus();
                if (each == elsewhere)
                    w.find<QAbstractButton>("findings")->setFocus();
                const QImage without = each->grab().toImage();
                each->setFocus();
                if (QApplication::focusWidget() != each)
                    continue; // an inner one took them
                EXPECT_NE(each->grab().toImage(), without)
                    << nameOf(v) << (night ? ", night" : "") << ": " << described(each);
            }
        }
    }
    w.window.setNight(false);
}

} // namespace
} // namespace vicegrip
