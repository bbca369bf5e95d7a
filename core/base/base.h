#pragma once

/// What everybody needs and nobody owns: results, names, documents.
#include "core/base/csv.h" // tables for other programs
#include "core/base/document.h" // JSON from outside: sized, parsed, checked against a schema
#include "core/base/fields.h" // one listing of a structure serves reading and writing
#include "core/base/id.h" // names of one kind that cannot be mistaken for another
#include "core/base/in_parallel.h" // on all processors
#include "core/base/joined.h" // what hangs together, as sets that are joined
#include "core/base/measurable.h" // which numbers something could have measured
#include "core/base/median.h" // the middle of some values
#include "core/base/number_table.h" // columns of numbers from another program
#include "core/base/old_names.h" // what files, requests and options were called before version 1.0
#include "core/base/pattern.h" // the patterns of a schema, matched apart
#include "core/base/phrase.h" // sentences as keys with arguments, for other languages
#include "core/base/result.h" // errors are values: Result and Error, with the place they are about
#include "core/base/root.h" // where a function crosses zero
#include "core/base/schema_text.h" // the published schemas, compiled in
#include "core/base/shipped.h" // where what is shipped beside the programs lies
#include "core/base/text_lines.h" // lines, of a file of which a piece is held
#include "core/base/typed_text.h" // text as people type and paste it
#include "core/base/utf8.h" // whether a text is UTF-8, and its characters
#include "core/base/write_file.h" // files that are written whole or not at all
