#include "core/base/phrase.h"
#include "core/base/shipped.h"
#include "core/work/work_steps.h"
#include "tests/support/clipped.h"
#include "tests/support/new_user.h"
#include "tests/support/scale.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QHeaderView>
#include <QRegularExpression>
#include <QTranslator>

#include <nlohmann/json.hpp>

#include <gmock/gmock.h>

#include <filesystem>
#include <fstream>
#include <set>

/// The interface in a language that does not exist: letters with accents, and longer by 40 percent. What is read
/// without an accent did not go through the translation; what has no room in it would have none in a real one.
namespace vicegrip {
namespace {

using analysis::Stage;

/// Keys of a keyboard are spelled as Qt spells them, whatever the language.
bool isKey(const QString& words)
{
    static const QRegularExpression kKeys(
        QStringLiteral("^((Ctrl|Alt|Shift)\\+)*(%1|[A-Z0-9,]|F\\d+|Up|Down|Enter|Esc|Del|Bksp|"
                       "Space|Tab|PgUp|PgDown|Home|End|\\+|−)?$"));
    return kKeys.match(words).hasMatch();
}

/// "Cáávííty {}": vowels have accents, and so many more that the words are 40 percent longer; places and marks stay.
QString pseudo(const QString& words)
{
    static const QString kPlain = QStringLiteral("aeiouyAEIOUY"), kAccents = QStringLiteral("áéíóúýÁÉÍÓÚÝ");
    if (isKey(words))
        return words;
    QString out;
    for (qsizetype i = 0; i < words.size(); ++i) {
        const qsizetype vowel = kPlain.indexOf(words[i]);
        const bool place = i > 0 && (words[i - 1] == QLatin1Char('%') || words[i - 1] == QLatin1Char('{'));
        if (vowel < 0 || place) {
            out += words[i];
            continue;
        }
        out += kAccents[vowel];
        while (out.size() * 10 < (i + 1) * 14)
            out += kAccents[vowel].toLower();
    }
    return out;
}

class Pseudo : public QTranslator
{
  public:
    [[nodiscard]] bool isEmpty() const override { return false; }
    [[nodiscard]] QString translate(const char*, const char* words, const char*, int) const override
    {
        return pseudo(QString::fromUtf8(words));
    }
};

const QRegularExpression kWord(QStringLiteral("[\\p{L}]{3,}"));

void takeWords(const std::string& text, std::set<QString>& out)
{
    for (auto each = kWord.globalMatch(QString::fromStdString(text)); each.hasNext();)
        out.insert(each.next().captured().toLower());
}

/// What the user and the makers of parts have named, which no translation touches.
void takeNames(const nlohmann::json& from, std::set<QString>& out)
{
    static const std::set<std::string> kNamed = {"name",  "title", "label", "id",       "function",
                                                 "place", "body",  "text",  "sentence", "what"};
    if (from.is_array())
        for (const auto& each : from)
            takeNames(each, out);
    if (!from.is_object())
        return;
    for (const auto& [key, value] : from.items())
        if (key == "rests_on") // facts are named as the file has them
            for (const auto& fact : value.items())
                takeWords(fact.key(), out);
        else if (value.is_string() && kNamed.contains(key))
            takeWords(value.get<std::string>(), out);
        else
            takeNames(value, out);
}

std::set<QString> namesInData()
{
    // Signs of units, keys of the keyboard and names of formats are the same everywhere.
    std::set<QString> out = {
        QStringLiteral("abs"),      QStringLiteral("gauge"),  QStringLiteral("kpa"),   QStringLiteral("bar"),
        QStringLiteral("rpm"),      QStringLiteral("counts"), QStringLiteral("awg"),   QStringLiteral("ctrl"),
        QStringLiteral("alt"),      QStringLiteral("shift"),  QStringLiteral("enter"), QStringLiteral("esc"),
        QStringLiteral("bksp"),     QStringLiteral("del"),    QStringLiteral("csv"),   QStringLiteral("json"),
        QStringLiteral("vicegrip"), QStringLiteral("khz"),    QStringLiteral("afr"),   QStringLiteral("gal"),
        QStringLiteral("inhg"),     QStringLiteral("min"),    QStringLiteral("mph"),   QStringLiteral("fit"),
        QStringLiteral("sensor")};
    for (const std::string& place : work::places()) // a job's own may stand beside them
        takeWords(place, out);
    for (const auto& file : std::filesystem::recursive_directory_iterator(shippedFolder()))
        if ((file.path().extension() == ".json" || file.path().extension() == ".vicegrip") &&
            file.path().parent_path().filename() != "schema")
            if (std::ifstream in(file.path()); in)
                takeNames(nlohmann::json::parse(in), out);
    return out;
}

class PseudoLanguage : public testing::Test
{
  protected:
    PseudoLanguage()
    {
        QCoreApplication::installTranslator(&m_pseudo);
        setTranslate([](std::string_view key) {
            return pseudo(QString::fromUtf8(key.data(), static_cast<qsizetype>(key.size()))).toStdString();
        });
    }
    ~PseudoLanguage() override
    {
        QCoreApplication::removeTranslator(&m_pseudo);
        setTranslate({});
    }

