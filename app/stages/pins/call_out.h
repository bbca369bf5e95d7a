#pragma once

#include <QObject>

#include <memory>

class QTextToSpeech;

namespace vicegrip::app {

/// Speaks the pin in hand, for hands that are under a dash. Off until it is asked for; the engine is one that works
/// without a network.
class CallOut : public QObject
{
    Q_OBJECT

  public:
    explicit CallOut(QObject* parent = nullptr);
    ~CallOut() override;

    /// Switches it; what to tell the user when it cannot speak here, else empty.
    QString setOn(bool on);
    [[nodiscard]] bool isOn() const { return m_on; }

    /// Says it once; the same again is not repeated, and what was being said stops.
    void say(const QString& sentence);

  private:
    std::unique_ptr<QTextToSpeech> m_voice; ///< made when first switched on
    bool m_on = false;
    QString m_last;
};

} // namespace vicegrip::app
