#include "app/stages/handover/diagram_view.h"

#include "app/store/whole_file.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/drawn/svg.h"
#include "core/electrics/wiring.h"

#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {

DiagramView::DiagramView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_choice(new QComboBox),
      m_said(label({}, look::Size::Small, false, true)),
      m_figure(new FigureView("diagram", tr("Wiring diagram"))),
      m_whole(KeyButton::bound(this, "diagram-whole", tr("Whole sheet"), Qt::Key_W, false)),
      m_next(KeyButton::bound(this, "diagram-next", tr("Next sheet"), Qt::Key_N, true)),
      m_save(KeyButton::bound(this, "diagram-save", tr("Write as SVG"), Qt::Key_S, false))
{
    m_choice->setObjectName(QStringLiteral("diagram-sheet"));
    m_choice->setAccessibleName(tr("Sheet of the diagram"));
    m_said->setObjectName(QStringLiteral("diagram-said"));
    auto* top = new QHBoxLayout;
    top->setSpacing(look::kGap);
    top->addWidget(m_choice);
    top->addWidget(m_said, 1);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_next);
    keys->addWidget(m_whole);
    keys->addWidget(m_save);
    keys->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addLayout(top);
    column->addWidget(m_figure, 1);
    column->addLayout(keys);
    connect(m_choice, &QComboBox::activated, this, &DiagramView::showSheet);
    connect(m_whole, &KeyButton::clicked, this, [this] {
        m_figure->setWhole(!m_figure->isWhole());
        m_whole->setText(m_figure->isWhole() ? tr("Large enough to read") : tr("Whole sheet"));
        m_whole->updateGeometry();
    });
    connect(m_next, &KeyButton::clicked, this, [this] {
        if (!m_sheets.empty())
            showSheet((m_choice->currentIndex() + 1) % static_cast<int>(m_sheets.size()));
    });
    connect(m_save, &KeyButton::clicked, this, &DiagramView::save);
    connect(m_figure, &FigureView::picked, this, &DiagramView::picked);
    handFocus(this, m_figure);
}

void DiagramView::refresh()
{
    if (m_of != m_desk.store.job()) {
        m_of = m_desk.store.job();
        m_sheets = diagram::sheetsOf(*m_of);
        m_links.clear();
        const auto paths = electrics::Wiring(*m_of).paths();
        for (size_t i = 0; i < paths.size(); ++i)
            for (const electrics::Path& path : paths[i])
                m_links[m_of->circuits[i].id].insert(path.subjects.begin(), path.subjects.end());
        const int before = std::max(0, m_choice->currentIndex());
        m_choice->clear();
        for (const diagram::Sheet& s : m_sheets)
            m_choice->addItem(text(s.title));
        showSheet(std::min(before, m_choice->count() - 1));
    }
    for (QWidget* w : std::initializer_list<QWidget*>{m_choice, m_next, m_whole, m_save})
        w->setEnabled(!m_sheets.empty());
    if (m_sheets.empty())
        m_said->setText(tr("Nothing is wired yet: seat circuits and wire them at Inputs and Pins."));
    showSelected();
}

/// The sheet that has the selected circuit as a whole, where it was selected since.
void DiagramView::showSelected()
{
    const job::CircuitId& circuit = m_desk.selection.circuit();
    if (circuit != m_shownFor) {
        m_shownFor = circuit;
        for (size_t i = 0; i < m_sheets.size(); ++i)
            if (std::ranges::count(m_sheets[i].circuits, circuit) > 0) {
                showSheet(static_cast<int>(i));
                break;
            }
    }
    const auto links = m_links.find(circuit);
    m_figure->emphasise(links == m_links.end() ? std::set<std::string>{} : links->second);
}

void DiagramView::showSheet(int sheet)
{
    if (sheet < 0)
        return;
    m_choice->setCurrentIndex(sheet);
    m_figure->show(diagram::drawnOf(*m_of, m_sheets[static_cast<size_t>(sheet)]));
    m_said->setText(tr("Wires and what is fitted between them: %1. Click one for its circuit.")
                        .arg(m_sheets[static_cast<size_t>(sheet)].links.size()));
}

void DiagramView::picked(const QString& about)
{
    std::vector<job::CircuitId> with;
    for (const auto& [circuit, links] : m_links)
        if (links.contains(about.toStdString()))
            with.push_back(circuit);
    if (with.empty())
        return;
    m_shownFor = with.front(); // the sheet that was picked from stays
    m_said->setText(with.size() == 1 ? tr("%1: %2").arg(about, text(job::find(*m_of, with.front())->name))
                                     : tr("%1 serves %2 circuits").arg(about).arg(with.size()));
    if (with.size() == 1)
        m_desk.selection.setCircuit(with.front());
}

void DiagramView::save()
{
    const auto sheet = static_cast<size_t>(m_choice->currentIndex());
    if (m_desk.store.path().isEmpty() || sheet >= m_sheets.size()) {
        m_said->setText(tr("Save the job first: the sheet is written beside it."));
        return;
    }
    const QFileInfo job(m_desk.store.path());
    const QString file =
        job.dir().filePath(QStringLiteral("%1-%2.svg").arg(job.completeBaseName(), text(m_sheets[sheet].name)));
    const auto written = writeWhole(file, QByteArray::fromStdString(drawn::svgOf(m_figure->figure())));
    m_said->setText(written ? tr("%1 is written, beside the job.").arg(QDir::toNativeSeparators(file))
                            : text(written.error().text()));
}

} // namespace vicegrip::app
