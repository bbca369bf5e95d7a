#pragma once

/// What is printed at its own size, to be cut out, folded round or laid upon?
///
///     auto stock = sheets::LabelStock{.label = {50, 9}};
///     auto labels = sheets::labelSheets(job, materials::cutList(job, habits), stock);
///     auto pdf = drawn::pdfOf(labels->pages, "Labels", "");
#include "core/sheets/face.h" // one face of a plug
#include "core/sheets/face_sheets.h" // every plug, both sides
#include "core/sheets/paper.h" // sizes as people type them, and the rule for the printer
#include "core/sheets/print.h" // pages of the kinds that are asked for
#include "core/sheets/templates.h" // holes to drill, lengths to strip
#include "core/sheets/wire_labels.h" // flags and wraps for the ends of wires
