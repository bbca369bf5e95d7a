#pragma once

#include "core/clicks/clicks.h"
#include "core/run_sheet/run_sheet.h"
#include "core/throttle/limits.h"
#include "tests/support/window.h"

#include <QDateTime>

namespace vicegrip::test {

/// The demo car's run sheet in the window, and hands that work on it.
class OnTheSheet : public testing::Test
{
  protected:
    void show()
    {
        w.window.showStage(analysis::Stage::Start);
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] std::string title() { return w.textOf("sheet-title"); }
    [[nodiscard]] std::string standing() { return w.textOf("sheet-standing"); }
    [[nodiscard]] QTableWidget* list() { return w.find<QTableWidget>("sheet-lines"); }

    void choose(const char* line)
    {
        for (int row = 0; row < list()->rowCount(); ++row)
            if (list()->item(row, 1)->text() == QString::fromUtf8(line)) {
                list()->setCurrentCell(row, 1);
                w.settle();
                return;
            }
        ADD_FAILURE() << "no line " << line;
    }

    [[nodiscard]] size_t passed(const std::string& id)
    {
        return static_cast<size_t>(std::ranges::count(job().passed, id, &job::Passed::line));
    }

    /// All that other stages prove of the job before its start: plugs, grounds in Ohm, wheels, outputs, limits.
    void workElsewhere()
    {
        ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("elsewhere"), [](job::Job& j) -> Result<void> {
            const char* when = "2026-01-01T00:00:00Z";
            pinAll(j);
            turnAll(j);
            const auto a = analysed(j);
            const electrics::Wiring wiring(*a.job);
            for (const clicks::Standing& s : a.clicks)
                j.clicks.push_back(clicks::record(j, a.facts, wiring, *job::find(j, s.circuit), {s.circuit}, when));
            for (job::Circuit& c : j.circuits) {
                const parts::Part* sensor = job::sensorOf(j, c);
                if (sensor == nullptr || !throttle::takesLimits(*sensor))
                    continue;
                const auto curve = analysis::curve(a, c.id);
                job::ThrottleLimits limits;
                limits.closed_v = limits.closedRest_v = curve.front().reading;
                limits.open_v = limits.openRest_v = curve.back().reading;
                c.limits = throttle::calibrated(limits, a.facts, c, wiring.paths(c));
            }
            j.proofs.clear(); // the bench's ECU goes by the file, and holds the table of the pressure
            for (const proof::CircuitView& view : a.circuits)
                for (const auto& e : analysis::promises(a, view.id, job::Condition::BatteryOff))
                    if (e.station.role == parts::PinRole::Ground && e.promises())
                        j.proofs.push_back(proof::record(a.facts, view.id, e, e.due, job::ReadingSource::Meter, when));
            return {};
        }));
        w.settle();
    }

    /// Every line that comes before this one and is worked here, as a good car shows it.
    void workThrough(const std::string& id)
    {
        ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("before"), [&](job::Job& j) -> Result<void> {
            const std::string now = QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString();
            for (int i = 0; i < 100; ++i) {
                const auto s = run_sheet::sheetOf(analysed(j), now);
                std::optional<size_t> next;
                for (size_t l = 0; l < s.lines.size() && s.lines[l].id != id && !next; ++l)
                    if (s.lines[l].by != run_sheet::By::Work && s.standings[l].state != proof::State::Done &&
                        s.standings[l].waitsFor.empty())
                        next = l;
                if (!next)
                    return {};
                const auto& window = s.lines[*next].window;
                EXPECT_TRUE(run_sheet::pass(j, s, *next, {window ? std::optional(window->due) : std::nullopt}, now))
                    << s.lines[*next].id;
            }
            return {};
        }));
        w.settle();
    }

    /// Lines before power, by eyes and by typing.
    void passBeforePower()
    {
        for (int i = 0; i < 20 && !title().starts_with("Key on"); ++i) {
            auto* reading = w.find<QLineEdit>("sheet-reading");
            if (reading->isVisible())
                w.type(reading, title().starts_with("Battery") ? "12.6" : "open");
            else
                w.key(Qt::Key_Space);
            w.settle();
        }
    }

    UserFolder user;
    Window w;
};

} // namespace vicegrip::test
