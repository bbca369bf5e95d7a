#include "app/stages/trigger/opened.h"

#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QFileInfo>

#include <algorithm>

namespace vicegrip::app {
namespace {

Result<trigger::Look> lookAtChannel(const Capture& capture, size_t channel, const trigger::Known& known, bool coil)
{
    const capture::Channel& c = capture.seen.channels[channel];
    return c.isOfChanges() ? trigger::lookAtChanges(c.changes_s, c.volts, known)
                           : trigger::lookAt(c.volts, capture.seen.step_s, known, coil);
}

trigger::Scale scaleOf(const Capture& capture, const capture::Channel& c)
{
    return capture.seen.ofFullScale ? trigger::Scale::FullScale
           : capture::isLogic(c)    ? trigger::Scale::Logic
                                    : trigger::Scale::Volts;
}

/// How far the cam's edge keeps from the crank's teeth.
void addCam(Opened& out, size_t channel)
{
    constexpr double kMoves_deg = 3; // what a belt or a chain in order moves (typical)
    const auto& seen = out.capture->seen;
    const capture::Channel& c = seen.channels[channel];
    const auto levels = trigger::levelsOf(c.volts);
    const auto degrees = [](double deg) { return units::formatNumber(deg, 1) + "°"; };
    trigger::Verdict v{phrase("Cam beside the crank"), phrase("stands still"), {}, trigger::Grade::Bad, {}};
    if (levels) {
        const auto edges = c.isOfChanges() ? trigger::edgesOfChanges(c.changes_s, c.volts, *levels)
                                           : trigger::edgesIn(c.volts, *levels, seen.step_s);
        const auto beside = trigger::camBeside(out.look->report, trigger::timesOf(edges, false));
        if (!beside) {
            v.is = beside.error().sentence;
        } else {
            const auto nearest = std::ranges::min_element(beside->edges, {}, &trigger::CamEdge::toTooth_deg);
            v.is = phrase("{} after the first tooth, {} from tooth {}, ± {}", degrees(nearest->angle_deg),
                          degrees(nearest->toTooth_deg), std::to_string(nearest->tooth + 1),
                          degrees(2 * nearest->scatter_deg));
            v.limit = phrase("{} from a tooth, what belt or chain moves (typical)", degrees(kMoves_deg));
            const bool keeps = nearest->toTooth_deg - 2 * nearest->scatter_deg > kMoves_deg;
            v.grade = keeps && beside->tellsTurn ? trigger::Grade::Good : trigger::Grade::Bad;
            v.todo = !beside->tellsTurn
                         ? phrase("Its edges are the same in both turns: it does not tell which turn it is.")
                         : phrase("Count its other edge, or turn the cam's wheel, until it falls between two teeth.");
        }
    }
    if (v.grade == trigger::Grade::Good)
        v.todo.clear();
    out.verdicts.push_back(std::move(v));
}

void overview(Capture& capture)
{
    for (const capture::Channel& c : capture.seen.channels)
        capture.overviews.emplace_back(c.volts);
}

} // namespace

std::shared_ptr<const Capture> readForView(const QString& file)
{
    auto out = std::make_shared<Capture>();
    out->file = file;
    out->name = QFileInfo(file).fileName();
    auto seen = capture::readCapture(file.toStdString());
    if (!seen) {
        out->trouble = text(seen.error().text());
        return out;
    }
    out->seen = std::move(*seen);
    overview(*out);
    return out;
}

std::shared_ptr<const Capture> forView(capture::Seen seen, const QString& name)
{
    auto out = std::make_shared<Capture>();
    out->name = name;
    out->seen = std::move(seen);
    overview(*out);
    return out;
}

Opened lookForView(std::shared_ptr<const Capture> capture, const Looking& how)
{
    Opened out;
    out.how = how;
    out.capture = std::move(capture);
    if (!out.capture->trouble.isEmpty() || how.channel >= out.capture->seen.channels.size())
        return out;
    const capture::Channel& channel = out.capture->seen.channels[how.channel];
    out.coil = !channel.isOfChanges() && how.coil.value_or(trigger::looksLikeCoil(channel.volts));
    auto look = lookAtChannel(*out.capture, how.channel, how.known, out.coil);
    if (!look) {
        out.trouble = text(look.error().sentence);
        return out;
    }
    out.look = std::move(*look);
    out.verdicts = trigger::verdicts(*out.look, how.wanted, scaleOf(*out.capture, channel));
    out.recognised = text(out.look->report.line); // none was said
    if (how.known.wheel && out.verdicts.front().grade == trigger::Grade::Bad) { // it is another
        trigger::Known open = how.known;
        open.wheel.reset();
        open.rising.reset();
        if (const auto found = lookAtChannel(*out.capture, how.channel, open, out.coil))
            out.recognised = text(found->report.line);
    }
    if (how.beside && *how.beside < out.capture->seen.channels.size())
        addCam(out, *how.beside);
    return out;
}

} // namespace vicegrip::app
