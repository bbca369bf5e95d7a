#pragma once

#include "app/look/look.h"

#include <QAbstractButton>

namespace vicegrip::app {

/// A way on, in two lines or three: what it is, and what there is to know of it. The key that takes it stands at its
/// end.
class ChoiceButton : public QAbstractButton
{
    Q_OBJECT

  public:
    /// `key` is only shown; whoever makes it binds it.
    ChoiceButton(const QString& name, const QString& detail, const QString& key = {}, QWidget* parent = nullptr);

    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

    /// Whether it is what most would take: one of several is.
    void setNext(bool next);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    QString m_detail, m_key;
    bool m_next = false, m_wrapped = false;
};

} // namespace vicegrip::app
