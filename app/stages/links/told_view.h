#pragma once

#include "app/desk/desk.h"

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
    void fillChoices();
    void fill(Choice& slot, const job::Circuit& circuit, const std::vector<stream::Candidate>& all, bool value);
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
    std::shared_ptr<const stream::Matcher> m_matcher; ///< whose database the offers point into
};

} // namespace vicegrip::app
