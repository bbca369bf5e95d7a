#pragma once

#include "link/line_socket.h"

#include <QTimer>

#include <memory>
#include <vector>

/// A scope that answers SCPI-99: arrays of volts as blocks of 32-bit reals (IEEE 488.2).
namespace vicegrip::link {

/// What a scope is asked for.
struct Sweep
{
    int channels = 1; ///< the first so many
    double step_s = 1e-5;
    int points = 100000; ///< of each
};

/// What it saw.
struct Swept
{
    double step_s = 0; ///< that it took
    std::vector<std::vector<float>> volts; ///< channel by channel
};

/// It is connected to for one sweep, and left again.
class ScpiScope : public QObject
{
    Q_OBJECT

  public:
    explicit ScpiScope(QObject* parent = nullptr);

    /// `swept` or `failed` follows, within ten seconds beside the sweep's own. One at a time.
    void take(const Address& address, const Sweep& sweep);
    [[nodiscard]] bool isBusy() const { return m_asked != Asked::Nothing; }

  signals:
    void swept(std::shared_ptr<const vicegrip::link::Swept> swept);
    void failed(const QString& sentence);

  private:
    enum class Asked { Nothing, Name, Step, Done, Volts };
    void ask(Asked what, const QByteArray& query);
    void takeLine(const QByteArray& line);
    void takeBlock(const QByteArray& block);
    void fetch();
    void giveUp(const QString& sentence);

    LineSocket m_line;
    QTimer m_patience;
    Sweep m_sweep;
    std::shared_ptr<Swept> m_swept;
    Asked m_asked = Asked::Nothing;
};

} // namespace vicegrip::link
