#include "app/shell/language.h"

#include "app/widgets/text.h"
#include "core/base/phrase.h"
#include "core/base/shipped.h"

#include <QCoreApplication>
#include <QLocale>
#include <QTranslator>

namespace vicegrip::app {

void speakLanguage(QTranslator& translator)
{
    const QString folder = text((shippedFolder() / "translations").string());
    if (!translator.load(QLocale(), QStringLiteral("vicegrip"), QStringLiteral("_"), folder))
        return;
    QCoreApplication::installTranslator(&translator);
    setTranslate([](std::string_view key) {
        return QCoreApplication::translate("core", std::string(key).c_str()).toStdString();
    });
}

} // namespace vicegrip::app
