#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/compare/compare.h"

#include <QWidget>

#include <vector>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class TypedField;

/// What is different between another file and the job as it is now: what was changed, and what follows from it.
class CompareView : public QWidget
{
    Q_OBJECT

  public:
    explicit CompareView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    struct Compared
    {
        QString file, trouble;
        std::vector<compare::Difference> differences;
    };
    void choose(const QString& file);
    void compare();
    void show(const Compared& compared);
    void save();

    Desk& m_desk;
    TypedField* m_field;
    QLabel* m_said;
    ListTable* m_list;
    KeyButton *m_open, *m_saved, *m_save;
    QString m_file; ///< that is compared with
    AnalysisPtr m_of; ///< the job it was compared with last
    Compared m_compared;
    Worked<Compared> m_work;
};

} // namespace vicegrip::app
