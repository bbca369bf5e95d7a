#include "app/stages/pins/call_out.h"

#include <QTextToSpeech>

namespace vicegrip::app {
namespace {

/// Engines that need no network, in the order they are tried.
constexpr const char* kOffline[] = {"flite", "speechd"};

} // namespace

CallOut::CallOut(QObject* parent) : QObject(parent) {}

CallOut::~CallOut() = default;

QString CallOut::setOn(bool on)
{
    m_on = false;
    m_last.clear();
    if (!on) {
        if (m_voice != nullptr)
            m_voice->stop();
        return {};
    }
    if (m_voice == nullptr) {
        const QStringList there = QTextToSpeech::availableEngines();
        for (const char* engine : kOffline)
            if (there.contains(QLatin1String(engine))) {
                m_voice = std::make_unique<QTextToSpeech>(QLatin1String(engine));
                break;
            }
    }
    if (m_voice == nullptr || m_voice->state() == QTextToSpeech::Error) {
        m_voice.reset();
        return tr("No offline speech engine answers here: the call-out stays silent. Debian's is in "
                  "qt6-speech-flite-plugin.");
    }
    m_on = true;
    return {};
}

void CallOut::say(const QString& sentence)
{
    if (!m_on || sentence == m_last)
        return;
    m_last = sentence;
    m_voice->stop();
    m_voice->say(sentence);
}

} // namespace vicegrip::app
