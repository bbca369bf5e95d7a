#pragma once

#include "core/analysis/analysis.h"

#include <QAbstractButton>
#include <QWidget>

#include <array>

class QVBoxLayout;

/// The stages down the left: number, name, and how much is left at each.
namespace vicegrip::app {

class RailButton : public QAbstractButton
{
    Q_OBJECT

  public:
    RailButton(const QString& number, const QString& name, QWidget* parent);
    void setLeft(const QString& left);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QString m_number, m_left;
};

class StageRail : public QWidget
{
    Q_OBJECT

  public:
    explicit StageRail(QWidget* parent = nullptr);
    void show(analysis::Stage current, const analysis::Analysis& analysis);
    void addAction(QAction* action); ///< a small action at the foot

  signals:
    void chosen(vicegrip::analysis::Stage stage);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::array<RailButton*, analysis::kStageCount> m_buttons{};
    QVBoxLayout* m_foot;
};

} // namespace vicegrip::app
