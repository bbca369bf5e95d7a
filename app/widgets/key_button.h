#pragma once

#include <QAbstractButton>

/// A button big enough for a glove, with the key that presses it shown in it.
namespace vicegrip::app {

class KeyButton : public QAbstractButton
{
    Q_OBJECT

  public:
    /// `key` is only shown; the stage binds it.
    KeyButton(const QString& text, const QString& key, bool primary, QWidget* parent = nullptr);
    /// One that its key presses, within a view.
    [[nodiscard]] static KeyButton* bound(QWidget* view, const char* objectName, const QString& text, Qt::Key key,
                                          bool primary);

    [[nodiscard]] const QString& key() const { return m_key; }
    /// The one next thing to do in a view, which may change.
    void setPrimary(bool primary);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QString m_key;
    bool m_primary;
};

} // namespace vicegrip::app
