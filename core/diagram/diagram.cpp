#include "core/diagram/diagram.h"

#include "core/base/phrase.h"
#include "core/diagram/tracks.h"
#include "core/pinning/pin_use.h"

#include <algorithm>
#include <map>

namespace vicegrip::diagram {
namespace {

using drawn::Align;
using drawn::At;
using drawn::Ink;

constexpr double kPlugWide_mm = 52, kJointWide_mm = 30, kHalfWide_mm = 18, kTrack_mm = 1.8, kClear_mm = 3,
                 kWire_mm = 0.7, kSheetTitle_mm = 9, kTitle_mm = 2.9, kText_mm = 2.3, kLabel_mm = 2.3,
                 kCavityWide_mm = 8;
constexpr size_t kMostLabel = 22;

using Uses = std::map<job::PointRef, pinning::PinUse>;

class Drawing
{
  public:
    Drawing(const job::Job& job, const Sheet& sheet, const Uses& uses)
        : m_job(job), m_sheet(sheet), m_placed(place(job, sheet)), m_tracks(tracksOf(m_placed)), m_uses(uses)
    {
    }

    drawn::Figure made()
    {
        widths();
        m_figure.title = m_sheet.title;
        m_figure.spoken = phrase("Wiring diagram: {}. The same is in the list of wires.", m_sheet.title);
        drawn::Words& title = m_figure.words({0, 4.2}, m_sheet.title, 4);
        title.bold = true;
        for (size_t i = 0; i < m_placed.runs.size();) {
            size_t end = i + 1;
            while (end < m_placed.runs.size() && m_placed.runs[end].link == m_placed.runs[i].link)
                ++end;
            link(i, end);
            i = end;
        }
        for (size_t b = 0; b < m_placed.blocks.size(); ++b)
            if (m_placed.blocks[b].kind != BlockKind::Through)
                block(m_placed.blocks[b]);
        double bottom = 0;
        for (const Block& b : m_placed.blocks)
            bottom = std::max(bottom, b.top_mm + heightOf(b));
        m_figure.height_mm = bottom + kSheetTitle_mm + 1;
        m_figure.width_mm = m_left.back() + m_wide.back() + 1;
        return std::move(m_figure);
    }

  private:
    [[nodiscard]] double y(double placed) const { return placed + kSheetTitle_mm; }
    [[nodiscard]] const Link& linkOf(size_t run) const { return m_sheet.links[m_placed.runs[run].link]; }

    void widths()
    {
        const size_t columns = m_placed.columns.size();
        m_wide.assign(columns, kJointWide_mm);
        for (const Block& b : m_placed.blocks) {
            double& wide = m_wide[static_cast<size_t>(b.column)];
            if (b.kind == BlockKind::Plug)
                wide = std::max(wide, kPlugWide_mm);
            else if (b.kind == BlockKind::Pass)
                wide = std::max(wide, 2 * kHalfWide_mm);
        }
        m_words.assign(columns, 0);
        std::vector<double> back(columns, 0);
        for (size_t i = 0; i < m_placed.runs.size(); ++i) {
            const Run& run = m_placed.runs[i];
            const auto channel = static_cast<size_t>(run.channel(m_placed.blocks));
            double& room = run.sides[0] == kLeft ? back[channel] : m_words[channel];
            room = std::max(room, drawn::evenWidth(labelOf(i), kLabel_mm) + 3);
            if (isLast(i) && run.sides[1] == kLeft)
                back[channel] = std::max(back[channel], drawn::evenWidth(tagOf(i), kLabel_mm) + 2);
        }
        double x = 1;
        for (size_t c = 0; c < columns; ++c) {
            m_left.push_back(x);
            x += m_wide[c] + m_words[c] + back[c] + 2 * kClear_mm + kTrack_mm * m_tracks.count[c];
        }
    }
    [[nodiscard]] bool isLast(size_t run) const
    {
        return run + 1 == m_placed.runs.size() || m_placed.runs[run + 1].link != m_placed.runs[run].link;
    }
    /// A wire's name, at its other end.
    [[nodiscard]] std::string tagOf(size_t run) const
    {
        const Link& l = linkOf(run);
        return l.kind == LinkKind::Wire ? l.label.substr(0, l.label.find(' ')) : std::string();
    }
    [[nodiscard]] std::string labelOf(size_t run) const
    {
        const bool first = run == 0 || m_placed.runs[run - 1].link != m_placed.runs[run].link;
        return first ? drawn::shortened(linkOf(run).label, kMostLabel) : std::string();
    }

