#include "app/views/selected.h"

#include "app/widgets/typed_field.h"
#include "core/base/phrase.h"
#include "core/units/shown.h"

#include <QLineEdit>

namespace vicegrip::app {

const job::Circuit* selectedCircuit(const Desk& desk)
{
    return job::find(*desk.store.job(), desk.selection.circuit());
}

const parts::Part* selectedSensor(const Desk& desk)
{
    const job::Circuit* c = selectedCircuit(desk);
    return c == nullptr ? nullptr : job::sensorOf(*desk.store.job(), *c);
}

TypedField* valueField(const Desk& desk, const QString& name, const char* objectName)
{
    auto* field = new TypedField(name, [&desk](const QString& typed) -> Result<QString> {
        const parts::Part* s = selectedSensor(desk);
        if (s == nullptr)
            return QString();
        return units::parseShown(typed.toStdString(), s->measures, s->unit).map([&](double v) {
            return text(units::format(v, s->measures, s->unit, s->measures == units::Dimension::Lambda ? 3 : 1));
        });
    });
    field->edit()->setObjectName(QLatin1String(objectName));
    field->leaveLettersWhileEmpty();
    return field;
}

Result<double> differenceTyped(const QString& typed, const QString& unit)
{
    QString number = typed.trimmed();
    if (number.startsWith(QStringLiteral("±")))
        number.remove(0, 1);
    if (number.endsWith(unit))
        number.chop(unit.size());
    return units::parse(number.trimmed().toStdString(), units::Dimension::Counts)
        .and_then([](double n) -> Result<double> {
            if (n < 0)
                return fail(ErrorCode::Range, phrase("expected 0 or more"));
            return n;
        });
}

} // namespace vicegrip::app
