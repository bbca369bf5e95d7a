#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/job/job.h"

#include <QStringList>
#include <QWidget>

#include <vector>

class QComboBox;
class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;
class PhotoFigure;
class TypedField;

/// Photos of circuits, plugs, parts and lines of the logbook: added, said what is to be seen on them, shown.
class PhotosView : public QWidget
{
    Q_OBJECT

  public:
    explicit PhotosView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  protected:
    /// Files that are dropped on it are added.
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    struct Subject
    {
        job::PhotoOf of;
        std::string id;
        bool operator==(const Subject&) const = default;
    };
    struct Added
    {
        std::vector<job::Photo> photos;
        QStringList troubles;
        QString job; ///< its file: another may be open when they are taken in
    };
    void fillSubjects();
    void add(const QStringList& files);
    void take(const Added& added);
    void showChosen();
    void describe(const QString& words);
    void remove();
    void say(const QString& sentence, bool wrong);

    Desk& m_desk;
    QComboBox* m_of;
    TypedField* m_field;
    ListTable* m_list;
    TypedField* m_words;
    PhotoFigure* m_figure;
    QLabel *m_folder, *m_said;
    KeyButton *m_open, *m_remove;
    std::vector<Subject> m_subjects; ///< of the choice
    Worked<Added> m_work;
};

} // namespace vicegrip::app
