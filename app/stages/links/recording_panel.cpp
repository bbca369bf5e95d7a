#include "app/stages/links/recording_panel.h"

#include "app/desk/when.h"
#include "app/look/look.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

namespace vicegrip::app {
namespace {

constexpr double kSpeeds[] = {1, 2, 5, 10, 50};

} // namespace

RecordingPanel::RecordingPanel(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_file(new QLineEdit),
      m_speed(new QComboBox),
      m_status(label({}, look::Size::Body)),
      m_left(label({}, look::Size::Small, false, true)),
      m_record(new KeyButton(tr("Record"), tr("F4"), true)),
      m_mark(new KeyButton(tr("Mark"), tr("F5"), false)),
      m_play(new KeyButton(tr("Play"), {}, false))
{
    m_status->setObjectName(QStringLiteral("recording-status"));
    m_left->setObjectName(QStringLiteral("recording-left"));
    m_record->setObjectName(QStringLiteral("recording-record"));
    m_mark->setObjectName(QStringLiteral("recording-mark"));
    m_play->setObjectName(QStringLiteral("recording-play"));
    m_file->setObjectName(QStringLiteral("recording-file"));
    m_file->setAccessibleName(tr("A recording"));
    m_file->setPlaceholderText(tr("a recording"));
    m_speed->setObjectName(QStringLiteral("recording-speed"));
    m_speed->setAccessibleName(tr("How fast it is played"));
    for (const double speed : kSpeeds)
        m_speed->addItem(tr("%1×").arg(speed), speed);
    auto* open = new QPushButton(tr("Open"));
    open->setObjectName(QStringLiteral("recording-open"));
    open->setAccessibleName(tr("Open a recording"));
    for (QWidget* w : std::initializer_list<QWidget*>{m_file, m_speed, open}) {
        w->setFont(look::textFont(look::Size::Small));
        w->setFixedHeight(look::kField);
    }
    connect(open, &QAbstractButton::clicked, this, &RecordingPanel::chooseFile);
    connect(m_record, &QAbstractButton::clicked, this, &RecordingPanel::recordAsked);
    connect(m_mark, &QAbstractButton::clicked, this, &RecordingPanel::markAsked);
    connect(m_play, &QAbstractButton::clicked, this, &RecordingPanel::playOrStop);
    connect(&desk.live.recorder(), &Recorder::changed, this, &RecordingPanel::refresh);
    connect(&desk.live, &Live::healthChanged, this, &RecordingPanel::refresh);
    connect(&desk.live, &Live::linksChanged, this, &RecordingPanel::refresh);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(label(tr("Recording"), look::Size::Body, true));
    column->addWidget(m_status);
    auto* keys = new QHBoxLayout;
    for (KeyButton* b : {m_record, m_mark, m_play})
        keys->addWidget(b);
    keys->addStretch();
    column->addLayout(keys);
    auto* file = new QHBoxLayout;
    file->addWidget(m_file, 1);
    file->addWidget(open);
    file->addWidget(m_speed);
    column->addLayout(file);
    column->addWidget(m_left);
    column->addStretch();
    refresh();
}

void RecordingPanel::offer(const QString& file)
{
    m_file->setText(file);
}

void RecordingPanel::chooseFile()
{
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a recording"), m_desk.store.path(),
                                                      tr("Recordings (*.csv *.log);;All files (*)"));
    if (!path.isEmpty())
        m_file->setText(path);
}

/// A log of frames is read by what describes the job's own stream, or else as the bench's.
void RecordingPanel::playOrStop()
{
    if (m_desk.live.replay()) {
        m_desk.live.endReplay();
        m_desk.linking.connectAgain();
        return;
    }
    const QString file = m_file->text().trimmed();
    if (file.isEmpty()) {
        m_file->setFocus();
        return;
    }
    m_desk.live.play({file, m_speed->currentData().toDouble(), m_desk.linking.database()});
}

QString RecordingPanel::status() const
{
    const Recorder& recorder = m_desk.live.recorder();
    if (recorder.isRecording())
        return tr("Recording: %1. Values: %2. Marks: %3.")
            .arg(clockText(recorder.seconds()))
            .arg(recorder.values())
            .arg(recorder.marks());
    const auto& played = m_desk.live.ecu().played();
    if (!m_desk.live.replay())
        return tr("Nothing is recorded or played.");
    if (!played)
        return m_desk.live.ecu().sentence();
    const QString at = tr("%1 of %2").arg(clockText(played->now_s), clockText(played->seconds));
    return played->over       ? tr("Played to its end: %1.").arg(at)
           : played->mark > 0 ? tr("Playing: %1, after mark %2.").arg(at).arg(played->mark)
                              : tr("Playing: %1.").arg(at);
}

void RecordingPanel::refresh()
{
    const auto& c = look::colours();
    const bool recording = m_desk.live.recorder().isRecording(), playing = m_desk.live.replay().has_value();
    m_status->setText(status());
    setInk(m_status, recording ? c.failing : playing ? c.done : c.inkSoft);
    m_record->setText(recording ? tr("Stop") : tr("Record"));
    m_record->setEnabled(recording || (m_desk.live.ecuLive() && !playing));
    m_mark->setEnabled(recording);
    m_play->setText(playing ? tr("End") : tr("Play"));
    m_speed->setEnabled(!playing);
    m_file->setEnabled(!playing);
    const auto& played = m_desk.live.ecu().played();
    m_left->setText(played && !played->left.isEmpty()
                        ? tr("The job has no place for %1.").arg(played->left.join(QStringLiteral(", ")))
                        : QString());
    m_left->setVisible(!m_left->text().isEmpty());
}

} // namespace vicegrip::app
