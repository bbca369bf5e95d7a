#pragma once

#include <QTableWidget>

namespace vicegrip::app {

/// A list in rows, filled again without losing the place.
class ListTable : public QTableWidget
{
    Q_OBJECT

  public:
    /// Columns with a weight above 0 share the room that is left; the others are as wide as they say, and
    /// columns of figures wider where a figure asks for it.
    struct Column
    {
        QString name;
        int width = 0; ///< pixels at 100 % text; 0: shares
        bool figures = false;
    };
    ListTable(const char* objectName, const QString& spoken, const std::vector<Column>& columns,
              QWidget* parent = nullptr);

    /// `strong` rows are headings within the list.
    void fill(const std::vector<QStringList>& rows, const std::vector<int>& strong = {});

    /// For lists of sentences: each row as high as its words are wrapped, unless there are so many that laying them all
    /// out would be felt; then two lines of each are seen.
    void growRows();

  private:
    void widen(int column, const QString& longest);

    std::vector<Column> m_columns;
    bool m_grows = false;
};

} // namespace vicegrip::app
