#include "app/stages/handover/photos_view.h"

#include "app/desk/when.h"
#include "app/stages/handover/photo_figure.h"
#include "app/widgets/file_field.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/typed_field.h"
#include "core/logbook/logbook.h"
#include "core/photos/photos.h"

#include <QComboBox>
#include <QDropEvent>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QMimeData>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

std::filesystem::path pathOf(const QString& file)
{
    return QFile::encodeName(file).toStdString();
}

} // namespace

PhotosView::PhotosView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_of(new QComboBox),
      m_field(fileField(tr("A photo, JPEG or PNG"), "photo-file")),
      m_list(new ListTable("photos", tr("Photos of this job"),
                           {{tr("Of"), 130}, {tr("What is to be seen"), 0}, {tr("Added"), 110, true}})),
      m_words(new TypedField(tr("What is to be seen on it"),
                             [](const QString& typed) -> Result<QString> {
                                 constexpr int kMost = 300;
                                 if (typed.size() <= kMost)
                                     return QString();
                                 return fail(ErrorCode::TooBig, tr("at most 300 letters").toStdString());
                             })),
      m_figure(new PhotoFigure),
      m_folder(label({}, look::Size::Small, false, true)),
      m_said(label({}, look::Size::Body)),
      m_open(KeyButton::bound(this, "photo-open", tr("Add photos"), Qt::Key_O, true)),
      m_remove(KeyButton::bound(this, "photo-remove", tr("Remove it"), Qt::Key_X, false)),
      m_work([this](const Added& added) { take(added); })
{
    setAcceptDrops(true);
    m_of->setObjectName(QStringLiteral("photo-of"));
    m_of->setAccessibleName(tr("What the photo is of"));
    m_of->setMinimumContentsLength(12);
    m_list->setWordWrap(true);
    m_list->verticalHeader()->setDefaultSectionSize(40_px);
    m_words->edit()->setObjectName(QStringLiteral("photo-words"));
    m_said->setObjectName(QStringLiteral("photo-said"));
    auto* left = new QVBoxLayout;
    left->setSpacing(look::kGap);
    left->addWidget(label(tr("A new photo is of"), look::Size::Small, false, true));
    left->addWidget(m_of);
    left->addWidget(label(tr("Its file, JPEG or PNG"), look::Size::Small, false, true));
    left->addWidget(m_field);
    left->addWidget(m_list, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(look::kGap);
    right->addWidget(label(tr("What is to be seen on it"), look::Size::Small, false, true));
    right->addWidget(m_words);
    right->addWidget(m_figure, 1);
    auto* both = new QHBoxLayout;
    both->setSpacing(look::kMargin);
    both->addLayout(left, 3);
    both->addLayout(right, 2);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_open);
    keys->addWidget(m_remove);
    keys->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(m_folder);
    column->addLayout(both, 1);
    column->addWidget(m_said);
    column->addLayout(keys);
    connect(m_field, &TypedField::entered, this, [this](const QString& typed) {
        if (!typed.trimmed().isEmpty())
            add({typed.trimmed()});
    });
    connect(m_words, &TypedField::entered, this, &PhotosView::describe);
    connect(m_open, &KeyButton::clicked, this, [this] {
        add(QFileDialog::getOpenFileNames(this, tr("Photos"), QFileInfo(m_desk.store.path()).path(),
                                          tr("Photos (*.jpg *.jpeg *.png *.JPG *.JPEG *.PNG);;All files (*)")));
    });
    connect(m_remove, &KeyButton::clicked, this, &PhotosView::remove);
    connect(m_list, &QTableWidget::currentCellChanged, this, &PhotosView::showChosen);
    handFocus(this, m_list);
}

void PhotosView::say(const QString& sentence, bool wrong)
{
    m_said->setText(sentence);
    setInk(m_said, wrong ? look::colours().failing : look::colours().ink);
}

/// The selected circuit with its plug and part first, then every plug, then what was done last.
void PhotosView::fillSubjects()
{
    const auto job = m_desk.store.job();
    const int chosen = m_of->currentIndex();
    const auto before = chosen < 0 ? std::nullopt : std::optional(m_subjects[static_cast<size_t>(chosen)]);
    const QSignalBlocker quiet(m_of);
    m_of->clear();
    m_subjects.clear();
    const auto offer = [&](job::PhotoOf of, const std::string& id, const QString& words) {
        if (id.empty() || std::ranges::count(m_subjects, Subject{of, id}) > 0)
            return;
        m_subjects.push_back({of, id});
        m_of->addItem(words);
    };
    if (const job::Circuit* circuit = job::find(*job, m_desk.selection.circuit())) {
        offer(job::PhotoOf::Circuit, circuit->id.value, tr("Circuit: %1").arg(text(circuit->name)));
        if (const job::Device* device = job::find(*job, circuit->device))
            offer(job::PhotoOf::Plug, device->connector, tr("Plug: %1").arg(text(device->connector)));
        if (const parts::Part* part = job::partOf(*job, *circuit))
            offer(job::PhotoOf::Part, part->id.value, tr("Part: %1").arg(text(part->name)));
    }
    for (const job::Connector& c : job->connectors)
        offer(job::PhotoOf::Plug, c.id, tr("Plug: %1").arg(text(c.id)));
    constexpr size_t kLines = 12;
    const auto lines = logbook::logbook(*job);
    for (size_t i = 0; i < std::min(kLines, lines.size()); ++i)
        offer(job::PhotoOf::Log, lines[i].when, tr("Logbook: %1").arg(text(lines[i].what)));
    const auto again = before ? std::ranges::find(m_subjects, *before) : m_subjects.end();
    // What was chosen of another circuit is not meant any more: the selected one leads.
    const bool keeps = again != m_subjects.end() && (*again).of != job::PhotoOf::Circuit;
    m_of->setCurrentIndex(keeps ? static_cast<int>(again - m_subjects.begin()) : m_subjects.empty() ? -1 : 0);
}

