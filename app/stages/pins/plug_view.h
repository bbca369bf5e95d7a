#pragma once

#include "app/desk/desk.h"
#include "core/pinning/pin_use.h"
#include "core/pinning/pinning.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class CallOut;
class ConnectorFace;
class FaceChooser;
class KeyButton;
class PinCard;
class PinTable;
struct PinShown;

/// One connector's face, what belongs in each cavity, and the pin in hand.
class PlugView : public QWidget
{
    Q_OBJECT

  public:
    explicit PlugView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void chooseConnector(const std::string& id);
    void chooseCavity(const job::PointRef& at);

  signals:
    void notice(const QString& sentence);
    void describeAsked(); ///< a connector of one's own

  private:
    void buildFace(QVBoxLayout* column);
    void bindKeys();
    void flip();
    void walkConnectors(int step);
    void pick(int index);
    void act(); ///< Space: the next tick, or what is wrong taken out
    void untick();
    void toggleVoice();
    void speak(const PinShown& shown);
    void count(const QString& cavity);
    void edit(const QString& description, const Change& change);

    void followCircuit();
    void followStation();
    void refreshConnectors();
    void refreshFace();
    void refreshCard();
    [[nodiscard]] const job::Connector* connector() const;
    [[nodiscard]] const pinning::Pin* current() const;
    [[nodiscard]] const pinning::PinUse* useOf(const job::PointRef& at) const;
    [[nodiscard]] bool proved(const pinning::Pin& pin) const;

    Desk& m_desk;
    QComboBox* m_connectors;
    FaceChooser* m_chooser;
    QLabel *m_side, *m_caption;
    KeyButton* m_flip;
    ConnectorFace* m_drawing;
    PinTable* m_table;
    PinCard* m_card;
    CallOut* m_voice;
    KeyButton* m_speak;

    std::string m_connector; ///< id
    parts::Face m_face = parts::Face::Wire;
    job::PointRef m_picked; ///< by hand; empty: whatever comes next
    job::CircuitId m_followed; ///< the circuit this page last spoke of
    std::string m_station; ///< the place that was last chosen elsewhere
    std::vector<pinning::Pin> m_pins; ///< of the connector
    std::map<job::PointRef, pinning::PinUse> m_uses;
    int m_current = -1;
};

} // namespace vicegrip::app
