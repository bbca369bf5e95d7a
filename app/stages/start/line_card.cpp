#include "app/stages/start/line_card.h"

#include "app/look/look.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/text.h"
#include "app/widgets/typed_field.h"
#include "core/proof/verdict.h"

#include <QLineEdit>
#include <QVBoxLayout>

namespace vicegrip::app {

using proof::State;
using run_sheet::By;

LineCard::LineCard(QWidget* parent) : QWidget(parent)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8_px);
    m_context = label({}, look::Size::Small, false, true);
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("sheet-title"));
    m_how = label({}, look::Size::Body);
    m_how->setObjectName(QStringLiteral("sheet-how"));
    for (QLabel* l : {m_context, m_title, m_how})
        column->addWidget(l);
    m_caution = new Caution;
    column->addWidget(m_caution);
    buildFigures(column);
    m_standing = label({}, look::Size::Body, true);
    m_standing->setObjectName(QStringLiteral("sheet-standing"));
    m_remedy = label({}, look::Size::Body);
    m_remedy->setObjectName(QStringLiteral("sheet-remedy"));
    column->addWidget(m_standing);
    column->addWidget(m_remedy);
    buildKeys(column);
    column->addStretch(1);
    m_then = label({}, look::Size::Small, false, true);
    m_then->setObjectName(QStringLiteral("sheet-then"));
    column->addWidget(m_then);
}

void LineCard::buildFigures(QVBoxLayout* column)
{
    auto* figures = new QHBoxLayout;
    figures->setSpacing(2 * look::kMargin);
    const auto put = [&](const QString& name, const char* objectName, QLabel*& caption, QLabel*& number) {
        auto* box = new QVBoxLayout;
        box->setSpacing(0);
        caption = label(name, look::Size::Small, false, true);
        caption->setWordWrap(false);
        number = figure({}, look::Size::Title);
        number->setObjectName(QLatin1String(objectName));
        box->addWidget(caption);
        box->addWidget(number);
        box->addStretch();
        figures->addLayout(box);
    };
    put(tr("must read"), "sheet-due", m_dueName, m_due);
    put(tr("reads now"), "sheet-now", m_nowName, m_now);
    m_now->setFont(look::numbers(look::Size::Big));
    figures->addStretch();
    column->addLayout(figures);
    m_source = label({}, look::Size::Small, false, true);
    column->addWidget(m_source);
    m_reading = new TypedField(tr("Or type what it reads"), [this](const QString& typed) -> Result<QString> {
        if (!m_line || !m_line->window)
            return QString();
        return proof::parseReading(*m_line->window, typed.toStdString()).map([this](const job::Reading& r) {
            return text(job::readingText(r, m_line->window->unit));
        });
    });
    m_reading->edit()->setObjectName(QStringLiteral("sheet-reading"));
    m_reading->edit()->setPlaceholderText(tr("Or type what it reads"));
    m_reading->leaveLettersWhileEmpty();
    m_reading->setMaximumWidth(260_px);
    column->addWidget(m_reading);
    connect(m_reading, &TypedField::entered, this, [this](const QString& words) {
        if (!m_line || !m_line->window)
            return;
        if (const auto reading = proof::parseReading(*m_line->window, words.toStdString())) {
            m_reading->edit()->clear();
            emit typed(*reading);
        }
    });
}

void LineCard::buildKeys(QVBoxLayout* column)
{
    auto* first = new QHBoxLayout;
    first->setSpacing(look::kGap);
    first->addWidget(m_seen = KeyButton::bound(this, "sheet-seen", tr("Seen, it is so"), Qt::Key_Space, true));
    first->addWidget(m_take = KeyButton::bound(this, "sheet-take", tr("Take the reading"), Qt::Key_T, true));
    first->addWidget(m_go = KeyButton::bound(this, "sheet-go", tr("Go there"), Qt::Key_G, true));
    first->addWidget(m_turn = KeyButton::bound(this, "sheet-turn", {}, Qt::Key_C, false));
    first->addStretch();
    column->addLayout(first);
    auto* second = new QHBoxLayout;
    second->setSpacing(look::kGap);
    second->addWidget(m_find = KeyButton::bound(this, "sheet-find", tr("Find the fault"), Qt::Key_F, false));
    second->addWidget(m_back = KeyButton::bound(this, "sheet-back", tr("Not any more"), Qt::Key_N, false));
    second->addStretch();
    column->addLayout(second);
    connect(m_seen, &QAbstractButton::clicked, this, &LineCard::seen);
    connect(m_take, &QAbstractButton::clicked, this, &LineCard::takeAsked);
    connect(m_go, &QAbstractButton::clicked, this, &LineCard::stageAsked);
    connect(m_turn, &QAbstractButton::clicked, this, &LineCard::conditionAsked);
    connect(m_find, &QAbstractButton::clicked, this, &LineCard::finderAsked);
    connect(m_back, &QAbstractButton::clicked, this, &LineCard::takenBack);
}