void PhotosView::refresh()
{
    const bool named = !m_desk.store.path().isEmpty();
    const QString folder =
        named ? QString::fromStdString(photos::folderOf(pathOf(m_desk.store.path())).filename().string()) : QString();
    m_folder->setText(named ? tr("Kept in %1 beside the job: upright, made smaller, and without place, device and "
                                 "date. They stand in the build book.")
                                  .arg(folder)
                            : tr("Save the job first: its photos are kept beside it."));
    m_open->setEnabled(named);
    fillSubjects();
    std::vector<QStringList> rows;
    for (const job::Photo& p : m_desk.store.job()->photos)
        rows.push_back({text(photos::subjectText(*m_desk.store.job(), p)), text(p.words), text(p.when).left(10)});
    m_list->fill(rows);
    if (m_list->currentRow() < 0 && !rows.empty())
        m_list->setCurrentCell(0, 0);
    showChosen();
    if (rows.empty() && m_said->text().isEmpty())
        say(tr("No photo yet. A connector's face before it is closed, a ground's bolt, a sensor's print: what nobody "
               "can look at later."),
            false);
}

void PhotosView::showChosen()
{
    const auto job = m_desk.store.job();
    const int row = m_list->currentRow();
    const bool any = row >= 0 && static_cast<size_t>(row) < job->photos.size();
    m_remove->setEnabled(any);
    m_words->setEnabled(any);
    if (!any) {
        m_words->setText({});
        m_figure->show({}, {});
        return;
    }
    const job::Photo& photo = job->photos[static_cast<size_t>(row)];
    m_words->setText(text(photo.words));
    m_words->edit()->setCursorPosition(0); // its beginning is seen
    const auto kept = photos::photoOf(photo, pathOf(m_desk.store.path()));
    if (!kept) {
        m_figure->show({}, {});
        say(tr("%1 cannot be shown: %2. All else is as it was.").arg(text(photo.file), text(kept.error().sentence)),
            true);
        return;
    }
    m_figure->show(QImage::fromData(reinterpret_cast<const uchar*>(kept->bytes.data()),
                                    static_cast<int>(kept->bytes.size()), "JPG"),
                   tr("Photo of %1: %2").arg(text(photos::subjectText(*job, photo)), text(photo.words)));
    if (m_said->palette().color(QPalette::WindowText) == look::colours().failing)
        say({}, false);
}

void PhotosView::dragEnterEvent(QDragEnterEvent* event)
{
    if (m_open->isEnabled() && event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void PhotosView::dropEvent(QDropEvent* event)
{
    QStringList files;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile())
            files.append(url.toLocalFile());
    add(files);
    event->acceptProposedAction();
}

void PhotosView::add(const QStringList& files)
{
    const int of = m_of->currentIndex();
    if (files.isEmpty() || of < 0 || m_desk.store.path().isEmpty())
        return;
    m_open->setEnabled(false);
    say(tr("Taking in …"), false);
    std::vector<std::filesystem::path> paths;
    for (const QString& file : files)
        paths.push_back(pathOf(file));
    m_work.ask([paths, subject = m_subjects[static_cast<size_t>(of)], job = pathOf(m_desk.store.path()),
                file = m_desk.store.path(), now = nowText()]() -> Added {
        Added out{{}, {}, file};
        for (const auto& path : paths) {
            const auto name =
                photos::readImage(path).and_then([&](const photos::Jpeg& photo) { return photos::keep(photo, job); });
            if (name)
                out.photos.push_back(
                    {.file = *name, .of = subject.of, .subject = subject.id, .words = {}, .when = now});
            else
                out.troubles.push_back(text(name.error().text()));
        }
        return out;
    });
}

void PhotosView::take(const Added& added)
{
    m_open->setEnabled(true);
    if (added.job != m_desk.store.path()) {
        say(tr("Another job was opened meanwhile: the photos were not added to it."), true);
        return;
    }
    if (!added.photos.empty() && m_desk.store.editOrSay(tr("Photos added"), [&](job::Job& job) {
            job.photos.insert(job.photos.end(), added.photos.begin(), added.photos.end());
        })) {
        m_field->setText({});
        refresh();
        m_list->setCurrentCell(m_list->rowCount() - 1, 0);
        say(added.photos.size() == 1 ? tr("Added. Say what is to be seen on it.")
                                     : tr("%1 added.").arg(added.photos.size()),
            false);
    }
    if (!added.troubles.isEmpty())
        say(added.troubles.join(u'\n'), true);
}

void PhotosView::describe(const QString& words)
{
    const auto row = static_cast<size_t>(m_list->currentRow());
    if (m_desk.store.editOrSay(tr("Photo described"), [&](job::Job& job) {
            if (row < job.photos.size())
                job.photos[row].words = words.trimmed().toStdString();
        }))
        say({}, false);
}

/// Out of the job; undone like anything, and so its file stays.
void PhotosView::remove()
{
    const auto row = static_cast<size_t>(m_list->currentRow());
    const auto job = m_desk.store.job();
    if (row >= job->photos.size())
        return;
    const QString file = text(job->photos[row].file);
    if (m_desk.store.editOrSay(tr("Photo taken off"), [&](job::Job& j) {
            j.photos.erase(j.photos.begin() + static_cast<std::ptrdiff_t>(row));
        }))
        say(tr("Removed from the job. The file %1 stays in its folder until you remove it there.").arg(file), false);
}

} // namespace vicegrip::app
