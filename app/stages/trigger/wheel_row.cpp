#include "app/stages/trigger/wheel_row.h"

#include "app/stages/trigger/setup.h"
#include "app/views/selected.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "core/trigger/usual_wheels.h"

#include <QComboBox>
#include <QCompleter>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QShortcut>
#include <QSignalBlocker>

namespace vicegrip::app {
namespace {

enum EdgeChoice { NotSaid, Falling, Rising };

} // namespace

WheelRow::WheelRow(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_wheel(new TypedField(tr("Wheel"),
                             [](const QString& typed) -> Result<QString> {
                                 if (typed.trimmed().isEmpty())
                                     return QString();
                                 return trigger::readWheel(typed.toStdString()).map(wheelText);
                             })),
      m_edge(new QComboBox)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 6_px, 0, 0);
    row->setSpacing(look::kGap);
    const auto caption = [&](const QString& words) {
        auto* l = label(words, look::Size::Small, false, true);
        l->setWordWrap(false);
        l->setContentsMargins(0, 7_px, 0, 0);
        row->addWidget(l, 0, Qt::AlignTop);
    };
    caption(tr("Wheel (W)"));
    m_wheel->edit()->setObjectName(QStringLiteral("wheel-line"));
    m_wheel->edit()->setPlaceholderText(tr("36-1, 60-2, 24 with 12 and 3 degrees, cam 1 …"));
    m_wheel->leaveLettersWhileEmpty();
    QStringList usual;
    for (const std::string_view line : trigger::usualWheels())
        usual << text(line);
    auto* offers = new QCompleter(usual, m_wheel->edit());
    offers->setFilterMode(Qt::MatchContains);
    offers->setMaxVisibleItems(static_cast<int>(usual.size()));
    m_wheel->edit()->setCompleter(offers);
    auto* down = new QShortcut(QKeySequence(Qt::Key_Down), m_wheel->edit());
    down->setContext(Qt::WidgetShortcut);
    connect(down, &QShortcut::activated, offers, [offers] { // all of them, whatever stands there
        offers->setCompletionPrefix({});
        offers->complete();
    });
    m_wheel->edit()->setToolTip(tr("Down offers wheels that are met in many engines"));
    row->addWidget(m_wheel, 1);
    caption(tr("The ECU counts"));
    m_edge->setObjectName(QStringLiteral("wheel-edge"));
    m_edge->setAccessibleName(tr("Edge that the ECU counts"));
    m_edge->setFont(look::textFont(look::Size::Small));
    m_edge->addItems({tr("not said"), tr("the falling edge"), tr("the rising edge")});
    row->addWidget(m_edge, 0, Qt::AlignTop);
    connect(new QShortcut(QKeySequence(Qt::Key_W), this), &QShortcut::activated, this, [this] {
        m_wheel->edit()->setFocus();
        m_wheel->edit()->selectAll();
    });
    connect(m_wheel, &TypedField::entered, this, [this](const QString& typed) {
        changeSetup(m_desk, tr("wheel"), [&](job::TriggerSetup& s) { s.wheel = typed.trimmed().toStdString(); });
    });
    connect(m_edge, &QComboBox::activated, this, [this](int choice) {
        changeSetup(m_desk, tr("edge"), [=](job::TriggerSetup& s) {
            s.edge = choice == Falling  ? std::optional(job::CountedEdge::Falling)
                     : choice == Rising ? std::optional(job::CountedEdge::Rising)
                                        : std::nullopt;
        });
    });
}

void WheelRow::refresh()
{
    const job::TriggerSetup setup = setupOf(m_desk);
    m_wheel->setText(text(setup.wheel));
    const auto wheel = trigger::readWheel(setup.wheel);
    m_wheel->setHint(setup.wheel.empty() ? QString() : wheel ? wheelText(*wheel) : text(wheel.error().sentence));
    const QSignalBlocker quiet(m_edge);
    m_edge->setCurrentIndex(!setup.edge ? NotSaid : *setup.edge == job::CountedEdge::Falling ? Falling : Rising);
}

} // namespace vicegrip::app
