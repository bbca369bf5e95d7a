#include "app/shell/keys_and_about.h"

#include "app/widgets/key_button.h"
#include "app/widgets/text.h"
#include "core/base/shipped.h"
#include "core/help/help.h"

#include <QCoreApplication>

namespace vicegrip::app {
namespace {

QString tr(const char* words)
{
    return QCoreApplication::translate("KeysAndAbout", words);
}

} // namespace

std::vector<Sheet::Row> keysOn(const QWidget* stage)
{
    std::vector<Sheet::Row> out;
    if (stage != nullptr)
        for (const auto* button : stage->findChildren<KeyButton*>())
            if (!button->key().isEmpty() && !button->text().isEmpty() && button->isVisibleTo(stage))
                out.push_back({button->key(), button->text()});
    return out;
}

std::vector<Sheet::Part> keysOf(const QList<QAction*>& actions, const QWidget* stage, const QString& stageName)
{
    std::vector<Sheet::Part> out;
    if (auto here = keysOn(stage); !here.empty())
        out.push_back({stageName, std::move(here)});
    Sheet::Part window{tr("Everywhere"), {}, true};
    window.rows.push_back({tr("Ctrl+0 ... 8"), tr("The stages, from Board to Handover")});
    for (const QAction* a : actions)
        if (!a->shortcut().isEmpty() && !a->data().isValid()) // those of the stages are one line
            window.rows.push_back({a->shortcut().toString(QKeySequence::NativeText), a->text()});
    out.push_back(std::move(window));
    out.push_back({tr("In a list, a drawing, a field"),
                   {{tr("Enter, Space"), tr("What comes next, as the big button says")},
                    {tr("Alt+1, 2 ..."), tr("The views of a stage")},
                    {tr("Tab"), tr("The next field or button; Shift+Tab the one before")},
                    {tr("Up, Down"), tr("Along a list or a drawing; with Alt from circuit to circuit")},
                    {tr("Esc"), tr("Leaves what stands in the stage's place")}}});
    return out;
}

std::vector<Sheet::Part> helpFor(const std::string& view, std::vector<Sheet::Row> keys)
{
    const auto help = help::helpOn(shippedFolder() / "help", view);
    if (!help)
        return {{tr("There is no help here"), {{{}, QString::fromStdString(help.error().text())}}}};
    std::vector<Sheet::Part> out = {{tr("What it is for"), {}}};
    for (const QString& paragraph : text(help->text).split(QStringLiteral("\n\n"), Qt::SkipEmptyParts))
        out.front().rows.push_back({{}, paragraph});
    if (!keys.empty())
        out.push_back({tr("Its keys"), std::move(keys)});
    Sheet::Part terms{tr("Its words"), {}};
    for (const help::Term& t : help->terms)
        terms.rows.push_back({{}, QStringLiteral("**%1** – %2").arg(text(t.term), text(t.meaning))});
    if (!terms.rows.empty())
        out.push_back(std::move(terms));
    Sheet::Part sources{tr("Where its numbers come from"), {}};
    for (const std::string& source : help->sources)
        sources.rows.push_back({{}, text(source)});
    if (!sources.rows.empty())
        out.push_back(std::move(sources));
    return out;
}

std::vector<Sheet::Part> glossary()
{
    const auto terms = help::readGlossary(shippedFolder() / "help");
    if (!terms)
        return {{tr("There is no help here"), {{{}, QString::fromStdString(terms.error().text())}}}};
    Sheet::Part first{{}, {}}, second{{}, {}, true};
    for (size_t i = 0; i < terms->size(); ++i)
        (2 * i < terms->size() ? first : second).rows.push_back({text((*terms)[i].term), text((*terms)[i].meaning)});
    return {first, second};
}

std::vector<Sheet::Part> about()
{
    return {
        {tr("Vicegrip %1").arg(QCoreApplication::applicationVersion()),
         {{{}, tr("Wires, proves and scales an engine-management installation.")}}},
        {tr("What it cannot take over"),
         {{{},
           tr("It works out what must be read, from what it was told. What it was told may be wrong, and a car can "
              "hurt: follow the maker's papers, the rules of the place, and leave what needs a licence to who has "
              "one.")},
          {{},
           tr("Disconnect the battery before you work on wiring; keep fuel and sparks apart; a running engine moves "
              "without warning.")}}},
        {tr("Where it keeps things"),
         {{tr("Jobs"), tr("in files of their own, where you put them; beside each, what is not saved yet")},
          {tr("Your parts"), tr("in the folder vicegrip/library of your data folder")},
          {tr("Recent jobs"), tr("in the folder vicegrip of your configuration folder")},
          {tr("Network"), tr("it asks nothing of it")}}},
        {tr("Inside"),
         {{tr("Qt 6"), tr("window and links: LGPL 3")},
          {tr("QCustomPlot"), tr("plots: GPL 3")},
          {tr("SuiteSparse KLU"), tr("linear networks: LGPL 2.1")},
          {tr("GLPK"), tr("seating: GPL 3")},
          {tr("Eigen, Boost"), tr("fits and roots: MPL 2, BSL 1")},
          {tr("nlohmann-json, valijson, RE2"), tr("files: MIT, BSD 2, BSD 3")},
          {tr("Inter, JetBrains Mono"), tr("typefaces: OFL 1.1")}},
         true},
    };
}

} // namespace vicegrip::app
