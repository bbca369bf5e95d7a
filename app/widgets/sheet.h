#pragma once

#include "app/look/look.h"

#include <QString>
#include <QWidget>

#include <vector>

class QLabel;
class QScrollArea;

namespace vicegrip::app {

/// A page to read, in the place of the stage until it is left: a title, and headed lists of a term and what there is to
/// say of it. Escape leaves it.
class Sheet : public QWidget
{
    Q_OBJECT

  public:
    struct Row
    {
        QString term, text; ///< without a term the text takes the whole width
    };
    struct Part
    {
        QString heading;
        std::vector<Row> rows;
        bool beside = false; ///< in a second column
    };

    explicit Sheet(QWidget* parent = nullptr);

    /// The room terms have before what is said of them, in pixels.
    void setTermWidth(int width) { m_termWidth = width; }

    /// Text without a term may be Markdown. `inNumbers`: terms are keys, pins or names, and set as such.
    void show(const QString& title, const std::vector<Part>& parts, bool inNumbers);
    /// What another one shows.
    void showAgain(const Sheet& before);

  signals:
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QLabel* m_title;
    QScrollArea* m_scroll;
    std::vector<Part> m_parts; ///< that are shown
    bool m_inNumbers = false;
    int m_termWidth = 150_px;
};

} // namespace vicegrip::app
