#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <functional>
#include <vector>

class QBoxLayout;
class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class KeyButton;
class TypedField;

/// What a user sets for himself: units, colours, speech, money, how he cuts and buys, his meter. It stands in the
/// stage's place until it is left; everything holds from the moment it is chosen.
class PreferencesPage : public QWidget
{
    Q_OBJECT

  public:
    explicit PreferencesPage(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  signals:
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void buildUnits(QVBoxLayout* column);
    void buildWindow(QVBoxLayout* column);
    void buildCutting(QVBoxLayout* column);
    void buildMeter(QVBoxLayout* column);
    void change(const std::function<void(Preferred&)>& how);
    void showExamples();
    void takeMeter();

    struct UnitRow
    {
        units::Dimension dimension;
        QComboBox* choice;
        QLabel* example;
    };

    Desk& m_desk;
    QBoxLayout* m_columns;
    QComboBox *m_system, *m_paper, *m_textSize;
    std::vector<UnitRow> m_units;
    QCheckBox* m_callOut;
    TypedField* m_currency;
    KeyButton* m_useMeter;
    std::vector<std::function<void()>> m_showers; ///< of the fields
};

} // namespace vicegrip::app
