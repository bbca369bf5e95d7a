#pragma once

#include "core/base/result.h"

#include <QWidget>

#include <functional>

class QLabel;
class QLineEdit;

/// A field for a number with its unit. It says what it understood, or beside itself what is wrong; never a dialog.
namespace vicegrip::app {

class TypedField : public QWidget
{
    Q_OBJECT

  public:
    /// Reads what was typed and says how it was understood ("2k49 Ω"), or refuses with a sentence.
    using Understand = std::function<Result<QString>(const QString& typed)>;

    TypedField(const QString& name, Understand understand, QWidget* parent = nullptr);

    void setText(const QString& text);
    [[nodiscard]] QString text() const;
    void setHint(const QString& hint); ///< shown below while nothing is wrong
    void refuse(const QString& sentence);
    [[nodiscard]] QLineEdit* edit() const { return m_edit; }

    /// Letters typed into the empty field are left to the stage's keys, since no number starts with one.
    void leaveLettersWhileEmpty();

  signals:
    void entered(const QString& typed); ///< Enter, or the focus left after a change, and it was understood

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    [[nodiscard]] QString inPoints(const QString& typed) const;
    void tryUnderstand();
    void enter();

    Understand m_understand;
    QLineEdit* m_edit;
    QLabel* m_below;
    QString m_hint;
    QString m_settled; ///< text that stands in the job
    bool m_leaveLetters = false;
};

} // namespace vicegrip::app
