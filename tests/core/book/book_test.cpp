#include "core/book/book.h"
#include "core/book/html.h"
#include "core/book/pdf.h"
#include "core/book/since.h"
#include "core/packet/packet.h"
#include "core/scaling/exchange.h"
#include "tests/support/petrel.h"
#include "tests/support/tool.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <regex>
#include <sstream>

namespace vicegrip {
namespace {

using testing::HasSubstr;
using testing::Not;

/// All that is in the file as words, with nothing between them: a cell that is wrapped is no other cell.
std::string wordsOf(const std::string& pdf)
{
    const test::Written file("book.pdf", pdf);
    std::string text = test::tool("pdftotext -raw " + file.path() + " -").out;
    std::erase_if(text, [](char c) { return c == ' ' || c == '\n' || c == '\f' || c == '\r'; });
    return text;
}

std::string packed(std::string text)
{
    std::erase(text, ' ');
    return text;
}

std::string pdfOf(const job::Job& job)
{
    const auto pdf = book::pdfOf(book::bookOf(test::analysed(job)));
    EXPECT_TRUE(pdf) << pdf.error().text();
    return pdf.value_or("");
}

TEST(Book, IsASoundPdfWithItsChaptersAsBookmarks)
{
    const std::string pdf = pdfOf(test::petrel());
    const test::Written file("sound.pdf", pdf);
    const test::Said checked = test::tool("qpdf --check " + file.path());
    EXPECT_EQ(checked.code, 0) << checked.out;
    EXPECT_THAT(checked.out, HasSubstr("No syntax or stream encoding errors"));
    const test::Said marks = test::tool("qpdf --json --json-key=outlines " + file.path());
    for (const book::Chapter c : book::allChapters())
        // Nothing was captured, no photo taken, no book made before.
        if (c != book::Chapter::Logs && c != book::Chapter::Photos && c != book::Chapter::Since) {
            EXPECT_THAT(marks.out, HasSubstr("\"" + std::string(book::chapterTitle(c)) + "\""));
        }
    std::istringstream fonts(test::tool("pdffonts " + file.path()).out);
    int in = 0;
    for (std::string line; std::getline(fonts, line); ++in)
        if (in >= 2) { // after two lines of heading: embedded, as a subset, with its letters
            EXPECT_THAT(line, HasSubstr("yes yes yes"));
        }
    EXPECT_GT(in, 3);
}

/// The contents name the page that a chapter begins on, and page numbers at the foot are those of the file.
TEST(Book, TheContentsLeadToTheirChapters)
{
    const test::Written file("contents.pdf", pdfOf(test::petrel()));
    std::istringstream pages(test::tool("pdftotext -layout " + file.path() + " -").out);
    std::vector<std::string> page;
    for (std::string one; std::getline(pages, one, '\f');)
        page.push_back(one);
    ASSERT_GT(page.size(), 20U);
    int found = 0;
    for (const book::Chapter c : book::allChapters()) {
        const std::string title(book::chapterTitle(c));
        std::smatch entry;
        if (!std::regex_search(page[0], entry, std::regex("\n *" + title + " +([0-9]+)\n")))
            continue;
        ++found;
        const size_t at = std::stoul(entry[1]);
        ASSERT_LE(at, page.size()) << title;
        EXPECT_THAT(page[at - 1], testing::MatchesRegex("[ \n]*" + title + "\n(.|\n)*")) << "page " << at;
        EXPECT_THAT(page[at - 1], testing::ContainsRegex(" " + std::to_string(at) + "\n*$")) << title;
    }
    EXPECT_GE(found, 10);
}

TEST(Book, SaysEveryCavityReadingAndTablePointOfTheJob)
{
    const job::Job job = test::petrel();
    const auto analysis = test::analysed(job);
    const std::string words = wordsOf(pdfOf(job));
    for (const job::Circuit& c : job.circuits)
        EXPECT_THAT(words, HasSubstr(packed(c.name)));
    for (const job::Wire& w : job.wires)
        EXPECT_THAT(words, HasSubstr(w.id.value + w.colour)) << "the list of wires";
    for (const job::Connector& c : job.connectors)
        for (const auto& pin : analysis.pins.at(c.id))
            for (const job::WireId& wire : pin.wires)
                EXPECT_THAT(words, HasSubstr(wire.value)) << pin.at.text();
    for (const job::Proof& p : job.proofs) {
        const auto it = std::ranges::find(analysis.circuits, p.circuit, &proof::CircuitView::id);
        ASSERT_NE(it, analysis.circuits.end());
        for (const auto& s : proof::stations(*it, p.reading.condition()))
            if (s.last != nullptr && *s.last == p) {
                EXPECT_THAT(words, HasSubstr(packed(job::readingText(p.reading, s.place.unit)))) << p.station;
            }
    }
    for (const proof::CircuitView& view : analysis.circuits)
        if (view.table) {
            const job::Circuit& circuit = *job::find(job, view.id);
            for (const auto& row : scaling::rowsOf(scaling::asTaken(*view.table, job, circuit),
                                                   *job::sensorOf(job, circuit), circuit.scaling))
                EXPECT_THAT(words, HasSubstr(row[0] + row[1])) << view.id.value;
        }
    for (const findings::Finding& f : analysis.findings)
        EXPECT_THAT(words, HasSubstr(packed(f.what)));
}

/// No wire is named in it that the job has not.
TEST(Book, NamesNoWireThatIsNotThere)
{
    job::Job job = test::petrel();
    job.log.clear(); // there are wires of before in it
    job.circuits.back().name = "wire w9999"; // that it would be found
    const test::Written file("wires.pdf", pdfOf(job));
    const std::string text = test::tool("pdftotext -raw " + file.path() + " -").out;
    std::set<std::string> known{"w9999"}, named;
    for (const job::Wire& w : job.wires)
        known.insert(w.id.value);
    const std::regex wire(R"re(\bw[0-9]+\b)re");
    for (std::sregex_iterator it(text.begin(), text.end(), wire), end; it != end; ++it)
        named.insert(it->str());
    EXPECT_EQ(named, known);
}

/// Wires are cut as the workshop cuts them.
TEST(Book, WiresAreCutByTheHabitsOfTheWorkshop)
{
    const auto analysis = test::analysed(test::petrel());
    materials::Habits habits;
    habits.slack = 0.2;
    const auto rows = [&](const book::Book& b) { return std::get<book::Table>(b.chapters.at(0).blocks.at(0)).rows; };
    EXPECT_NE(rows(book::bookOf(analysis, {book::Chapter::Wires})),
              rows(book::bookOf(analysis, {book::Chapter::Wires}, {habits, {}, {}})));
}

TEST(Book, TheSameJobMakesTheSameBytes)
{
    EXPECT_EQ(pdfOf(test::petrel()), pdfOf(test::petrel()));
    job::Job empty; // of no date at all
    empty.name = "Nothing yet";
    EXPECT_EQ(pdfOf(empty), pdfOf(empty));
}

TEST(Book, ItsPageOfHtmlIsWhatItClaimsToBe)
{
    const std::string html = book::htmlOf(book::bookOf(test::analysed(test::petrel())));
    const test::Written file("book.html", html);
    const test::Said tidy = test::tool("tidy -q -e " + file.path());
    EXPECT_EQ(tidy.code, 0) << tidy.out.substr(0, 400);
    EXPECT_THAT(html,
                Not(testing::AnyOf(HasSubstr("src="), HasSubstr("url("), HasSubstr("<link")))); // it fetches nothing
    EXPECT_THAT(html, HasSubstr("<h2 id=\"chapter-1\">Circuits</h2>"));
}

TEST(Book, ChaptersThatWereNotAskedForAreNotInIt)
{
    const auto analysis = test::analysed(test::petrel());
    const book::Book book = book::bookOf(analysis, {book::Chapter::Plugs, book::Chapter::Findings});
    ASSERT_EQ(book.chapters.size(), 2U);
    EXPECT_EQ(book.chapters[0].title, "Plugs");
    EXPECT_EQ(book.chapters[1].title, "Open findings");
}

/// Names with marks of other languages, marks of none, and words longer than a page.
TEST(Book, HostileNamesStayWords)
{
    job::Job job = test::petrel();
    job.title = "</title><script>alert(1)</script>";
    job.circuits[0].name = std::string(600, 'x') + "\x01\x02";
    job.circuits[1].name = "Öltemperatur 油温 \xF0\x9F\x9A\x97";
    job.log.push_back({"2026-01-01T00:00:00Z", "", std::string(6000, 'y')});
    const auto analysis = test::analysed(job);
    const std::string html = book::htmlOf(book::bookOf(analysis));
    EXPECT_THAT(html, Not(HasSubstr("<script")));
    const auto pdf = book::pdfOf(book::bookOf(analysis));
    ASSERT_TRUE(pdf) << pdf.error().text();
    const test::Written file("hostile.pdf", *pdf);
    EXPECT_EQ(test::tool("qpdf --check " + file.path()).code, 0);
    const std::string words = wordsOf(*pdf);
    EXPECT_GE(std::ranges::count(words, 'y'), 6000) << "all of a long line is in it";
}

/// What is open shows on the cover, before anything else is read.
TEST(Book, WhatIsToBeStoppedForStandsOnItsCover)
{
    auto analysis = test::analysed(test::petrel());
    analysis.findings.push_back({"x", findings::Severity::Stop, {}, "A wire is open", "It burns", "Mend it"});
    bool said = false;
    for (const book::Block& b : book::bookOf(analysis).cover)
        if (const auto* p = std::get_if<book::Paragraph>(&b))
            said = said || (p->caution && p->words.find("stopped for") != std::string::npos);
    EXPECT_TRUE(said);
}

TEST(Book, SaysWhatChangedSinceTheLastOneOfAnotherState)
{
    const test::Written beside("since.vicegrip", "");
    const std::filesystem::path file = beside.path(), kept = book::keptFile(file);
    job::Job job = test::petrel();
    EXPECT_FALSE(book::lastBookOf(job, file)) << "there was none";
    ASSERT_TRUE(book::keepForNextBook(job, file));
    EXPECT_FALSE(book::lastBookOf(job, file)) << "nor one of another state";
    const job::Job first = job;
    test::wire(job, "w5").length_m = 3.21;
    ASSERT_TRUE(book::lastBookOf(job, file));
    EXPECT_EQ(*book::lastBookOf(job, file), first);
    ASSERT_TRUE(book::keepForNextBook(job, file));
    EXPECT_EQ(*book::lastBookOf(job, file), first) << "made twice, it is the same book";
    const auto made = book::bookOf(test::analysed(job), {book::Chapter::Since}, {{}, {}, first});
    const std::string html = book::htmlOf(made);
    EXPECT_THAT(html, HasSubstr("Wire w5, length"));
    EXPECT_THAT(html, HasSubstr("3.21 m"));
    EXPECT_THAT(html, testing::Not(HasSubstr("Wire w6")));
    std::ofstream(kept) << "{\"now\": [";
    EXPECT_FALSE(book::lastBookOf(job, file)) << "what is broken says nothing";
    std::filesystem::remove(kept);
}

TEST(Book, WhatTheLastOneWasMadeOfGoesAlongWithACopyOfTheJob)
{
    const test::Written from("carried.vicegrip", ""), to("copy-of-it.vicegrip", "");
    job::Job job = test::petrel();
    ASSERT_TRUE(book::keepForNextBook(job, from.path()));
    ASSERT_TRUE(book::carryKept(from.path(), to.path()));
    test::wire(job, "w5").length_m = 3.21;
    EXPECT_EQ(book::lastBookOf(job, to.path()), test::petrel());
    EXPECT_TRUE(book::carryKept(from.path(), from.path()));
    EXPECT_TRUE(book::lastBookOf(job, from.path()));
    // What another job left under that name would be compared with a car it never was.
    std::filesystem::remove(book::keptFile(from.path()));
    ASSERT_TRUE(book::carryKept(from.path(), to.path()));
    EXPECT_FALSE(book::lastBookOf(job, to.path()));
    EXPECT_FALSE(std::filesystem::exists(book::keptFile(to.path())));
    std::filesystem::create_directory(book::keptFile(to.path()));
    ASSERT_TRUE(book::keepForNextBook(job, from.path()));
    EXPECT_FALSE(book::carryKept(from.path(), to.path())) << "what cannot be replaced is said";
    std::filesystem::remove(book::keptFile(to.path()));
    std::filesystem::remove(book::keptFile(from.path()));
}

TEST(Book, IsNoBookOnceItWasStopped)
{
    const auto analysis = test::analysed(test::petrel());
    std::stop_source stop;
    book::Beside beside;
    beside.stop = stop.get_token();
    const std::set<book::Chapter> all(book::allChapters().begin(), book::allChapters().end());
    const book::Book whole = book::bookOf(analysis, all, beside);
    EXPECT_TRUE(book::pdfOf(whole, beside.stop));
    stop.request_stop();
    EXPECT_TRUE(book::bookOf(analysis, all, beside).chapters.empty()) << "nothing is worked out any more";
    const auto printed = book::pdfOf(whole, beside.stop);
    ASSERT_FALSE(printed);
    EXPECT_EQ(printed.error().code, ErrorCode::Stopped);
    const auto packed = packet::packetOf(analysis, beside, {});
    ASSERT_FALSE(packed);
    EXPECT_EQ(packed.error().code, ErrorCode::Stopped);
}

} // namespace
} // namespace vicegrip
