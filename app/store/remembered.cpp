#include "app/store/remembered.h"

#include <QObject>

namespace vicegrip::app {

Remembered::Remembered() : m_file(QStringLiteral("window.json"), 1, QObject::tr("How the window was last"))
{
    const nlohmann::json members = m_file.read();
    if (const auto place = members.find("place"); place != members.end() && place->is_string())
        m_place = QByteArray::fromBase64(QByteArray::fromStdString(place->get<std::string>()));
}

void Remembered::setPlace(const QByteArray& place)
{
    m_place = place;
    m_file.write({{"place", m_place.toBase64().toStdString()}});
}

} // namespace vicegrip::app
