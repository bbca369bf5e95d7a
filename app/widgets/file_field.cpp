#include "app/widgets/file_field.h"

#include <QFileInfo>
#include <QLineEdit>

namespace vicegrip::app {

TypedField* fileField(const QString& name, const char* objectName)
{
    auto* field = new TypedField(name, [](const QString& typed) -> Result<QString> {
        if (typed.trimmed().isEmpty() || QFileInfo(typed.trimmed()).isFile())
            return QString();
        return fail(ErrorCode::Io, TypedField::tr("there is no such file").toStdString());
    });
    field->edit()->setObjectName(QLatin1String(objectName));
    field->leaveLettersWhileEmpty();
    return field;
}

} // namespace vicegrip::app
