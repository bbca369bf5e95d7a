#include "app/stages/brief/questions_form.h"

#include "app/widgets/labels.h"
#include "core/brief/questions.h"

#include <QLineEdit>
#include <QVBoxLayout>

namespace vicegrip::app {

QuestionsForm::QuestionsForm(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_column(new QVBoxLayout(this))
{
    m_column->setContentsMargins(0, 0, 0, 0);
    m_column->setSpacing(4_px);
}

void QuestionsForm::build(const std::vector<std::string>& ids)
{
    while (QLayoutItem* item = m_column->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    m_ids = ids;
    for (const std::string& id : ids) {
        auto* question = label({}, look::Size::Small, true);
        question->setObjectName(QStringLiteral("question-") + text(id));
        auto* why = label({}, look::Size::Small, false, true);
        why->setObjectName(QStringLiteral("why-") + text(id));
        auto* answer = new QLineEdit;
        answer->setObjectName(QStringLiteral("answer-") + text(id));
        answer->setPlaceholderText(tr("open"));
        answer->setMaxLength(2000);
        for (QWidget* w : {static_cast<QWidget*>(question), static_cast<QWidget*>(why), static_cast<QWidget*>(answer)})
            m_column->addWidget(w);
        m_column->addSpacing(8_px);
        connect(answer, &QLineEdit::editingFinished, this, [this, id, answer] {
            const std::string said = answer->text().trimmed().toStdString();
            m_desk.store.editOrSay(tr("Answer from the tuner"), [&](job::Job& job) {
                if (!job.brief)
                    job.brief.emplace();
                if (said.empty())
                    job.brief->answers.erase(id);
                else
                    job.brief->answers[id] = said;
            });
        });
    }
}

void QuestionsForm::refresh()
{
    const auto job = m_desk.store.job();
    const auto all = brief::questions(job->brief.value_or(job::Brief{}), *job);
    std::vector<std::string> ids;
    for (const auto& q : all)
        ids.push_back(q.id);
    if (ids != m_ids)
        build(ids);
    for (const auto& q : all) {
        findChild<QLabel*>(QStringLiteral("question-") + text(q.id))->setText(text(q.text));
        findChild<QLabel*>(QStringLiteral("why-") + text(q.id))->setText(text(q.why));
        auto* answer = findChild<QLineEdit*>(QStringLiteral("answer-") + text(q.id));
        answer->setAccessibleName(text(q.text));
        if (!answer->hasFocus())
            answer->setText(text(q.answer));
    }
}

} // namespace vicegrip::app
