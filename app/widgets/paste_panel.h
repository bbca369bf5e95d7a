#pragma once

#include <QWidget>

#include <vector>

class QLabel;
class QListWidget;
class QPlainTextEdit;

namespace vicegrip::app {

class KeyButton;

/// A list pasted from elsewhere, with what became of each line beside it.
class PastePanel : public QWidget
{
    Q_OBJECT

  public:
    PastePanel(const char* objectName, const QString& spoken, const QString& hint, QWidget* parent = nullptr);

    struct Line
    {
        int number = 0; ///< of the text, from 1
        QString sentence; ///< what it became, or why it is left out
        bool kept = false;
    };
    /// `take` is what the button says; empty: there is nothing to take.
    void show(const std::vector<Line>& lines, const QString& verdict, const QString& take);

    void setText(const QString& text);
    [[nodiscard]] QString text() const;

  signals:
    void typed();
    void taken();
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QPlainTextEdit* m_text;
    QListWidget* m_lines;
    QLabel* m_verdict;
    KeyButton *m_take, *m_back;
};

} // namespace vicegrip::app
