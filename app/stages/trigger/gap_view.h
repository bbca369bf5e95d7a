#pragma once

#include "app/desk/desk.h"
#include "core/trigger/air_gap.h"

#include <QWidget>

#include <array>
#include <optional>

class QGridLayout;
class QLabel;

namespace vicegrip::app {

class StripDrawing;
class StripView;
class TypedField;

/// How far a sensor stands from its wheel, how many turns bring it into its window, how far the wheel runs out, and how
/// the wheel sits: what must be known before something is bolted in front of it.
class GapView : public QWidget
{
    Q_OBJECT

  public:
    explicit GapView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    void addGap(QGridLayout* grid);
    void addFeelers(QGridLayout* grid);
    void addSeat(QGridLayout* grid);
    void setFeeler(size_t quarter, double gap_m);
    void showTurn(const trigger::AirGap& gap, const Result<trigger::GapTurn>& turn);
    void showRotation(const trigger::AirGap& gap, const trigger::GapTurn& turn);
    void showFeelers(const job::TriggerSetup& setup, const std::optional<trigger::Feelers>& feelers);

    Desk& m_desk;
    TypedField *m_now, *m_least, *m_most, *m_pitch, *m_hole, *m_side;
    std::array<TypedField*, 4> m_feelers{};
    StripView* m_lies;
    StripDrawing* m_drawing;
    QLabel *m_turn, *m_after, *m_strip, *m_runOut, *m_oval, *m_open;
};

} // namespace vicegrip::app
