#pragma once

#include <QWidget>

#include <vector>

class QHBoxLayout;
class QPushButton;

namespace vicegrip::app {

/// The views of one stage, side by side; Alt and a number goes to each.
class ViewBar : public QWidget
{
    Q_OBJECT

  public:
    struct View
    {
        const char* objectName;
        QString name;
    };
    explicit ViewBar(const std::vector<View>& views, QWidget* parent = nullptr);

    void choose(int view);
    /// Those that are offered, by object name and name.
    [[nodiscard]] std::vector<std::pair<QString, QString>> offered() const;
    void choose(const QString& objectName);
    [[nodiscard]] int chosen() const { return m_chosen; }
    [[nodiscard]] QString chosenName() const; ///< its object name
    /// Which views have something to show here, as they were listed; the others are taken away. Where the one that is
    /// shown is among those, the first that is offered is chosen.
    void offer(const std::vector<bool>& offered);
    /// Puts something at the right end.
    void addAtEnd(QWidget* widget);

  signals:
    void changed(int view);

  private:
    void chooseNth(int place);
    void tellKeys();

    std::vector<QPushButton*> m_buttons;
    QHBoxLayout* m_row;
    int m_chosen = 0;
};

} // namespace vicegrip::app
