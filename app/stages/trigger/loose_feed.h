#pragma once

#include "core/hand_test/due.h"

#include <QWidget>

class QCheckBox;

namespace vicegrip::app {

class TypedField;

/// Whether the sensor is unplugged, and what feeds it and pulls it up then.
class LooseFeed : public QWidget
{
    Q_OBJECT

  public:
    explicit LooseFeed(QWidget* parent = nullptr);

    void setFeed(const hand_test::Loose& loose); ///< of another sensor
    [[nodiscard]] bool isLoose() const;
    [[nodiscard]] const hand_test::Loose& feed() const { return m_loose; }

  signals:
    void changed();

  private:
    void show();

    hand_test::Loose m_loose;
    QCheckBox* m_isLoose;
    QWidget* m_fields;
    TypedField *m_feed, *m_pullUp;
};

} // namespace vicegrip::app
