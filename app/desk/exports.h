#pragma once

#include "app/desk/desk.h"

#include <QStringList>

/// What other programs and other people get of a job, as text.
namespace vicegrip::app {

/// The lists of the harness.
enum class Listed { Cut, Harness, Buy };

/// RFC 4180, lengths in m, as the user cuts and buys.
[[nodiscard]] std::string listCsv(const Desk& desk, Listed list);

/// What a circuit's ECU takes, as CSV or JSON. Errors (Reference): it has none.
[[nodiscard]] Result<std::string> tableText(const analysis::Analysis& analysis, const job::CircuitId& circuit,
                                            bool json);

/// Writes all lists, all tables, the findings and the logbook into a folder beside the job, "petrel-export", over what
/// was written there before. Gives the folder. Errors (Io): where it cannot be written.
[[nodiscard]] Result<QString> exportAll(const Desk& desk);

} // namespace vicegrip::app
