#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/book/book.h"

#include <QWidget>

class QLabel;
class QTableWidgetItem;

namespace vicegrip::app {

class Caution;
class KeyButton;
class ListTable;

/// The build book: which chapters it has, what stands in each, and the book as a file beside the job. The choice is
/// kept with the preferences.
class BookView : public QWidget
{
    Q_OBJECT

  public:
    explicit BookView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    struct Written
    {
        QString file, trouble;
    };
    void write(bool pdf);
    void ticked(QTableWidgetItem* cell);
    void toggle();
    [[nodiscard]] bool isIn(book::Chapter chapter) const;
    void showAtWork(bool isAtWork);
    void say(const QString& sentence, bool bad);

    Desk& m_desk;
    ListTable* m_chapters;
    Caution* m_stops;
    QLabel *m_asOf, *m_said;
    KeyButton *m_pdf, *m_html;
    Worked<Written> m_work;
};

} // namespace vicegrip::app
