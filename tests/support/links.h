#pragma once

#include "tests/support/virtual_bus.h"
#include "tests/support/window.h"

#include <QComboBox>

#include <string>

/// Page Links in a user's hands.
namespace vicegrip::test {

inline const char* const kOther = VICEGRIP_SOURCE_DIR "/tests/data/links/other_unit.dbc";

/// Chooses an entry as a hand does.
inline void pick(Window& w, const char* box, const QString& beginning)
{
    w.settle(); // what it offers may be worked out yet
    auto* combo = w.find<QComboBox>(box);
    for (int i = 0; i < combo->count(); ++i)
        if (combo->itemText(i).startsWith(beginning)) {
            combo->setCurrentIndex(i);
            emit combo->activated(i);
            w.settle();
            return;
        }
    ADD_FAILURE() << beginning.toStdString() << " is not in " << box;
}

/// Page Links, with what a user types for an adapter of his.
inline void fillIn(Window& w, const QString& database = QString::fromLatin1(kOther),
                   const QString& name = QStringLiteral("The other unit"))
{
    w.click("chip-ecu");
    w.settle();
    pick(w, "stream-link", QStringLiteral("another CAN adapter"));
    w.find<QComboBox>("stream-adapter")->setCurrentText(VirtualBus::adapter());
    w.find<QLineEdit>("stream-file")->setText(database);
    w.find<QLineEdit>("stream-name")->setText(name);
}

/// And that it is heard.
inline void use(Window& w)
{
    w.click("stream-use");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.ecuLive(); }, 10000)) << w.textOf("stream-status");
    w.settle();
}

/// What the list of circuits says of one.
inline std::string cell(Window& w, const char* circuit, int column)
{
    auto* table = w.find<QTableWidget>("told");
    for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 0)->text() == QLatin1String(circuit))
            return table->item(row, column)->text().toStdString();
    return "no such row";
}

/// Waits for it.
inline bool shows(Window& w, const char* circuit, int column, const char* what)
{
    return QTest::qWaitFor([&] { return cell(w, circuit, column) == what; }, 5000);
}

} // namespace vicegrip::test
