#pragma once

#include <QWidget>

#include <vector>

class QGridLayout;
class QLabel;

namespace vicegrip::app {

/// Choices side by side: a column each, the same questions down the left. The chosen one is in full ink.
class CompareGrid : public QWidget
{
    Q_OBJECT

  public:
    CompareGrid(const QStringList& questions, int columns, QWidget* parent = nullptr);

    struct Column
    {
        QString name;
        QStringList answers; ///< one per question
        bool chosen = false;
    };
    void show(int column, const Column& what);

  private:
    std::vector<std::vector<QLabel*>> m_columns; ///< name, then answers
};

} // namespace vicegrip::app
