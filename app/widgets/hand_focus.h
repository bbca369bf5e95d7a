#pragma once

class QWidget;

namespace vicegrip::app {

/// Whoever gives the keys to `whole` gives them to `part` of it, as with a focus proxy; but Tab passes the whole by and
/// comes to all its parts in their order. A proxy is where Tab goes: what stands before it in the whole would never
/// have the keys, and a hidden one would hold them.
void handFocus(QWidget* whole, QWidget* part);

} // namespace vicegrip::app