    [[nodiscard]] double xOf(const Run& run, size_t end) const
    {
        const auto column = static_cast<size_t>(m_placed.blocks[run.blocks[end]].column);
        return m_left[column] + (run.sides[end] == kRight ? m_wide[column] : 0);
    }
    [[nodiscard]] double trackOf(size_t run) const
    {
        const auto channel = static_cast<size_t>(m_placed.runs[run].channel(m_placed.blocks));
        return m_left[channel] + m_wide[channel] + m_words[channel] + kClear_mm + kTrack_mm * (m_tracks.of[run] + 0.5);
    }

    /// The runs of one link, from the left, as one line.
    void link(size_t first, size_t end)
    {
        const Link& l = linkOf(first);
        drawn::Stroke stroke;
        for (size_t i = first; i < end; ++i) {
            const Run& run = m_placed.runs[i];
            stroke.points.push_back({xOf(run, 0), y(run.y_mm[0])});
            if (m_tracks.of[i] >= 0) {
                stroke.points.push_back({trackOf(i), y(run.y_mm[0])});
                stroke.points.push_back({trackOf(i), y(run.y_mm[1])});
            }
            stroke.points.push_back({xOf(run, 1), y(run.y_mm[1])});
        }
        stroke.width_mm = l.kind == LinkKind::Wire ? kWire_mm : 0.4;
        stroke.wire = l.colour;
        const At start = stroke.points.front();
        m_figure.shapes.push_back({std::move(stroke), l.about});
        const bool back = m_placed.runs[first].sides[0] == kLeft;
        const double over = l.kind == LinkKind::Wire ? 1.2 : 1.9;
        label(l, {start.x, start.y - over}, labelOf(first), back);
        if (const Run& last = m_placed.runs[end - 1]; !back && !tagOf(first).empty())
            label(l, {xOf(last, 1), y(last.y_mm[1]) - over}, tagOf(first), last.sides[1] == kLeft);
        if (l.kind != LinkKind::Wire)
            symbol(l, {start.x + (back ? -8 : 8), start.y});
    }

    void label(const Link& l, At end, const std::string& text, bool before)
    {
        drawn::Words& words = m_figure.words({end.x + (before ? -1.5 : 1.5), end.y}, text, kLabel_mm);
        words.even = true;
        words.align = before ? Align::Right : Align::Left;
        m_figure.shapes.back().about = l.about;
    }

    /// A fuse, a resistor, a contact (IEC 60617), a consumer, in its line.
    void symbol(const Link& l, At at)
    {
        constexpr double kLong = 6, kTall = 2;
        if (l.kind == LinkKind::Contact) {
            m_figure.line({{at.x - kLong / 2, at.y}, {at.x + kLong / 2, at.y}}, Ink::Paper, 1);
            m_figure.line({{at.x - kLong / 2, at.y}, {at.x + kLong / 2, at.y - 1.6}}, Ink::Line, 0.4);
            return;
        }
        m_figure.box({at.x - kLong / 2, at.y - kTall / 2}, kLong, kTall,
                     l.kind == LinkKind::Load ? Ink::Fill : Ink::Paper, Ink::Line, 0.35);
        if (l.kind == LinkKind::Fuse)
            m_figure.line({{at.x - kLong / 2, at.y}, {at.x + kLong / 2, at.y}}, Ink::Line, 0.35);
        if (l.kind == LinkKind::Load)
            m_figure.line({{at.x - kLong / 2, at.y + kTall / 2}, {at.x + kLong / 2, at.y - kTall / 2}}, Ink::Line,
                          0.35);
    }

