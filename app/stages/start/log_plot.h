#pragma once

#include "app/stages/start/reviewed_log.h"
#include "app/widgets/time_plot.h"

namespace vicegrip::app {

/// Columns of a log over time, each in a field of its own beneath the other: the rows that show something shaded, the
/// ends of sensor and table across, what was asked beside what came of it.
class LogPlot : public TimePlot
{
    Q_OBJECT

  public:
    explicit LogPlot(QWidget* parent = nullptr);

    /// These columns, kMostFields at the most; a command is drawn into the field of what it commands.
    void show(std::shared_ptr<const ReviewedLog> of, const std::vector<size_t>& columns,
              std::vector<review::Stretch> shaded);
    /// The columns that are in view.
    [[nodiscard]] std::vector<size_t> columns() const;
    /// A stretch with as much on both its sides.
    void goToStretch(const review::Stretch& stretch);

    static constexpr size_t kMostFields = 4;

  protected:
    void paintEvent(QPaintEvent* event) override;
    [[nodiscard]] QRectF field() const override;
    [[nodiscard]] double all_s() const override;
    [[nodiscard]] double least_s() const override;

  private:
    struct Field
    {
        size_t column = 0;
        std::optional<size_t> command;
    };
    void paintField(QPainter& p, const QRectF& box, const Field& field) const;
    void paintColumn(QPainter& p, const QRectF& box, size_t column, const std::function<double(double)>& y,
                     const QColor& ink) const;
    void paintEvents(QPainter& p, const QRectF& box) const;

    std::shared_ptr<const ReviewedLog> m_of;
    std::vector<Field> m_fields;
    std::vector<review::Stretch> m_shaded;
};

} // namespace vicegrip::app
