#include "app/stages/handover/labels_view.h"

#include "app/store/whole_file.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "core/drawn/figure_pdf.h"
#include "core/drawn/svg.h"
#include "core/logbook/logbook.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QScrollArea>
#include <QVBoxLayout>

namespace vicegrip::app {

LabelsView::LabelsView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_form(new QComboBox),
      m_side(new QVBoxLayout),
      m_page(label({}, look::Size::Small, false, true)),
      m_said(label({}, look::Size::Body)),
      m_figure(new FigureView("labels", tr("Sheets at their own size"))),
      m_next(KeyButton::bound(this, "labels-next", tr("Next page"), Qt::Key_N, false)),
      m_pdf(KeyButton::bound(this, "labels-pdf", tr("Write as PDF"), Qt::Key_P, true)),
      m_svg(KeyButton::bound(this, "labels-svg", tr("This page as SVG"), Qt::Key_S, false)),
      m_stock(desk.preferences.now().labels),
      m_work([this](const Made& made) { show(made); })
{
    m_said->setObjectName(QStringLiteral("labels-said"));
    m_page->setObjectName(QStringLiteral("labels-page"));
    m_figure->setWhole(true);
    for (const sheets::Kind kind : sheets::allKinds()) {
        auto* box = new QCheckBox(said(sheets::kindTitle(kind)));
        box->setObjectName(QStringLiteral("print-") + text(std::string(sheets::kindName(kind))));
        box->setChecked(kind == sheets::Kind::Rule || kind == sheets::Kind::Labels);
        connect(box, &QCheckBox::clicked, this, &LabelsView::make);
        m_kinds.push_back(box);
        m_side->addWidget(box);
    }
    m_form->setObjectName(QStringLiteral("labels-form"));
    m_form->setAccessibleName(tr("How labels go on"));
    m_form->addItem(tr("Flags, folded round the wire"));
    m_form->addItem(tr("Wraps, wound round the wire"));
    connect(m_form, &QComboBox::activated, this, [this](int form) {
        m_stock.form = form == 0 ? sheets::LabelForm::Flag : sheets::LabelForm::Wrap;
        keep();
    });
    m_form->setCurrentIndex(m_stock.form == sheets::LabelForm::Flag ? 0 : 1);
    m_side->addWidget(m_form);
    auto* size = sizeField(tr("One label"), "labels-size", sheets::kLeastLabel_mm, sheets::kMostLabel_mm,
                           [this](auto s) { m_stock.label = s.value_or(sheets::LabelStock{}.label); });
    size->setText(text(sheets::sizeText(m_stock.label)));
    auto* paper = sizeField(tr("Paper"), "labels-paper", sheets::kLeastPaper_mm, sheets::kMostPaper_mm,
                            [this](auto s) { m_stock.paper = s.value_or(sheets::kA4); });
    paper->setText(text(sheets::sizeText(m_stock.paper)));
    auto* margin = sizeField(tr("Edge to the first label, of a bought sheet"), "labels-margin", 0,
                             sheets::kMostLabel_mm, [this](auto s) { m_stock.margin = s; });
    margin->setHint(tr("Empty: plain paper, with lines to cut along."));
    if (m_stock.margin)
        margin->setText(text(sheets::sizeText(*m_stock.margin)));
    auto* gap = sizeField(tr("Between labels"), "labels-gap", 0, sheets::kMostLabel_mm,
                          [this](auto s) { m_stock.gap = s.value_or(sheets::Size{}); });
    if (m_stock.gap != sheets::Size{})
        gap->setText(text(sheets::sizeText(m_stock.gap)));
    auto* used = new TypedField(tr("Gone from the first sheet"), [](const QString& typed) -> Result<QString> {
        bool number = true;
        const int n = typed.trimmed().isEmpty() ? 0 : typed.trimmed().toInt(&number);
        if (!number || n < 0)
            return fail(ErrorCode::Malformed, tr("a number of labels, 0 or more").toStdString());
        return QString();
    });
    used->edit()->setObjectName(QStringLiteral("labels-used"));
    connect(used, &TypedField::entered, this, [this](const QString& typed) {
        m_stock.used = typed.trimmed().toInt();
        make();
    });
    m_side->addWidget(label(tr("Gone from the first sheet"), look::Size::Small, false, true));
    m_side->addWidget(used);
    m_side->addStretch(1);
    auto* inside = new QWidget;
    m_side->setContentsMargins(0, 0, look::kGap, 0);
    m_side->setSpacing(look::kGap / 2);
    inside->setLayout(m_side);
    auto* side = new QScrollArea;
    side->setWidgetResizable(true);
    side->setFrameShape(QFrame::NoFrame);
    side->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    side->setWidget(inside);
    side->setFocusPolicy(Qt::NoFocus); // what is in it takes the keys
    side->setFixedWidth(330_px);
    auto* right = new QVBoxLayout;
    right->setSpacing(look::kGap);
    right->addWidget(m_page);
    right->addWidget(m_figure, 1);
    auto* across = new QHBoxLayout;
    across->setSpacing(look::kGap);
    across->addWidget(side);
    across->addLayout(right, 1);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_pdf);
    keys->addWidget(m_svg);
    keys->addWidget(m_next);
    keys->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addLayout(across, 1);
    column->addWidget(m_said);
    column->addLayout(keys);
    connect(m_next, &KeyButton::clicked, this, [this] { showPage(m_shown + 1); });
    connect(m_pdf, &KeyButton::clicked, this, [this] { write(true); });
    connect(m_svg, &KeyButton::clicked, this, [this] { write(false); });
    handFocus(this, m_figure);
}

