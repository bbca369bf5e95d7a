#pragma once

#include "core/book/content.h"
#include "core/drawn/cairo_figure.h"

#include <cairo-pdf.h>
#include <string>
#include <vector>

/// Inside: blocks on the pages of a PDF, from the top down.
namespace vicegrip::book {

/// What the contents say of a chapter.
struct Listed
{
    std::string title;
    int page = 0; ///< 0: not known yet
};

class Paged
{
  public:
    /// `foot` stands at the foot of every page, before its number. One that does not draw counts pages; `before` spares
    /// the one that draws what it laid out.
    Paged(cairo_surface_t* surface, std::string foot, bool draws, drawn::LaidBefore& before);

    void title(const std::string& words);
    void contents(const std::vector<Listed>& chapters);
    /// Begins on a new page; the page's number.
    int chapter(const std::string& words);
    void block(const Block& block);
    /// Closes the last page.
    void end() { close(); }

  private:
    void put(const Heading& heading);
    void put(const Paragraph& paragraph);
    void put(const Pairs& pairs);
    void put(const Table& table);
    void put(const Picture& picture);
    void put(const Photo& photo);
    void tableHead(const Table& table, const std::vector<double>& widths);
    struct Row
    {
        std::vector<drawn::Laid> cells;
        double base_mm = 0; ///< of the first line of all its cells, under its top
        double height_mm = 0;
    };
    [[nodiscard]] Row row(const Table& table, const std::vector<double>& widths, const std::vector<std::string>& cells,
                          bool head) const;
    void put(const Row& row, const std::vector<double>& widths, drawn::Ink under, double rule_mm);
    void begin(bool lying);
    void close();
    /// A new page where so much is not left on this one.
    bool need(double height_mm);
    void bookmark(const std::string& words, int parent, int& made);
    [[nodiscard]] double wide() const;
    [[nodiscard]] double bottom() const;
    double words(const std::string& text, double size_mm, bool bold, drawn::Ink ink, double x, double width);
    /// Of what is laid out already: that costs more than all the rest of a book.
    double words(const drawn::Laid& laid, drawn::Ink ink, double x);

    cairo_surface_t* m_surface;
    drawn::Pen m_pen;
    std::string m_foot;
    int m_number = 0, m_chapter = CAIRO_PDF_OUTLINE_ROOT, m_marks = 0;
    bool m_open = false, m_lying = false;
    double m_y = 0;
};

} // namespace vicegrip::book
