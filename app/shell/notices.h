#pragma once

#include <QFrame>

#include <functional>

class QHBoxLayout;
class QLabel;
class QPushButton;

/// A sentence under the header: what went wrong or is offered, with what can be done about it. Never a dialog.
namespace vicegrip::app {

class Notices : public QFrame
{
    Q_OBJECT

  public:
    explicit Notices(QWidget* parent = nullptr);

    struct Choice
    {
        QString text;
        std::function<void()> act;
    };

    /// Replaces what was said before. "Dismiss" is always among the choices.
    void say(const QString& sentence, const std::vector<Choice>& choices = {});
    [[nodiscard]] QString said() const;
    /// In the text's size of now.
    void dress();

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void dressChoice(QPushButton& button) const;
    void addChoice(const QString& text, std::function<void()> act);

    QLabel* m_sentence;
    QHBoxLayout* m_row;
    QList<QPushButton*> m_choices;
};

} // namespace vicegrip::app
