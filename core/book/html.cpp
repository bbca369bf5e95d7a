#include "core/book/html.h"

#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/drawn/svg.h"

namespace vicegrip::book {
namespace {

using drawn::escaped;

constexpr const char* kStyle = R"(
body { font: 16px/1.45 Inter, sans-serif; color: #16191c; background: #fff; max-width: 60rem; margin: 2rem auto; padding: 0 1rem; }
h1 { font-size: 2rem; } h2 { font-size: 1.5rem; border-bottom: 2px solid #16191c; margin-top: 3rem; } h3 { font-size: 1.1rem; margin-top: 2rem; }
table { border-collapse: collapse; width: 100%; margin: .7rem 0; font-size: .85rem; }
th, td { text-align: left; vertical-align: top; padding: .25rem .5rem; border-bottom: 1px solid #9aa0a4; overflow-wrap: anywhere; }
table.narrow { width: auto; min-width: 40%; } th { border-bottom: 2px solid #16191c; } td.even { font-family: 'JetBrains Mono', monospace; }
dl { display: grid; grid-template-columns: 14rem 1fr; gap: .15rem 1rem; } dt { color: #4d5358; } dd { margin: 0; }
.caution { border: 2px solid #16191c; padding: .5rem .8rem; font-weight: 600; }
figure { margin: 1rem 0; overflow-x: auto; } figure svg, figure img { max-width: 100%; height: auto; } figure img { max-height: 40rem; width: auto; }
@media print { body { max-width: none; margin: 0; font-size: 10pt; } h2 { break-before: page; } figure, tr { break-inside: avoid; } }
)";

struct AsHtml
{
    std::string operator()(const Heading& h) const { return "<h3>" + escaped(h.words) + "</h3>\n"; }
    std::string operator()(const Paragraph& p) const
    {
        return (p.caution ? "<p class=\"caution\">" : "<p>") + escaped(p.words) + "</p>\n";
    }
    std::string operator()(const Pairs& p) const
    {
        std::string out = "<dl>\n";
        for (const auto& [name, value] : p.lines)
            out += "<dt>" + escaped(name) + "</dt><dd>" + escaped(value) + "</dd>\n";
        return p.lines.empty() ? std::string() : out + "</dl>\n";
    }
    std::string operator()(const Table& t) const
    {
        std::string out = t.part < 1 ? "<table class=\"narrow\">\n" : "<table>\n";
        out += "<thead><tr>";
        for (const Column& c : t.columns)
            out += "<th scope=\"col\">" + escaped(c.heading) + "</th>";
        out += "</tr></thead>\n<tbody>\n";
        for (const auto& row : t.rows) {
            out += "<tr>";
            for (size_t i = 0; i < row.size(); ++i)
                out += (t.columns[i].even ? "<td class=\"even\">" : "<td>") + escaped(row[i]) + "</td>";
            out += "</tr>\n";
        }
        return out + "</tbody>\n</table>\n";
    }
    std::string operator()(const Photo& p) const
    {
        return "<figure><img src=\"" + photos::dataAddress(p.jpeg) + "\" alt=\"" + escaped(p.words) + "\" width=\"" +
               std::to_string(p.jpeg.width) + "\" height=\"" + std::to_string(p.jpeg.height) + "\"><figcaption>" +
               escaped(p.words) + "</figcaption></figure>\n";
    }
    std::string operator()(const Picture& p) const { return "<figure>" + drawn::svgElement(p.figure) + "</figure>\n"; }
};

std::string blocksOf(const std::vector<Block>& blocks)
{
    std::string out;
    for (const Block& block : blocks)
        out += std::visit(AsHtml{}, block);
    return out;
}

} // namespace

std::string pageOf(const std::string& title, const std::vector<Block>& first, const std::vector<Section>& sections)
{
    std::string out = "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n"
                      "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<title>" +
                      escaped(title) + "</title>\n<style>" + kStyle + "</style>\n</head>\n<body>\n<h1>" +
                      escaped(title) + "</h1>\n";
    out += blocksOf(first);
    if (sections.size() > 1) {
        out += "<nav>\n<h3>" + escaped(phrase("Contents")) + "</h3>\n<ol>\n";
        for (size_t i = 0; i < sections.size(); ++i)
            out +=
                "<li><a href=\"#chapter-" + std::to_string(i + 1) + "\">" + escaped(sections[i].title) + "</a></li>\n";
        out += "</ol>\n</nav>\n";
    }
    for (size_t i = 0; i < sections.size(); ++i)
        out += "<section>\n<h2 id=\"chapter-" + std::to_string(i + 1) + "\">" + escaped(sections[i].title) + "</h2>\n" +
               blocksOf(sections[i].blocks) + "</section>\n";
    return out + "</body>\n</html>\n";
}

std::string htmlOf(const Book& book)
{
    return pageOf(phrase("Build book: {}", book.title), book.cover, book.chapters);
}

} // namespace vicegrip::book
