#pragma once

#include "app/look/look.h"
#include "core/pinning/cavity_steps.h"
#include "core/proof/verdict.h"

#include <QWidget>

#include <vector>

namespace vicegrip::app {

/// The hand steps of a pin in their order: how many are ticked, the next one in strong ink, and those to come.
class StepList : public QWidget
{
    Q_OBJECT

  public:
    explicit StepList(QWidget* parent = nullptr);

    void show(const std::vector<pinning::CavityStep>& steps, int ticked);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {200_px, sizeHint().height()}; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    struct Line
    {
        QString sentence;
        proof::State state = proof::State::Untouched;
        bool next = false;
    };
    [[nodiscard]] std::vector<Line> lines() const;
    [[nodiscard]] int heightOf(const Line& line) const;

    std::vector<pinning::CavityStep> m_steps;
    int m_ticked = 0;
};

/// A length of wire as it looks, with its tracer.
class WireStripe : public QWidget
{
    Q_OBJECT

  public:
    explicit WireStripe(QWidget* parent = nullptr);

    void show(const QString& colours);
    [[nodiscard]] QSize sizeHint() const override { return {84_px, 12_px}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QString m_colours;
};

} // namespace vicegrip::app
