#pragma once

#include "app/desk/desk.h"
#include "core/base/phrase.h"
#include "core/units/units.h"

/// Prices in the user's own money.
namespace vicegrip::app {

/// "60 €", or "60" where no currency is preferred. Without decimals they are as short as they read back.
[[nodiscard]] inline QString priceText(const Desk& desk, double price, int decimals = -1)
{
    const QString& currency = desk.preferences.now().currency;
    const QString number = text(decimals < 0 ? units::shortest(price) : units::formatNumber(price, decimals));
    return currency.isEmpty() ? number : number + QChar(QChar::Nbsp) + currency;
}

/// Reads one with its currency on either side, or none.
[[nodiscard]] inline Result<double> priceTyped(const Desk& desk, const QString& typed)
{
    const QString& currency = desk.preferences.now().currency;
    QString number = typed;
    if (!currency.isEmpty())
        number.remove(currency);
    return units::parse(number.toStdString(), units::Dimension::Counts).and_then([](double v) -> Result<double> {
        if (v < 0 || v > 1e6)
            return fail(ErrorCode::Range, phrase("expected a price from 0 up, in your own money"));
        return v;
    });
}

} // namespace vicegrip::app
