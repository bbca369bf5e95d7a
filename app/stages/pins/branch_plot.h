#pragma once

#include "app/look/look.h"
#include "core/branches/tree.h"

#include <QWidget>

#include <map>

namespace vicegrip::app {

/// The harness as a tree: the ECU on the left, each stretch as long as it is and as thick as its bundle, plugs and
/// joints at its ends. A stretch through a wall bears a grommet.
class BranchPlot : public QWidget
{
    Q_OBJECT

  public:
    explicit BranchPlot(QWidget* parent = nullptr);

    void show(const job::Job& job, const std::vector<branches::Stretch>& stretches, int current);
    /// High enough that no leaf's name stands on the next.
    [[nodiscard]] QSize minimumSizeHint() const override;

    /// The rows where a stretch's end is drawn, from its top.
    [[nodiscard]] int endOf(int branch) const;

  signals:
    void picked(int branch);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    struct Node
    {
        QString name;
        double x_m = 0; ///< along the harness from the root
        double row = 0; ///< leaves count from 0
        bool leaf = false;
    };
    struct Line
    {
        int from = 0, to = 0; ///< nodes
        int branch = 0;
        double bundle_m = 0;
        bool wall = false;
        QString length;
    };
    double lay(const job::Job& job, const std::string& place, int came, double x_m);
    [[nodiscard]] QPointF at(const Node& node) const;
    [[nodiscard]] QPainterPath pathOf(const Line& line) const;
    void paintLine(QPainter& p, const Line& line) const;
    void paintLength(QPainter& p, const Line& line, const std::vector<QRectF>& names) const;
    void paintNode(QPainter& p, const Node& node, const QRectF& name) const;
    [[nodiscard]] QRectF nameBox(const Node& node) const;

    std::vector<Node> m_nodes;
    std::vector<Line> m_lines;
    std::map<std::string, int> m_index;
    double m_rows = 0, m_long_m = 0;
    int m_current = -1;
};

} // namespace vicegrip::app
