#pragma once

#include "app/desk/desk.h"
#include "app/widgets/list_table.h"
#include "core/pinning/pin_use.h"
#include "core/pinning/pinning.h"

namespace vicegrip::app {

/// The cavities of a connector that want something, as rows: the face's twin in words.
class PinTable : public ListTable
{
    Q_OBJECT

  public:
    explicit PinTable(QWidget* parent = nullptr);

    using Uses = std::map<job::PointRef, pinning::PinUse>;
    void show(const job::Job& job, const std::vector<pinning::Pin>& pins, const Uses& uses, int current);

  signals:
    void picked(int index); ///< of the pins
};

/// "in, not counted again"
[[nodiscard]] QString stateText(pinning::PinState state);

} // namespace vicegrip::app
