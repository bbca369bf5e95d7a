#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/sheets/print.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QVBoxLayout;

namespace vicegrip::app {

class FigureView;
class KeyButton;
class TypedField;

/// What is printed at its own size: labels on a sheet by measure, faces, holes and strip lengths, page by page as they
/// will be, and as a file beside the job.
class LabelsView : public QWidget
{
    Q_OBJECT

  public:
    explicit LabelsView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    struct Made
    {
        sheets::Print print;
        QString trouble;
    };
    TypedField* sizeField(const QString& name, const char* objectName, double least_mm, double most_mm,
                          const std::function<void(std::optional<sheets::Size>)>& take);
    void keep();
    void make();
    void show(const Made& made);
    void showPage(int page);
    void write(bool pdf);
    void say(const QString& sentence, bool bad);

    Desk& m_desk;
    std::vector<QCheckBox*> m_kinds; ///< in the order of the kinds
    QComboBox* m_form;
    QVBoxLayout* m_side;
    QLabel *m_page, *m_said;
    FigureView* m_figure;
    KeyButton *m_next, *m_pdf, *m_svg;
    sheets::LabelStock m_stock;
    JobPtr m_of; ///< the job the pages are of
    sheets::Print m_print;
    int m_shown = 0;
    Worked<Made> m_work;
};

} // namespace vicegrip::app
