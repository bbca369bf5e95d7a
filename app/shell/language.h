#pragma once

class QTranslator;

namespace vicegrip::app {

/// Speaks the user's language, where the folder of what is shipped has it (`translations/vicegrip_de.qm`): the window's
/// own sentences by their classes, the core's by the context "core". Otherwise everything is in English.
void speakLanguage(QTranslator& translator);

} // namespace vicegrip::app
