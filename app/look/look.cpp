#include "app/look/look.h"

#include "app/look/flat_style.h"

#include <QApplication>
#include <QFontDatabase>
#include <QHash>
#include <QPalette>
#include <QRegularExpression>

#include <algorithm>

namespace vicegrip::app::look {
namespace {

const Colours kDay = {
    .paper = QColor("#fcfbf7"),
    .card = QColor("#ffffff"),
    .rail = QColor("#e3ddd0"),
    .list = QColor("#f3f0e9"),
    .band = QColor("#1f3a45"),
    .bandInk = QColor("#f6f3ec"),
    .bandLine = QColor("#56707a"),
    .ink = QColor("#1b2226"),
    .inkSoft = QColor("#57605f"),
    .line = QColor("#d3cec2"),
    .accent = QColor("#1f5b66"),
    .accentInk = QColor("#ffffff"),
    .selected = QColor("#d9e7e8"),
    .done = QColor("#22664a"),
    .failing = QColor("#b3261e"),
    .stale = QColor("#805400"),
    .failingFill = QColor("#f8e3df"),
    .staleFill = QColor("#f6e9c6"),
    .caution = QColor("#f6edd7"),
};

const Colours kNight = {
    .paper = QColor("#14191b"),
    .card = QColor("#1c2326"),
    .rail = QColor("#0f1314"),
    .list = QColor("#191f21"),
    .band = QColor("#0b1517"),
    .bandInk = QColor("#e9e4d8"),
    .bandLine = QColor("#44585e"),
    .ink = QColor("#ece7db"),
    .inkSoft = QColor("#a9aca6"),
    .line = QColor("#343c3f"),
    .accent = QColor("#8cc9d1"),
    .accentInk = QColor("#0c1719"),
    .selected = QColor("#20363b"),
    .done = QColor("#7fcfa5"),
    .failing = QColor("#ff9c8f"),
    .stale = QColor("#e6bd5c"),
    .failingFill = QColor("#45211d"),
    .staleFill = QColor("#43371a"),
    .caution = QColor("#332b18"),
};

bool g_night = false, g_desktopNight = false; // NOLINT: the application has one paper
int g_textSize = 100; // NOLINT: and one size of text

constexpr int kPixels[] = {12, 14, 22, 46};

QFont sized(const QString& family, Size size, bool strong)
{
    QFont font(family);
    font.setPixelSize(px(kPixels[static_cast<int>(size)]));
    font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return font;
}

/// Widgets that Qt draws itself take their colours from here.
QString styleSheet(const Colours& c)
{
    return QStringLiteral(R"(
QToolTip { background: %card; color: %ink; border: 1px solid %line; padding: 4px; }
QMenu { background: %card; color: %ink; border: 1px solid %inkSoft; padding: 4px 0; }
QMenu::item { padding: 7px 32px 7px 16px; background: transparent; }
QMenu::item:selected { background: %selected; } QMenu::item:disabled { color: %inkSoft; }
QMenu::separator { height: 1px; background: %line; margin: 4px 0; }
QLineEdit { background: %card; color: %ink; border: 1px solid %inkSoft; border-radius: 2px; padding: 4px 6px;
    selection-background-color: %accent; selection-color: %accentInk; }
QLineEdit:focus { border: 2px solid %accent; padding: 3px 5px; }
QLineEdit:disabled { background: transparent; color: %inkSoft; border: 1px solid %line; }
QComboBox:disabled { color: %inkSoft; }
QLineEdit[wrong="true"] { border: 2px solid %failing; padding: 3px 5px; }
QComboBox QAbstractItemView { background: %card; color: %ink; border: 1px solid %inkSoft; selection-background-color: %selected; selection-color: %ink; }
QAbstractItemView { background: transparent; border: 2px solid transparent; color: %ink; outline: 0;
    selection-background-color: %selected; selection-color: %ink; }
QAbstractItemView:focus { border: 2px solid %accent; }
QComboBox QAbstractItemView, QComboBox QAbstractItemView:focus { border: 1px solid %inkSoft; }
QHeaderView::section { background: %paper; color: %inkSoft; border: none; border-bottom: 1px solid %line; padding: 4px; font-size: 12px; }
QListWidget#circuits { background: %list; padding-top: 8px; border-color: %list; } QListWidget#circuits:focus { border-color: %accent; }
QPushButton#foot { border: none; padding: 6px 4px 6px 38px; text-align: left; background: transparent; color: %ink; }
QPushButton[view="true"] { border: none; border-bottom: 2px solid transparent; padding: 4px 0; margin-right: 18px;
    background: transparent; color: %inkSoft; }
QPushButton[view="true"]:checked { border-bottom: 2px solid %accent; color: %ink; }
QPushButton[view="true"]:focus { background: %selected; }
QPushButton#foot:disabled { color: %inkSoft; }
QPushButton#foot:hover { background: %selected; } QPushButton#foot:focus { background: %selected; }
QScrollBar:vertical { background: transparent; width: 12px; } QScrollBar:horizontal { background: transparent; height: 12px; }
QScrollBar::handle { background: %inkSoft; border-radius: 2px; margin: 3px; min-height: 30px; min-width: 30px; }
QScrollBar::handle:hover, QScrollBar::handle:pressed { background: %accent; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; } QScrollBar::add-page, QScrollBar::sub-page { background: none; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QScrollArea { border: 1px solid transparent; } QScrollArea:focus { border: 1px solid %accent; }
QScrollArea#desk { border: none; } QAbstractScrollArea::corner { background: transparent; border: none; }
)")
        .replace(QLatin1String("%card"), c.card.name())
        .replace(QLatin1String("%list"), c.list.name())
        .replace(QLatin1String("%inkSoft"), c.inkSoft.name())
        .replace(QLatin1String("%ink"), c.ink.name())
        .replace(QLatin1String("%line"), c.line.name())
        .replace(QLatin1String("%accentInk"), c.accentInk.name())
        .replace(QLatin1String("%accent"), c.accent.name())
        .replace(QLatin1String("%selected"), c.selected.name())
        .replace(QLatin1String("%failing"), c.failing.name())
        .replace(QLatin1String("%paper"), c.paper.name());
}

QPalette paletteOf(const Colours& c)
{
    QPalette p;
    p.setColor(QPalette::Window, c.paper);
    p.setColor(QPalette::Base, c.card);
    p.setColor(QPalette::AlternateBase, c.list);
    p.setColor(QPalette::Button, c.list);
    for (const auto role :
         {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::HighlightedText, QPalette::ToolTipText})
        p.setColor(role, c.ink);
    p.setColor(QPalette::PlaceholderText, c.inkSoft);
    p.setColor(QPalette::Highlight, c.selected);
    p.setColor(QPalette::ToolTipBase, c.card);
    p.setColor(QPalette::Link, c.accent);
    return p;
}

/// Always ours, never the system's of the same name: asking which there are costs more than reading these.
/// Whether they had to be.
bool loadTypefaces()
{
    static bool loaded = false;
    if (std::exchange(loaded, true))
        return false;
    for (const char* face : {"Inter-Regular.otf", "Inter-SemiBold.otf", "JetBrainsMono-Regular.ttf"})
        QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/") + QLatin1String(face));
    return true;
}

} // namespace

const Colours& colours()
{
    return g_night ? kNight : kDay;
}

bool isNight()
{
    return g_night;
}

bool desktopIsNight()
{
    return g_desktopNight;
}

void setTextSize(int percent)
{
    g_textSize = std::clamp(percent, kLeastText, kMostText);
}

int textSize()
{
    return g_textSize;
}

int px(int atFull)
{
    return atFull == 0 ? 0 : std::max(1, (atFull * g_textSize + 50) / 100);
}

double operator""_px(long double atFull)
{
    return static_cast<double>(atFull) * g_textSize / 100;
}

QString scaled(const QString& styleSheet)
{
    static const QRegularExpression kMeasure(QStringLiteral("(\\d+)px"));
    if (g_textSize == 100)
        return styleSheet;
    QString out;
    qsizetype done = 0;
    for (auto each = kMeasure.globalMatch(styleSheet); each.hasNext();) {
        const auto match = each.next();
        const int at = match.capturedView(1).toInt();
        out += styleSheet.mid(done, match.capturedStart() - done);
        out += QStringLiteral("%1px").arg(at > 1 ? px(at) : at);
        done = match.capturedEnd();
    }
    return out + styleSheet.mid(done);
}

QFont textFont(Size size, bool strong)
{
    return sized(QStringLiteral("Inter"), size, strong);
}

QFont numbers(Size size)
{
    QFont font = sized(QStringLiteral("JetBrains Mono"), size, false);
    font.setStyleStrategy(QFont::PreferNoShaping); // no ligatures in readings, and quicker
    return font;
}

void apply(QApplication& app, bool night)
{
    if (loadTypefaces()) { // the first time: the palette is still the desktop's
        const QPalette own = QApplication::palette();
        g_desktopNight = own.color(QPalette::WindowText).lightness() > own.color(QPalette::Window).lightness();
    }
    g_night = night;
    QApplication::setStyle(new FlatStyle);
    QApplication::setFont(textFont(Size::Body));
    QApplication::setPalette(paletteOf(colours()));
    app.setStyleSheet(scaled(styleSheet(colours())));
}

QColor wire(const QString& letters)
{
    static const QHash<QString, QColor> kWires = {
        {QStringLiteral("BK"), QColor("#1a1a1a")}, {QStringLiteral("BN"), QColor("#7b4a26")},
        {QStringLiteral("RD"), QColor("#c0261d")}, {QStringLiteral("OG"), QColor("#dd7414")},
        {QStringLiteral("YE"), QColor("#e3c11c")}, {QStringLiteral("GN"), QColor("#2f8a3c")},
        {QStringLiteral("BU"), QColor("#2a64b0")}, {QStringLiteral("VT"), QColor("#7440a0")},
        {QStringLiteral("GY"), QColor("#83878a")}, {QStringLiteral("WH"), QColor("#f4f4f2")},
        {QStringLiteral("PK"), QColor("#e293ab")}, {QStringLiteral("TQ"), QColor("#2aa6a0")},
    };
    return kWires.value(letters, colours().ink);
}

} // namespace vicegrip::app::look
