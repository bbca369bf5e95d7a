#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"

#include <QWidget>

class QBoxLayout;
class QComboBox;
class QLabel;

namespace vicegrip::app {

class ListTable;
class TypedField;

/// What the ECU's stream tells of each circuit, by which signal, and how that is put right by hand.
class ToldView : public QWidget
{
    Q_OBJECT

  public:
    explicit ToldView(Desk& desk, QWidget* parent = nullptr);
    void refresh();
    void refreshLive();
    /// Its choices beside each other, or one under the other.
    void arrange(bool beside);

  private:
    /// What one box chooses: a value, or what the input reads.
    struct Choice
    {
        QComboBox* box = nullptr;
        std::vector<stream::Candidate> offered; ///< beside its entries, from the second on
    };
    QWidget* buildBelow();
    void sayHow();
    /// What there is to choose from for a circuit.
    struct Offered
    {
        job::CircuitId circuit;
        std::shared_ptr<const stream::Matcher> of; ///< whose database they point into
        std::vector<stream::Candidate> all;
    };
    void fillChoices();
    void show(const std::shared_ptr<const Offered>& offered);
    void fill(Choice& slot, const job::Circuit& circuit, const Offered& offered, bool value);
    void take(const Choice& slot, bool value, int index);
    void takeUnit(const QString& unit);
    [[nodiscard]] const job::Circuit* chosen() const;
    [[nodiscard]] QString sourceText(const job::Circuit& circuit, bool value) const;
    [[nodiscard]] QString nowText(const job::Circuit& circuit, bool value) const;

    Desk& m_desk;
    QLabel *m_says, *m_of;
    ListTable* m_table;
    Choice m_value, m_reading;
    TypedField* m_unit;
    QBoxLayout* m_below;
    std::vector<job::CircuitId> m_rows;
    int m_toldOf = 0; ///< how many of them are
    std::shared_ptr<const Offered> m_offered; ///< what the boxes have; none: nothing yet
    Worked<std::shared_ptr<const Offered>> m_worked;
};

} // namespace vicegrip::app
