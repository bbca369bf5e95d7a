#include "app/widgets/value_row.h"

#include "app/widgets/labels.h"
#include "app/widgets/text.h"
#include "app/widgets/typed_field.h"
#include "core/units/shown.h"

#include <QGridLayout>
#include <QLineEdit>

namespace vicegrip::app {

ReadsValue readsValue(units::Dimension dimension, const char* unit, double least, double most)
{
    return [=](const QString& typed) {
        return units::parseShown(typed.toStdString(), dimension, unit).and_then([=](double v) -> Result<double> {
            if (v < least || v > most)
                return fail(ErrorCode::Range,
                            phrase("expected {}", units::formatRange(least, most, dimension, unit, 1)));
            return v;
        });
    };
}

ReadsValue readsPlain(double least, double most, const QString& unit)
{
    return [=](const QString& typed) -> Result<double> {
        QString plain = typed.trimmed();
        for (const QString& end : {QStringLiteral("rpm"), QStringLiteral("deg"), QStringLiteral("°")})
            if (plain.endsWith(end, Qt::CaseInsensitive))
                plain.chop(end.size());
        return units::parse(plain.trimmed().toStdString(), units::Dimension::Counts, "")
            .and_then([=](double v) -> Result<double> {
                if (v < least || v > most)
                    return fail(ErrorCode::Range, phrase("expected {} to {}", units::formatNumber(least, 0),
                                                         units::formatNumber(most, 0) + " " + unit.toStdString()));
                return v;
            });
    };
}

std::function<QString(double)> saysValue(units::Dimension dimension, const char* unit, int decimals)
{
    return [=](double v) { return text(units::format(v, dimension, unit, decimals)); };
}

TypedField* addValueRow(QGridLayout* grid, const QString& name, const char* objectName, const ReadsValue& read,
                        const std::function<QString(double)>& say, const std::function<void(double)>& take)
{
    auto* field = new TypedField(
        name, [read, say](const QString& typed) { return read(typed).map([&](double v) { return say(v); }); });
    addCaptioned(grid, name, objectName, field);
    QObject::connect(field, &TypedField::entered, field, [read, take](const QString& typed) {
        if (const auto value = read(typed))
            take(*value);
    });
    return field;
}

void addCaptioned(QGridLayout* grid, const QString& name, const char* objectName, TypedField* field)
{
    const int row = grid->rowCount();
    auto* caption = label(name, look::Size::Small, false, true);
    caption->setWordWrap(false);
    caption->setContentsMargins(0, 7_px, 0, 0); // on the line of what is typed beside it
    grid->addWidget(caption, row, 0, Qt::AlignTop);
    field->edit()->setObjectName(QLatin1String(objectName));
    field->leaveLettersWhileEmpty();
    grid->addWidget(field, row, 1);
}

} // namespace vicegrip::app