TypedField* LabelsView::sizeField(const QString& name, const char* objectName, double least_mm, double most_mm,
                                  const std::function<void(std::optional<sheets::Size>)>& take)
{
    const auto read = [least_mm, most_mm](const QString& typed) -> Result<std::optional<sheets::Size>> {
        if (typed.trimmed().isEmpty())
            return std::optional<sheets::Size>();
        return sheets::sizeTyped(typed.toStdString(), least_mm, most_mm).map([](const sheets::Size& s) {
            return std::optional(s);
        });
    };
    auto* field = new TypedField(name, [read](const QString& typed) -> Result<QString> {
        return read(typed).map([](const auto& s) { return s ? text(sheets::sizeText(*s)) : QString(); });
    });
    field->edit()->setObjectName(QLatin1String(objectName));
    connect(field, &TypedField::entered, this, [this, read, take](const QString& typed) {
        if (const auto size = read(typed)) {
            take(*size);
            keep();
        }
    });
    m_side->addWidget(label(name, look::Size::Small, false, true));
    m_side->addWidget(field);
    return field;
}

void LabelsView::refresh()
{
    if (m_of != m_desk.store.job())
        make();
}

/// For the next job too.
void LabelsView::keep()
{
    Preferred preferred = m_desk.preferences.now();
    preferred.labels = m_stock;
    preferred.labels.used = 0;
    m_desk.preferences.set(preferred);
    make();
}

void LabelsView::make()
{
    m_of = m_desk.store.job();
    std::set<sheets::Kind> kinds;
    for (size_t i = 0; i < m_kinds.size(); ++i)
        if (m_kinds[i]->isChecked())
            kinds.insert(sheets::allKinds()[i]);
    m_work.ask([job = m_of, kinds, stock = m_stock, habits = m_desk.preferences.now().habits]() -> Made {
        auto print = sheets::printOf(*job, kinds, stock, habits);
        return print ? Made{std::move(*print), {}} : Made{{}, text(print.error().text())};
    });
}

void LabelsView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().ink);
}

void LabelsView::show(const Made& made)
{
    m_print = made.print;
    QStringList refused;
    for (const std::string& sentence : m_print.refused)
        refused += text(sentence);
    if (!made.trouble.isEmpty() || !refused.isEmpty())
        say(made.trouble.isEmpty() ? refused.join(QLatin1Char(' ')) : made.trouble, true);
    else
        say(m_print.pages.empty() ? tr("Nothing of this is in the job yet: wire it at Pins.")
                                  : tr("Print at 100 %, measure the rule first, then feed the labels."),
            false);
    for (QWidget* w : std::initializer_list<QWidget*>{m_next, m_pdf, m_svg})
        w->setEnabled(!m_print.pages.empty());
    showPage(m_shown);
}

void LabelsView::showPage(int page)
{
    const int all = static_cast<int>(m_print.pages.size());
    m_shown = all == 0 ? 0 : page % all;
    drawn::Figure sheet = all == 0 ? drawn::Figure{} : m_print.pages[static_cast<size_t>(m_shown)];
    if (all > 0)
        sheet.box({0.5, 0.5}, sheet.width_mm - 1, sheet.height_mm - 1, std::nullopt,
                  drawn::Ink::Faint); // where the paper ends
    m_figure->show(sheet);
    m_page->setText(all == 0 ? tr("No page")
                             : tr("Page %1 of %2: %3")
                                   .arg(m_shown + 1)
                                   .arg(all)
                                   .arg(text(m_print.pages[static_cast<size_t>(m_shown)].title)));
}

void LabelsView::write(bool pdf)
{
    if (m_desk.store.path().isEmpty() || m_print.pages.empty()) {
        say(tr("Save the job first: the sheets are written beside it."), true);
        return;
    }
    const QFileInfo job(m_desk.store.path());
    const QString file =
        job.dir().filePath(pdf ? job.completeBaseName() + QStringLiteral("-labels.pdf")
                               : QStringLiteral("%1-labels-%2.svg").arg(job.completeBaseName()).arg(m_shown + 1));
    const Result<std::string> bytes =
        pdf ? drawn::pdfOf(m_print.pages, m_of->name + ": " + m_print.pages.front().title, logbook::lastDate(*m_of))
            : Result<std::string>(drawn::svgOf(m_print.pages[static_cast<size_t>(m_shown)]));
    if (!bytes) {
        say(text(bytes.error().text()), true);
        return;
    }
    const auto written = writeWhole(file, QByteArray::fromStdString(*bytes));
    say(written ? tr("%1 is written, beside the job.").arg(QDir::toNativeSeparators(file))
                : text(written.error().text()),
        !written);
}

} // namespace vicegrip::app
