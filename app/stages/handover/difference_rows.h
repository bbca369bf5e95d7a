#pragma once

#include "app/widgets/text.h"
#include "core/compare/compare.h"

#include <QStringList>

#include <vector>

namespace vicegrip::app {

/// Rows of a table, and which of them are headings.
struct Rows
{
    std::vector<QStringList> rows;
    std::vector<int> strong;

    void heading(const QStringList& cells)
    {
        strong.push_back(static_cast<int>(rows.size()));
        rows.push_back(cells);
    }
};

/// What is different, a row each: what it is about, what, before, after. What somebody changed stands under one
/// heading, what follows under another; how many were changed.
int addDifferences(Rows& to, const std::vector<compare::Difference>& differences, const QString& changed,
                   const QString& follows);

} // namespace vicegrip::app
