#include "app/stages/trigger/loose_feed.h"

#include "app/look/look.h"
#include "app/widgets/text.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QShortcut>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr double kLeastFeed_v = 3, kMostFeed_v = 16, kLeastPull_ohm = 100, kMostPull_ohm = 100e3;

QString ohmsText(double ohm)
{
    return text(units::formatOhms(ohm)) + QStringLiteral(" Ω");
}

} // namespace

LooseFeed::LooseFeed(QWidget* parent)
    : QWidget(parent), m_isLoose(new QCheckBox(tr("Sensor unplugged, fed by hand (L)"))), m_fields(new QWidget)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    m_isLoose->setObjectName(QStringLiteral("hand-loose"));
    m_isLoose->setFont(look::textFont(look::Size::Body));
    column->addWidget(m_isLoose);
    auto* row = new QHBoxLayout(m_fields);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kMargin);
    const auto add = [&](const QString& name, const char* objectName, const ReadsValue& read,
                         const std::function<QString(double)>& say, double hand_test::Loose::*member) {
        auto* grid = new QGridLayout;
        grid->setHorizontalSpacing(look::kGap);
        row->addLayout(grid, 1);
        return addValueRow(grid, name, objectName, read, say, [this, member](double v) {
            m_loose.*member = v;
            show();
            emit changed();
        });
    };
    m_feed = add(tr("Fed with"), "hand-feed", readsValue(Dimension::Voltage, "V", kLeastFeed_v, kMostFeed_v),
                 saysValue(Dimension::Voltage, "V", 1), &hand_test::Loose::feed_v);
    m_pullUp = add(tr("Signal pulled up by"), "hand-pull-up",
                   readsValue(Dimension::Resistance, "Ω", kLeastPull_ohm, kMostPull_ohm), ohmsText,
                   &hand_test::Loose::pullUp_ohm);
    column->addWidget(m_fields);
    connect(new QShortcut(QKeySequence(Qt::Key_L), this), &QShortcut::activated, m_isLoose, &QCheckBox::toggle);
    connect(m_isLoose, &QCheckBox::toggled, this, [this] {
        show();
        emit changed();
    });
    show();
}

void LooseFeed::setFeed(const hand_test::Loose& loose)
{
    m_loose = loose;
    show();
}

bool LooseFeed::isLoose() const
{
    return m_isLoose->isChecked();
}

void LooseFeed::show()
{
    m_fields->setVisible(isLoose());
    m_feed->setText(text(units::format(m_loose.feed_v, Dimension::Voltage, "V", 1)));
    m_pullUp->setText(ohmsText(m_loose.pullUp_ohm));
}

} // namespace vicegrip::app
