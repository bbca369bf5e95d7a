#include "core/trigger/verdicts.h"

#include "core/base/phrase.h"
#include "core/trigger/gap_ratio.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::trigger {
namespace {

std::string degreesText(double deg)
{
    return units::formatNumber(deg, 2) + "°";
}

std::string voltsText(double v)
{
    return units::format(v, units::Dimension::Voltage, "V", 2);
}

std::string lengthText(double m)
{
    return units::format(m, units::Dimension::Length, "mm", 2);
}

std::string edgeWord(bool rising)
{
    return rising ? phrase("rising") : phrase("falling");
}

Grade gradeOf(bool good)
{
    return good ? Grade::Good : Grade::Bad;
}

class Judge
{
  public:
    Judge(const Look& look, const Wanted& wanted, Scale scale)
        : m_look(look), m_wanted(wanted), m_scale(scale), m_report(look.report)
    {
    }

    std::vector<Verdict> all()
    {
        teeth();
        edge();
        sync();
        gap();
        toothErrors();
        runOut();
        if (m_scale == Scale::Volts)
            level();
        if (m_scale != Scale::Logic)
            noise();
        return std::move(m_out);
    }

  private:
    void add(Verdict v)
    {
        if (v.grade != Grade::Bad)
            v.todo.clear();
        m_out.push_back(std::move(v));
    }

    void teeth()
    {
        Verdict v{phrase("Teeth in a turn"),
                  std::to_string(m_report.wheel.teeth.size()),
                  phrase("none is said"),
                  Grade::Unknown,
                  {}};
        if (!m_report.line.empty())
            v.is = m_report.line;
        if (const auto said = readWheel(m_wanted.wheel); said && !m_wanted.wheel.empty()) {
            v.limit = m_wanted.wheel;
            // A wheel that the job says is what was followed: then following it is the proof.
            const double share =
                static_cast<double>(m_report.followed.known()) / static_cast<double>(m_report.times_s.size());
            v.grade = gradeOf(share > 0.5 || isEdgeWrong(m_look)); // then the other edge knows it
            v.todo =
                phrase("The capture is not of the wheel that the job says. Recognise it, and count the teeth on the "
                       "wheel itself.");
        }
        add(std::move(v));
    }

    void sync()
    {
        const Followed& f = m_report.followed;
        Verdict v{phrase("Followed tooth by tooth"),
                  phrase("{} of {} edges", std::to_string(f.known()), std::to_string(m_report.times_s.size())),
                  phrase("all once the first turn has passed"),
                  gradeOf(f.known() > 0 && f.losses.empty()),
                  {}};
        if (!f.placed) {
            v.grade = Grade::Unknown;
            v.limit = phrase("all teeth are alike: another signal tells where a turn begins");
        } else if (isEdgeWrong(m_look)) {
            v.todo = phrase("It goes by the wrong edge: that comes first.");
        } else if (!f.losses.empty()) {
            const Loss& first = f.losses.front();
            const std::string at = units::formatNumber(first.time_s, 3) + " s";
            switch (first.cause) {
            case LossCause::Missing:
                v.todo = phrase("Lost at {}: tooth {} did not come. Look at that tooth, and at the gap there.", at,
                                std::to_string(first.tooth + 1));
                break;
            case LossCause::Extra:
                v.todo = phrase("Lost at {}: an edge too many before tooth {}. Noise: screen grounded at one end, away "
                                "from the coils, its ground at the ECU.",
                                at, std::to_string(first.tooth + 1));
                break;
            case LossCause::Speed:
                v.todo = phrase("Lost at {}, tooth {}: a period that no tooth explains. Another wheel than said, or a "
                                "wire that lets go.",
                                at, std::to_string(first.tooth + 1));
                break;
            }
        } else if (f.known() == 0) {
            v.todo = phrase("No turn of it fits the wheel that is said.");
        }
        add(std::move(v));
    }

    /// What was followed with hindsight, an ECU must tell while it turns.
    void gap()
    {
        const auto ratio = isEdgeWrong(m_look) ? std::nullopt : gapRatio(m_report);
        if (!ratio)
            return;
        const auto times = [](double r) { return units::formatNumber(r, 2); };
        add({phrase("Gap against the speed"),
             phrase("{} times; others {} at most", times(ratio->least), times(ratio->most)),
             phrase("{} times the steps beside it tells it (middle, typical)", times(ratio->between)),
             gradeOf(ratio->tells()),
             phrase("The speed swings so much from tooth to tooth that an ECU may take one for the gap. Turn it "
                    "faster: a full battery, good starter cables; or fit a wheel with more teeth.")});
    }

