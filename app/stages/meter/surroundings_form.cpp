#include "app/stages/meter/surroundings_form.h"

#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "core/job/surroundings.h"

#include <QHBoxLayout>
#include <QLineEdit>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr look::Px kFieldWidth{150};

Result<double> parsed(const QString& typed, Dimension dimension)
{
    return dimension == Dimension::Temperature ? job::parseAmbient(typed.toStdString())
                                               : job::parseBarometer(typed.toStdString());
}

} // namespace

SurroundingsForm::SurroundingsForm(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kMargin);
    m_ambient = add(tr("Ambient, engine cold"), "ambient", Dimension::Temperature, "°C", &job::Surroundings::ambient_k);
    m_barometer =
        add(tr("Barometer"), "barometer", Dimension::AbsolutePressure, "kPa", &job::Surroundings::barometer_pa);
    row->addStretch(1);
}

QString SurroundingsForm::shown(Dimension dimension, std::string_view unit, Member member) const
{
    return text(units::format(m_desk.store.job()->surroundings.*member, dimension, unit, 1));
}

TypedField* SurroundingsForm::add(const QString& name, const char* objectName, Dimension dimension,
                                  std::string_view unit, Member member)
{
    auto* field = new TypedField(name, [=](const QString& typed) {
        return parsed(typed, dimension).map([&](double si) { return text(units::format(si, dimension, unit, 1)); });
    });
    field->edit()->setObjectName(QLatin1String(objectName));
    field->setFixedWidth(kFieldWidth);
    connect(field, &TypedField::entered, this, [=, this](const QString& typed) {
        const auto si = parsed(typed, dimension);
        if (!si)
            return;
        const QString step = tr("%1 to %2").arg(name, text(units::format(*si, dimension, unit, 1)));
        const auto done = m_desk.store.edit(step, [&](job::Job& job) { job.surroundings.*member = *si; });
        if (!done)
            field->refuse(QString::fromStdString(done.error().sentence));
    });
    auto* column = new QVBoxLayout;
    column->setSpacing(2);
    column->addWidget(label(name, look::Size::Small, false, true));
    column->addWidget(field);
    static_cast<QHBoxLayout*>(layout())->addLayout(column);
    return field;
}

void SurroundingsForm::refresh()
{
    m_ambient->setText(shown(Dimension::Temperature, "°C", &job::Surroundings::ambient_k));
    m_barometer->setText(shown(Dimension::AbsolutePressure, "kPa", &job::Surroundings::barometer_pa));
}

} // namespace vicegrip::app
