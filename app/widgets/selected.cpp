#include "app/widgets/selected.h"

#include "app/widgets/typed_field.h"

#include <QLineEdit>

namespace vicegrip::app {

const job::Circuit* selectedCircuit(const Desk& desk)
{
    return job::find(*desk.store.job(), desk.selection.circuit());
}

const parts::Sensor* selectedSensor(const Desk& desk)
{
    const job::Circuit* c = selectedCircuit(desk);
    return c == nullptr ? nullptr : job::sensorOf(*desk.store.job(), *c);
}

TypedField* valueField(const Desk& desk, const QString& name, const char* objectName)
{
    auto* field = new TypedField(name, [&desk](const QString& typed) -> Result<QString> {
        const parts::Sensor* s = selectedSensor(desk);
        if (s == nullptr)
            return QString();
        return units::parse(typed.toStdString(), s->measures, s->unit).map([&](double v) {
            return text(units::format(v, s->measures, s->unit, s->measures == units::Dimension::Lambda ? 3 : 1));
        });
    });
    field->edit()->setObjectName(QLatin1String(objectName));
    field->leaveLettersWhileEmpty();
    return field;
}

} // namespace vicegrip::app
