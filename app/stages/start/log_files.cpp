#include "app/stages/start/log_files.h"

#include "app/look/look.h"
#include "app/stages/start/bench_drive.h"
#include "app/widgets/file_field.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/text.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

QString purposeWords(review::Purpose purpose)
{
    switch (purpose) {
    case review::Purpose::Range:
        return LogFiles::tr("a sensor that reads further");
    case review::Purpose::Reading:
        return LogFiles::tr("another reading");
    case review::Purpose::Offset:
        return LogFiles::tr("an offset of a ground");
    case review::Purpose::Temperature:
        break;
    }
    return LogFiles::tr("a lower temperature");
}

} // namespace

LogFiles::LogFiles(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_drive(new BenchDrive(desk, this)), m_change(new QWidget)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6_px);
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kGap);
    m_log = fileField(tr("Log"), "log-file");
    m_log->edit()->setPlaceholderText(tr("a log, as CSV"));
    m_old = fileField(tr("Before the change"), "log-before");
    m_old->edit()->setPlaceholderText(tr("an older log to compare with"));
    auto* open = KeyButton::bound(parent, "log-open", tr("Open a log"), Qt::Key_O, false);
    m_driveKey = KeyButton::bound(parent, "log-drive", tr("Drive the bench's car"), Qt::Key_D, false);
    row->addWidget(m_log, 1);
    row->addWidget(open, 0, Qt::AlignTop);
    row->addWidget(m_driveKey, 0, Qt::AlignTop);
    row->addWidget(m_old, 1);
    column->addLayout(row);
    buildChange(column);
    connect(open, &QAbstractButton::clicked, this, &LogFiles::openOne);
    connect(m_driveKey, &QAbstractButton::clicked, m_drive, &BenchDrive::begin);
    connect(m_drive, &BenchDrive::onTheWay, this, [this](int percent) {
        emit driving(percent);
        refreshLive();
    });
    connect(m_drive, &BenchDrive::arrived, this, [this](const QString& file, const QString& before) {
        refreshLive();
        m_old->setText(before); // what was driven before it is what it is compared with
        m_log->setText(file);
        choose(file, before);
    });
    connect(m_drive, &BenchDrive::failed, this, [this](const QString& why) {
        refreshLive();
        emit notDriven(why);
    });
    connect(m_log, &TypedField::entered, this, [this](const QString& typed) { choose(typed.trimmed(), m_before); });
    connect(m_old, &TypedField::entered, this, [this](const QString& typed) { choose(m_file, typed.trimmed()); });
    refreshLive();
    showChange(false);
}

void LogFiles::buildChange(QVBoxLayout* column)
{
    auto* row = new QHBoxLayout(m_change);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(look::kGap);
    const auto box = [&](const QString& name, const char* objectName) {
        auto* out = new QComboBox;
        out->setObjectName(QLatin1String(objectName));
        out->setAccessibleName(name);
        out->setFont(look::textFont(look::Size::Small));
        out->setSizeAdjustPolicy(QComboBox::AdjustToContents);
        row->addWidget(label(name, look::Size::Small, false, true));
        row->addWidget(out);
        connect(out, &QComboBox::activated, this, &LogFiles::chosen);
        return out;
    };
    m_purpose = box(tr("The change was for"), "log-purpose");
    m_purpose->addItem(tr("whatever differs"));
    for (const review::Purpose p :
         {review::Purpose::Range, review::Purpose::Reading, review::Purpose::Offset, review::Purpose::Temperature})
        m_purpose->addItem(purposeWords(p), static_cast<int>(p));
    m_column = box(tr("of"), "log-column");
    row->addStretch(1);
    column->addWidget(m_change);
}

void LogFiles::openOne()
{
    const QString file = QFileDialog::getOpenFileName(this, tr("Open a log"), QFileInfo(m_file).path(),
                                                      tr("Logs (*.csv *.txt *.log);;All files (*)"));
    if (file.isEmpty())
        return;
    m_log->setText(file);
    choose(file, m_before);
}

void LogFiles::choose(const QString& file, const QString& before)
{
    m_file = file;
    m_before = before;
    emit chosen();
}

void LogFiles::refreshLive()
{
    m_driveKey->setVisible(m_desk.live.bench().isReady());
    m_driveKey->setEnabled(!m_drive->isUnderWay());
}

ChangeAsked LogFiles::asked() const
{
    const QVariant purpose = m_purpose->currentData();
    return {purpose.isValid() ? std::optional(static_cast<review::Purpose>(purpose.toInt())) : std::nullopt,
            m_column->currentText()};
}

void LogFiles::refuseFile(const QString& sentence)
{
    m_log->refuse(sentence);
}

void LogFiles::refuseBefore(const QString& sentence)
{
    m_old->refuse(sentence);
}

void LogFiles::offer(const log::Log& log)
{
    const QSignalBlocker quiet(m_column);
    m_column->clear();
    for (const log::Column& c : log.columns)
        m_column->addItem(text(c.name));
}

void LogFiles::showChange(bool isOne)
{
    m_change->setVisible(isOne);
}

} // namespace vicegrip::app
