#include "app/widgets/compare_grid.h"

#include "app/widgets/labels.h"

#include <QGridLayout>

namespace vicegrip::app {
namespace {

/// A unit such as kg/h is not broken at its stroke.
QString kept(QString words)
{
    return words.replace(QLatin1Char('/'), QStringLiteral("/\u2060"));
}

} // namespace

CompareGrid::CompareGrid(const QStringList& questions, int columns, QWidget* parent) : QWidget(parent)
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(14_px);
    grid->setVerticalSpacing(8_px);
    for (int row = 0; row < questions.size(); ++row)
        grid->addWidget(label(questions[row], look::Size::Small, false, true), row + 1, 0, Qt::AlignTop);
    grid->setColumnStretch(0, 2);
    for (int column = 0; column < columns; ++column) {
        std::vector<QLabel*> labels;
        for (int row = 0; row <= questions.size(); ++row) {
            labels.push_back(label({}, row == 0 ? look::Size::Body : look::Size::Small, row == 0));
            grid->addWidget(labels.back(), row, column + 1, Qt::AlignTop);
        }
        grid->setColumnStretch(column + 1, 4);
        m_columns.push_back(std::move(labels));
    }
}

void CompareGrid::show(int column, const Column& what)
{
    auto& labels = m_columns[static_cast<size_t>(column)];
    labels[0]->setText(what.chosen ? tr("✓ %1").arg(what.name) : what.name);
    for (int row = 0; row < what.answers.size() && row + 1 < static_cast<int>(labels.size()); ++row)
        labels[static_cast<size_t>(row) + 1]->setText(kept(what.answers[row]));
    for (QLabel* l : labels)
        setInk(l, what.chosen ? look::colours().ink : look::colours().inkSoft);
}

} // namespace vicegrip::app