    /// The wrong edge smears the first tooth after the gap.
    void edge()
    {
        const auto &here = m_look.smear_deg, &there = m_look.otherSmear_deg;
        if (!here && !there)
            return;
        const bool said = m_wanted.rising.has_value(), wrong = isEdgeWrong(m_look);
        const std::string name = edgeWord(m_report.rising), better = edgeWord(!m_report.rising);
        const std::string more = phrase("more than told");
        Verdict v{said ? phrase("Edge that the ECU counts") : phrase("Edge to count"),
                  phrase("{}: first tooth after the gap off by {}", name, here ? degreesText(*here) : more),
                  phrase("{} by the {} edge", there ? degreesText(*there) : more, better),
                  gradeOf(!wrong),
                  {}};
        v.todo = m_look.coil
                     ? phrase("Exchange the sensor's two wires at its plug, or set the ECU to the {} edge.", better)
                     : phrase("Set the ECU to the {} edge.", better);
        add(std::move(v));
    }

    void toothErrors()
    {
        if (!m_report.errors || !isFine(m_report.wheel))
            return; // what one tooth is off by cannot be told from what a compression does
        const std::vector<std::size_t> first = afterGaps(m_report.wheel, m_report.trailing);
        std::size_t worst = 0;
        double most = -1;
        for (std::size_t t = 0; t < m_report.errors->off_deg.size(); ++t)
            if (const double off = std::abs(m_report.errors->off_deg[t]);
                off > most && std::ranges::find(first, t) == first.end()) { // those speak for the edge
                most = off;
                worst = t;
            }
        if (most < 0)
            return;
        add({phrase("Worst tooth"),
             phrase("tooth {}: {} {}", std::to_string(worst + 1), degreesText(most),
                    m_report.errors->off_deg[worst] < 0 ? phrase("early") : phrase("late")),
             phrase("{} at most (typical)", degreesText(m_wanted.tooth_deg)), gradeOf(most <= m_wanted.tooth_deg),
             phrase("Look at that tooth: chipped, bent, or dirt beside it.")});
    }

    void runOut()
    {
        if (!m_look.runOut_m || !m_look.once)
            return;
        add({phrase("Run-out"),
             phrase("{}, farthest {} after the first tooth", lengthText(*m_look.runOut_m),
                    units::formatNumber(farthest_deg(), 0) + "°"),
             phrase("{} at most (typical)", lengthText(m_wanted.runOut_m)),
             gradeOf(*m_look.runOut_m <= m_wanted.runOut_m),
             phrase("Feelers at four places of a turn say it in millimetres. Clean the seat of the wheel, tighten it "
                    "evenly, or have it turned true.")});
    }

    /// Peaks are lowest where it stands farthest; teeth are narrowest there.
    [[nodiscard]] double farthest_deg() const
    {
        const double turn = m_report.wheel.turn_deg, first = edgesOf(m_report.wheel, m_report.trailing).front();
        return std::fmod(m_look.once->greatestAt_deg + turn / 2 - first + 2 * turn, turn);
    }

    void level()
    {
        if (m_look.coil) {
            if (!m_look.leastPeak_v || !(m_look.leastPeak_rpm > 0))
                return;
            const double slow = *m_look.leastPeak_v * m_wanted.slowest_rpm / m_look.leastPeak_rpm;
            add({phrase("Lowest tooth at {} rpm", units::formatNumber(m_wanted.slowest_rpm, 0)), voltsText(slow),
                 phrase("{} arms the input (typical)", voltsText(m_wanted.arms_v)), gradeOf(slow > m_wanted.arms_v),
                 phrase(
                     "Turn the sensor in: its volts rise by an e-th part every 0.7 mm (typical). Or set the ECU to arm "
                     "lower while cranking.")});
            return;
        }
        const double apart = m_look.levels.high_v - m_look.levels.low_v, high = m_look.levels.high_v + apart,
                     low = m_look.levels.low_v - apart;
        add({phrase("Levels"), phrase("{} and {}", voltsText(low), voltsText(high)),
             phrase("below {} and above {}", voltsText(m_wanted.below_v), voltsText(m_wanted.above_v)),
             gradeOf(low < m_wanted.below_v && high > m_wanted.above_v),
             low >= m_wanted.below_v
                 ? phrase("It does not come down: its ground is off, or another pull-up is too strong "
                          "for it.")
                 : phrase("It does not come up: the pull-up is missing, or too weak.")});
    }

    void noise()
    {
        if (!m_look.noise)
            return;
        const NoiseMargin& n = *m_look.noise;
        constexpr double kHalf = 0.5; // of what would make an edge
        const auto shown = [&](double v) {
            return m_scale == Scale::Volts
                       ? voltsText(v)
                       : units::formatNumber(v / n.allowed_v * 100, 0) + " %"; // a sound card knows no volts
        };
        add({phrase("Noise"), phrase("{} at worst", shown(n.worst_v)),
             phrase("{} would be an edge", shown(n.allowed_v)), gradeOf(n.worst_v < kHalf * n.allowed_v),
             phrase("Twist or screen its wires, screen grounded at one end; keep them a hand away from coils and "
                    "injectors; its ground at the ECU alone.")});
    }

    const Look& m_look;
    const Wanted& m_wanted;
    Scale m_scale;
    const Report& m_report;
    std::vector<Verdict> m_out;
};

} // namespace

std::vector<Verdict> verdicts(const Look& look, const Wanted& wanted, Scale scale)
{
    return Judge(look, wanted, scale).all();
}

} // namespace vicegrip::trigger