    /// Every word that can be read has an accent, or is data.
    void expectTranslated(test::Window& w, const std::string& where)
    {
        static const QRegularExpression kVowel(QStringLiteral("[aeiouyAEIOUY]"));
        static const QRegularExpression kAccent(QStringLiteral("[^\\x00-\\x7F]"));
        for (const QString& text : readable(w))
            for (auto each = kWord.globalMatch(text); each.hasNext();) {
                const QString word = each.next().captured();
                if (word.contains(kAccent) || !word.contains(kVowel) || m_data.contains(word.toLower()) ||
                    m_seen.contains(text))
                    continue;
                m_seen.insert(text);
                ADD_FAILURE() << where << ": \"" << word.toStdString() << "\" in \"" << text.toStdString() << "\"";
            }
    }

    static QStringList readable(test::Window& w)
    {
        QStringList out;
        for (const QWidget* each : w.window.findChildren<QWidget*>()) {
            if (!each->isVisible())
                continue;
            if (const auto* l = qobject_cast<const QLabel*>(each))
                out << l->text();
            else if (const auto* b = qobject_cast<const QAbstractButton*>(each))
                out << b->text();
            else if (const auto* c = qobject_cast<const QComboBox*>(each))
                for (int i = 0; i < c->count(); ++i)
                    out << c->itemText(i);
            else if (const auto* v = qobject_cast<const QAbstractItemView*>(each);
                     v != nullptr && v->model() != nullptr)
                for (int r = -1; r < std::min(v->model()->rowCount(), 40); ++r)
                    for (int column = 0; column < v->model()->columnCount(); ++column)
                        out << (r < 0 ? v->model()->headerData(column, Qt::Horizontal).toString()
                                      : v->model()->index(r, column).data().toString());
            out << each->accessibleName() << each->toolTip();
        }
        return out;
    }

    test::NewUser m_user;

  private:
    Pseudo m_pseudo;
    std::set<QString> m_data = namesInData(), m_seen;
};

TEST_F(PseudoLanguage, TheStagesSayNothingRaw)
{
    test::Window w;
    for (int stage = 0; stage < analysis::kStageCount; ++stage)
        for (const char* circuit : {"map", "clt", "cam", "tps", "fp"}) {
            w.choose(circuit);
            w.window.showStage(static_cast<Stage>(stage));
            w.settle();
            expectTranslated(w, std::string(analysis::stageName(static_cast<Stage>(stage))));
        }
}

TEST_F(PseudoLanguage, WhatIsRefusedIsSaidInItToo)
{
    test::Window w;
    w.window.showStage(Stage::Meter);
    w.settle();
    w.type(w.find<QLineEdit>("ambient"), "7000");
    expectTranslated(w, "an ambient that no place has");
    w.key(Qt::Key_Comma, Qt::ControlModifier);
    w.type(w.find<QLineEdit>("currency"), "1234567890");
    w.type(w.find<QLineEdit>("habit-spare"), "-1");
    expectTranslated(w, "preferences that cannot be");
}

/// What is cut off in a longer language is cut off in German.
TEST_F(PseudoLanguage, NorIsAnythingCutOff)
{
    test::Window w;
    for (int stage = 0; stage < analysis::kStageCount; ++stage)
        for (const char* circuit : {"map", "clt", "cam"}) {
            w.choose(circuit);
            w.window.showStage(static_cast<Stage>(stage));
            w.settle();
            test::expectNothingClipped(w, "longer, " + std::string(analysis::stageName(static_cast<Stage>(stage))));
        }
}

TEST_F(PseudoLanguage, TheirViewsSayNothingRaw)
{
    test::Window w;
    const auto look = [&](const char* button) {
        w.click(button);
        w.settle();
        expectTranslated(w, button);
    };
    w.window.showStage(Stage::Pins);
    for (const char* view : {"pins-remap", "pins-wires", "pins-harness", "pins-buy", "pins-order", "pins-plug"})
        look(view);
    w.window.showStage(Stage::Trigger);
    w.choose("crank");
    for (const char* view : {"trigger-gap", "trigger-capture", "trigger-light", "trigger-mount", "trigger-hand"})
        look(view);
    look("hand-loose");
    w.window.showStage(Stage::Start);
    look("start-logs");
    w.window.showStage(Stage::Scale);
    for (const auto& [circuit, view] :
         {std::pair("map", "scale-readings"), {"map", "scale-budget"}, {"tps", "scale-strokes"}}) {
        w.choose(circuit);
        look(view);
    }
    for (const auto& [part, input, view] :
         {std::tuple("hall-speed", "DG3", "scale-speed"), {"egt-0-5v", "AN10", "scale-probe"}}) {
        w.choose(test::addSensor(w, part, input).value.c_str());
        look(view);
    }
    test::openCurlew(w);
    w.choose("flex");
    look("scale-fuel");
    w.choose("clutch");
    look("scale-switch");
    w.window.showStage(Stage::Inputs);
    w.settle();
    expectTranslated(w, "Inputs of the van");
    w.window.showStage(Stage::Pins);
    look("pins-remap");
    w.key(Qt::Key_Comma, Qt::ControlModifier);
    w.settle();
    expectTranslated(w, "preferences");
    w.key(Qt::Key_L, Qt::ControlModifier);
    w.settle();
    for (const char* machine : {"stream-adapter", "meter-where"}) // what this machine has, by its own names
        w.find<QComboBox>(machine)->clear();
    expectTranslated(w, "links");
    w.click("view-units");
    w.settle();
    expectTranslated(w, "units");
    w.key(Qt::Key_F, Qt::ControlModifier);
    w.settle();
    expectTranslated(w, "findings");
}

} // namespace
} // namespace vicegrip