void LineCard::show(const run_sheet::Sheet& sheet, size_t index, const Around& around)
{
    const run_sheet::Line& line = sheet.lines[index];
    const run_sheet::Standing& standing = sheet.standings[index];
    const bool another = !m_line || m_line->id != line.id;
    m_line = line;
    m_context->setText(tr("%1, line %2 of %3%4")
                           .arg(said(run_sheet::sectionName(line.section)))
                           .arg(index + 1)
                           .arg(sheet.lines.size())
                           .arg(line.holds ? tr(": nothing goes on before it") : QString()));
    m_title->setText(text(line.what));
    m_how->setText(text(line.how));
    m_how->setVisible(!line.how.empty());
    const bool reads = line.window.has_value();
    for (QWidget* w : std::initializer_list<QWidget*>{m_due, m_dueName, m_now, m_nowName, m_source, m_reading})
        w->setVisible(reads);
    for (QLabel* l : {m_now, m_nowName}) // a meter's reading stands in the verdict
        l->setVisible((line.by == By::Ecu || around.program) && reads);
    m_due->setText(text(run_sheet::windowText(line)));
    m_source->setText(line.source.empty() ? QString() : tr("Because: %1.").arg(text(line.source)));
    m_source->setVisible(!line.source.empty());
    if (another) {
        m_reading->edit()->clear();
        showReading({}, QStringLiteral("–"));
    }
    const bool open = standing.waitsFor.empty() && line.barred.empty();
    m_reading->edit()->setEnabled(open);
    m_seen->setVisible(!reads && line.by != By::Work);
    m_seen->setEnabled(open && standing.state != State::Done);
    m_take->setVisible((line.by == By::Meter && around.meter) || around.program);
    m_take->setEnabled(open && around.setSo);
    m_go->setVisible(line.by == By::Work);
    m_go->setText(tr("Go to %1").arg(said(analysis::stageName(line.stage))));
    m_turn->setVisible((line.by == By::Ecu || (line.by == By::Meter && around.meter) || around.program) && reads &&
                       !around.setSo);
    m_turn->setText(reads ? (around.bench ? tr("Turn the bench to: %1") : tr("The car is so now: %1"))
                                .arg(text(job::conditionWords(line.window->condition)))
                          : QString());
    m_turn->setEnabled(open);
    m_find->setVisible(line.provesCircuit || (reads && !line.circuit.value.empty()));
    m_find->setEnabled(standing.waitsFor.empty());
    m_back->setVisible(line.by != By::Work && !line.provesCircuit && !standing.when.empty());
    for (KeyButton* b : {m_go, m_turn})
        b->updateGeometry();
    const size_t after = index + 1;
    m_then->setText(after < sheet.lines.size() ? tr("Then: %1").arg(text(sheet.lines[after].what)) : QString());
    m_caution->setText(text(line.caution));
    m_caution->setVisible(!line.caution.empty());
    showStanding(sheet, index);
}

void LineCard::showStanding(const run_sheet::Sheet& sheet, size_t index)
{
    const run_sheet::Line& line = sheet.lines[index];
    const run_sheet::Standing& standing = sheet.standings[index];
    QString words;
    QColor ink = inkOf(standing.state);
    if (!line.barred.empty()) {
        words = tr("It must not start: %1.").arg(text(line.barred));
    } else if (standing.state == State::Done) {
        words = standing.read.empty() ? tr("Passed.") : tr("Passed: %1.").arg(text(standing.read));
    } else if (!standing.waitsFor.empty()) {
        const size_t more = standing.waitsFor.size() - 1;
        words = tr("Waits for: %1").arg(text(sheet.lines[standing.waitsFor.front()].what));
        if (more > 0)
            words += more == 1 ? tr(", and 1 more line") : tr(", and %1 more lines").arg(more);
        ink = look::colours().stale;
    } else if (standing.state == State::Stale) {
        words = tr("Stale: %1.").arg(text(standing.reason));
    } else if (!standing.reason.empty()) {
        words = text(standing.reason) + QLatin1Char('.');
        words[0] = words[0].toUpper();
    }
    m_standing->setText(words);
    m_standing->setVisible(!words.isEmpty());
    setInk(m_standing, ink);
    const bool wrong = standing.state == State::Failing;
    m_remedy->setText(wrong ? text(line.remedy) : QString());
    m_remedy->setVisible(wrong && !line.remedy.empty());
}

void LineCard::showEnd(const run_sheet::Sheet& sheet)
{
    m_line.reset();
    const bool all = run_sheet::passedOf(sheet) == sheet.lines.size();
    m_context->clear();
    m_title->setText(all ? tr("Every line has passed") : tr("No line is selected"));
    m_how->setText(all ? tr("It may be driven, and logged for the tuner.") : tr("Choose one on the left."));
    m_how->show();
    for (QWidget* w :
         std::initializer_list<QWidget*>{m_due, m_dueName, m_now, m_nowName, m_source, m_reading, m_seen, m_take, m_go,
                                         m_turn, m_find, m_back, m_caution, m_standing, m_remedy, m_then})
        w->hide();
}

void LineCard::showReading(const std::optional<job::Reading>& reading, const QString& instead)
{
    if (!m_line || !m_line->window)
        return;
    m_now->setText(reading ? text(job::readingText(*reading, m_line->window->unit)) : instead);
    setInk(m_now, !reading                               ? look::colours().inkSoft
                  : run_sheet::allows(*m_line, *reading) ? look::colours().done
                                                         : look::colours().failing);
}

void LineCard::say(const QString& sentence, bool bad)
{
    m_standing->setText(sentence);
    m_standing->setVisible(!sentence.isEmpty());
    setInk(m_standing, bad ? look::colours().failing : look::colours().ink);
}

} // namespace vicegrip::app