    void block(const Block& b)
    {
        const auto column = static_cast<size_t>(b.column);
        const double x = m_left[column], wide = m_wide[column], top = y(b.top_mm) + kBlockTitle_mm;
        const double tall = heightOf(b) - kBlockTitle_mm;
        m_figure.box({x, top}, wide, tall, b.kind == BlockKind::Joint ? Ink::Fill : Ink::Paper, Ink::Line, 0.3);
        m_figure.shapes.back().about = "block " + b.name;
        if (b.kind == BlockKind::Pass) {
            m_figure.line({{x + wide / 2, top}, {x + wide / 2, top + tall}}, Ink::Line, 0.3);
            m_figure.line({{x + wide / 2 + 0.8, top}, {x + wide / 2 + 0.8, top + tall}}, Ink::Line, 0.3);
        }
        title(b, {x, top - 1.2}, wide);
        for (const Row& row : b.rows)
            for (const BlockSide side : {kLeft, kRight})
                if (row.ends[side].is())
                    port(b, row, side, {x + (side == kRight ? wide : 0), y(row.y_mm)}, wide);
    }
    /// A plug's name and label over it; a joint's name over it, and its label within.
    void title(const Block& b, At at, double wide)
    {
        const auto letters = [wide](double type) { return static_cast<size_t>((wide - 2) / (0.56 * type)); };
        std::string words = b.name;
        if (const job::Connector* c = job::findConnector(m_job, b.name)) {
            const std::string spoken = job::spoken(m_job, {b.name, {}});
            words = c->label.empty() || c->label == b.name ? spoken : b.name + "  " + c->label;
        } else if (const job::Joint* j = job::findJoint(m_job, b.name)) {
            words = job::spoken(m_job, {b.name, {}});
            const std::string label = j->label.empty() || j->label == words ? std::string() : j->label;
            drawn::Words& inside =
                m_figure.words({at.x + wide / 2, at.y + 1.2 + (heightOf(b) - kBlockTitle_mm) / 2 + 0.8},
                               drawn::shortened(label, letters(kText_mm)), kText_mm);
            inside.align = Align::Middle;
            inside.ink = Ink::Soft;
        } else { // both halves of a bulkhead
            std::ranges::replace(words, '|', ' ');
        }
        m_figure.words(at, drawn::shortened(words, letters(kTitle_mm)), kTitle_mm).bold = true;
    }
    /// A dot where the wire ends, the cavity's name beside it, and what the cavity is for.
    void port(const Block& b, const Row& row, BlockSide side, At at, double wide)
    {
        const job::PointRef& place = row.places[side];
        m_figure.shapes.push_back({drawn::Disc{at, 0.75}, "place " + place.text()});
        if (b.kind == BlockKind::Joint)
            return;
        const double in = side == kLeft ? 1 : -1;
        const std::string name = b.kind == BlockKind::Pass ? place.owner + " " + place.cavity : place.cavity;
        drawn::Words& cavity = m_figure.words({at.x + in * 1.6, at.y + 0.9}, name, 2.6);
        cavity.even = cavity.bold = true;
        cavity.align = side == kLeft ? Align::Left : Align::Right;
        if (b.kind == BlockKind::Pass || (side == kRight && row.ends[kLeft].is()))
            return;
        const auto use = m_uses.find(place);
        if (use == m_uses.end())
            return;
        const auto letters = static_cast<size_t>((wide - kCavityWide_mm - 2) / (0.56 * kText_mm));
        drawn::Words& words = m_figure.words({at.x + in * kCavityWide_mm, at.y + 0.8},
                                             drawn::shortened(use->second.purpose, letters), kText_mm);
        words.ink = Ink::Soft;
        words.align = side == kLeft ? Align::Left : Align::Right;
    }

    const job::Job& m_job;
    const Sheet& m_sheet;
    Placed m_placed;
    Tracks m_tracks;
    const Uses& m_uses;
    drawn::Figure m_figure;
    std::vector<double> m_left, m_wide, m_words; ///< by column; room for words at the channel's left
};

} // namespace

drawn::Figure drawnOf(const job::Job& job, const Sheet& sheet)
{
    return Drawing(job, sheet, pinning::pinUses(job)).made();
}

std::vector<drawn::Figure> drawnOf(const job::Job& job, const std::vector<Sheet>& sheets)
{
    const Uses uses = pinning::pinUses(job);
    std::vector<drawn::Figure> out;
    for (const Sheet& sheet : sheets)
        out.push_back(Drawing(job, sheet, uses).made());
    return out;
}

} // namespace vicegrip::diagram
