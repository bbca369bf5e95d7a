#pragma once

/// What does a drawing of the job consist of, and how does it come onto paper?
///
///     drawn::Figure f{.width_mm = 80, .height_mm = 40};
///     f.line({{0, 10}, {60, 10}}, drawn::Ink::Line, 0.3);
///     std::string svg = drawn::svgOf(f);
///
/// In this room too: cairo_figure.h and pdf_file.h (inside: a figure and words on a page of a PDF).
#include "core/drawn/figure.h" // strokes, discs and words in mm
#include "core/drawn/figure_pdf.h" // pages of them as a PDF
#include "core/drawn/print_ink.h" // what the inks and the letters of wires are on paper
#include "core/drawn/svg.h" // a figure as an SVG of its own, or within a page of HTML
