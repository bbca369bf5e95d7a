#include "core/book/paged.h"

#include "core/base/phrase.h"
#include "core/base/utf8.h"
#include "core/drawn/pdf_file.h"

#include <algorithm>
#include <numeric>

namespace vicegrip::book {
namespace {

using drawn::Ink;

constexpr double kLong_mm = 297, kShort_mm = 210, kLeft_mm = 18, kRight_mm = 16, kTop_mm = 16, kFoot_mm = 18;
constexpr double kBody_mm = 3.3, kCell_mm = 2.75, kHeading_mm = 4.4, kChapter_mm = 7.5, kTitle_mm = 10, kPad_mm = 1;
constexpr size_t kMostLetters = 1200; ///< bytes of a cell on one page

/// A row whose cells are too long for a page as several.
std::vector<std::vector<std::string>> pieces(std::vector<std::string> row)
{
    std::vector<std::vector<std::string>> out;
    while (std::ranges::any_of(row, [](const std::string& c) { return c.size() > kMostLetters; })) {
        std::vector<std::string> head(row.size());
        for (size_t i = 0; i < row.size(); ++i) {
            head[i] = cutTo(row[i], kMostLetters);
            row[i].erase(0, head[i].size());
        }
        out.push_back(std::move(head));
    }
    out.push_back(std::move(row));
    return out;
}

} // namespace

Paged::Paged(cairo_surface_t* surface, std::string foot, bool draws, drawn::LaidBefore& before)
    : m_surface(surface), m_pen(surface, draws, &before), m_foot(std::move(foot))
{
    begin(false);
}

double Paged::wide() const
{
    return (m_lying ? kLong_mm : kShort_mm) - kLeft_mm - kRight_mm;
}

double Paged::bottom() const
{
    return (m_lying ? kShort_mm : kLong_mm) - kFoot_mm;
}

void Paged::begin(bool lying)
{
    m_lying = lying;
    drawn::setPage(m_surface, m_pen, lying ? kLong_mm : kShort_mm, lying ? kShort_mm : kLong_mm);
    ++m_number;
    m_open = true;
    m_y = kTop_mm;
}

void Paged::close()
{
    if (!m_open)
        return;
    const double at = bottom() + 6;
    const auto left = m_pen.lay(m_foot, kCell_mm, false, false, wide() - 20);
    m_pen.show(left, {kLeft_mm, at}, Ink::Soft);
    const auto right = m_pen.lay(std::to_string(m_number), kBody_mm, true, true, 0);
    m_pen.show(right, {kLeft_mm + wide() - 8, at});
    cairo_show_page(m_pen.page());
    m_open = false;
}

bool Paged::need(double height_mm)
{
    if (m_y + height_mm <= bottom() && !m_lying)
        return false;
    close();
    begin(false);
    return true;
}

void Paged::bookmark(const std::string& words, int parent, int& made)
{
    const std::string name = "mark" + std::to_string(++m_marks);
    cairo_tag_begin(m_pen.page(), CAIRO_TAG_DEST, ("name='" + name + "'").c_str());
    cairo_tag_end(m_pen.page(), CAIRO_TAG_DEST);
    made = cairo_pdf_surface_add_outline(m_surface, parent, words.c_str(), ("dest='" + name + "'").c_str(),
                                         static_cast<cairo_pdf_outline_flags_t>(0));
}

double Paged::words(const std::string& text, double size_mm, bool bold, Ink ink, double x, double width)
{
    return words(m_pen.lay(text, size_mm, bold, false, width), ink, x);
}

double Paged::words(const drawn::Laid& laid, Ink ink, double x)
{
    m_pen.show(laid, {x, m_y}, ink);
    return drawn::heightOf(laid);
}

void Paged::title(const std::string& text)
{
    m_y += words(phrase("Build book"), kHeading_mm, false, Ink::Soft, kLeft_mm, wide()) + 1;
    m_y += words(text, kTitle_mm, true, Ink::Line, kLeft_mm, wide()) + 6;
}

void Paged::contents(const std::vector<Listed>& chapters)
{
    put(Heading{phrase("Contents")});
    // No links to follow: Cairo 1.16 leaves an object out of a file that has one, and readers must mend it.
    for (const Listed& c : chapters) {
        need(kBody_mm * 2);
        const double tall = words(c.title, kBody_mm, false, Ink::Line, kLeft_mm, wide() - 20);
        const auto page = m_pen.lay(std::to_string(c.page), kBody_mm, false, true, 0);
        m_pen.show(page, {kLeft_mm + wide() - 10, m_y});
        m_y += tall + 1.2;
    }
}

int Paged::chapter(const std::string& text)
{
    close();
    begin(false);
    bookmark(text, CAIRO_PDF_OUTLINE_ROOT, m_chapter);
    m_y += words(text, kChapter_mm, true, Ink::Line, kLeft_mm, wide()) + 4;
    return m_number;
}

void Paged::block(const Block& block)
{
    std::visit([this](const auto& b) { put(b); }, block);
}

void Paged::put(const Heading& heading)
{
    need(30); // never the last line of a page
    m_y += 3;
    int made = 0;
    bookmark(heading.words, m_chapter, made);
    m_y += words(heading.words, kHeading_mm, true, Ink::Line, kLeft_mm, wide()) + 1.5;
}

void Paged::put(const Paragraph& paragraph)
{
    const double in = paragraph.caution ? 3 : 0;
    const auto laid = m_pen.lay(paragraph.words, kBody_mm, paragraph.caution, false, wide() - 2 * in);
    const double tall = drawn::heightOf(laid);
    need(tall + 2 * in + 20); // what it speaks of follows on the same page
    if (paragraph.caution) {
        drawn::Figure frame;
        frame.box({0, 0}, wide(), tall + 2 * in, std::nullopt, Ink::Line, 0.6);
        m_pen.show(frame, {kLeft_mm, m_y});
        m_y += in;
    }
    m_y += words(laid, Ink::Line, kLeft_mm + in) + in + 2;
}

void Paged::put(const Pairs& pairs)
{
    const double name = 52;
    for (const auto& [what, value] : pairs.lines) {
        const auto laid = m_pen.lay(value, kBody_mm, false, false, wide() - name);
        need(drawn::heightOf(laid) + 1);
        const double named = words(what, kBody_mm, false, Ink::Soft, kLeft_mm, name - 2);
        m_y += std::max(named, words(laid, Ink::Line, kLeft_mm + name)) + 0.8;
    }
    m_y += 1.5;
}

Paged::Row Paged::row(const Table& table, const std::vector<double>& widths, const std::vector<std::string>& cells,
                      bool head) const
{
    Row out;
    for (size_t i = 0; i < cells.size(); ++i) {
        out.cells.push_back(
            m_pen.lay(cells[i], kCell_mm, head, table.columns[i].even && !head, widths[i] - 2 * kPad_mm));
        out.base_mm = std::max(out.base_mm, drawn::baseOf(out.cells.back()));
    }
    for (const drawn::Laid& cell : out.cells)
        out.height_mm = std::max(out.height_mm, drawn::heightOf(cell) + out.base_mm - drawn::baseOf(cell) + 1.2);
    return out;
}

/// A row with a rule under it.
void Paged::put(const Row& row, const std::vector<double>& widths, Ink under, double rule_mm)
{
    double x = kLeft_mm;
    for (size_t i = 0; i < row.cells.size(); ++i) {
        m_pen.show(row.cells[i], {x + (i == 0 ? 0 : kPad_mm), m_y + 0.6 + row.base_mm - drawn::baseOf(row.cells[i])});
        x += widths[i];
    }
    m_y += row.height_mm;
    drawn::Figure rule;
    rule.line({{0, 0}, {x - kLeft_mm, 0}}, under, rule_mm);
    m_pen.show(rule, {kLeft_mm, m_y});
}

void Paged::tableHead(const Table& table, const std::vector<double>& widths)
{
    std::vector<std::string> cells;
    for (const Column& c : table.columns)
        cells.push_back(c.heading);
    put(row(table, widths, cells, true), widths, Ink::Line, 0.4);
}

void Paged::put(const Table& table)
{
    if (table.columns.empty())
        return;
    const double shares = std::accumulate(table.columns.begin(), table.columns.end(), 0.0,
                                          [](double sum, const Column& c) { return sum + c.share; });
    need(16);
    std::vector<double> widths;
    for (const Column& c : table.columns)
        widths.push_back(c.share / shares * wide() * table.part);
    tableHead(table, widths);
    for (const auto& all : table.rows)
        for (const auto& cells : pieces(all)) {
            const Row laid = row(table, widths, cells, false);
            if (need(laid.height_mm)) // as a whole
                tableHead(table, widths);
            put(laid, widths, Ink::Faint, 0.15);
        }
    m_y += 3;
}

void Paged::put(const Photo& photo)
{
    constexpr double kMost_mm = 105; ///< two on a page
    const double scale = std::min(wide() / photo.jpeg.width, kMost_mm / photo.jpeg.height);
    const double tall = photo.jpeg.height * scale;
    const auto under = m_pen.lay(photo.words, kBody_mm, false, false, wide());
    need(tall + drawn::heightOf(under) + 5);
    m_pen.showJpeg(photo.jpeg.bytes, photo.jpeg.width, photo.jpeg.height, {kLeft_mm, m_y}, scale);
    m_y += tall + 1.5;
    m_y += words(under, Ink::Soft, kLeft_mm) + 3;
}

void Paged::put(const Picture& picture)
{
    const drawn::Figure& f = picture.figure;
    const bool lies = picture.lying && f.width_mm > f.height_mm;
    const auto scaleFor = [&](double wide_mm, double high_mm) {
        return std::min({1.0, wide_mm / f.width_mm, high_mm / f.height_mm});
    };
    const double across = (lies ? kLong_mm : kShort_mm) - kLeft_mm - kRight_mm;
    const double scale = scaleFor(across, (lies ? kShort_mm : kLong_mm) - kTop_mm - kFoot_mm);
    if (lies != m_lying || m_y + f.height_mm * scale > bottom()) {
        close();
        begin(lies);
    }
    if (picture.lying) {
        int made = 0;
        bookmark(f.title, m_chapter, made);
    }
    m_pen.show(f, {kLeft_mm, m_y}, scale);
    m_y += f.height_mm * scale + 3;
}

} // namespace vicegrip::book
