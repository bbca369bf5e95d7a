#pragma once

#include "core/drawn/figure.h"
#include "core/photos/photos.h"

#include <string>
#include <utility>
#include <variant>
#include <vector>

/// What a book consists of, whatever it is printed by.
namespace vicegrip::book {

struct Heading
{
    std::string words;
};

struct Paragraph
{
    std::string words;
    bool caution = false; ///< it stands in a frame of its own
};

/// What something is, line by line: "Input" "AN3, analog, 0 to 5 V".
struct Pairs
{
    std::vector<std::pair<std::string, std::string>> lines;
    void add(std::string name, std::string value)
    {
        if (!value.empty())
            lines.emplace_back(std::move(name), std::move(value));
    }
};

struct Column
{
    std::string heading;
    double share = 1; ///< of the table's width, beside the others'
    bool even = false; ///< readings and names: letters of one width
};

struct Table
{
    std::vector<Column> columns;
    std::vector<std::vector<std::string>> rows = {};
    double part = 1; ///< of the page's width that it takes
};

struct Picture
{
    drawn::Figure figure;
    bool lying = false; ///< a wide one, on a page that lies
};

/// A photo with its words under it.
struct Photo
{
    photos::Jpeg jpeg;
    std::string words;
};

using Block = std::variant<Heading, Paragraph, Pairs, Table, Picture, Photo>;

struct Section
{
    std::string title;
    std::vector<Block> blocks;
};

struct Book
{
    std::string title; ///< of the job
    std::string asOf; ///< of the last entry of its logbook, ISO 8601, UTC; empty: there is none
    std::vector<Block> cover;
    std::vector<Section> chapters;
};

} // namespace vicegrip::book
