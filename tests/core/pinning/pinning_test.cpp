#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "core/materials/cut_list.h"
#include "core/materials/shopping_list.h"
#include "core/pinning/pin_use.h"
#include "core/pinning/pinning.h"
#include "core/wires/colour.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace vicegrip::pinning {
namespace {

using job::PointRef;
using testing::HasSubstr;

const parts::TerminalFamily& family(const char* id)
{
    const auto& all = test::library().terminals;
    const auto it = std::ranges::find(all, parts::TerminalId{id}, &parts::TerminalFamily::id);
    EXPECT_NE(it, all.end()) << id;
    return *it;
}

int placeOf(const std::vector<CavityStep>& steps, CavityStepKind kind)
{
    const auto it = std::ranges::find(steps, kind, &CavityStep::kind);
    return it == steps.end() ? -1 : static_cast<int>(it - steps.begin());
}

/// Common practice, no source.
TEST(CavitySteps, SealAndBootGoOnBeforeTheTerminalAndPullToSeatIsThreadedFirst)
{
    const auto pull = cavitySteps(family("blade-1.5-pull"), 0.5e-6);
    EXPECT_LT(placeOf(pull, CavityStepKind::BlankOut), placeOf(pull, CavityStepKind::Thread));
    EXPECT_LT(placeOf(pull, CavityStepKind::Boot), placeOf(pull, CavityStepKind::Crimp));
    EXPECT_LT(placeOf(pull, CavityStepKind::Seal), placeOf(pull, CavityStepKind::Crimp));
    EXPECT_LT(placeOf(pull, CavityStepKind::Thread), placeOf(pull, CavityStepKind::Crimp));
    EXPECT_LT(placeOf(pull, CavityStepKind::Crimp), placeOf(pull, CavityStepKind::Home));
    EXPECT_EQ(pull[static_cast<size_t>(placeOf(pull, CavityStepKind::Thread))].text,
              "Thread the bare wire through the empty cavity, from the rear");
    EXPECT_THAT(pull[static_cast<size_t>(placeOf(pull, CavityStepKind::Home))].text, HasSubstr("Pull it home"));
    const auto push = cavitySteps(family("blade-1.5"), 0.75e-6);
    EXPECT_EQ(placeOf(push, CavityStepKind::Thread), -1);
    EXPECT_EQ(placeOf(push, CavityStepKind::Seal), -1) << "nothing is sealed there";
    EXPECT_EQ(placeOf(push, CavityStepKind::BlankOut), -1);
    EXPECT_EQ(push.back().kind, CavityStepKind::TugHome);
    EXPECT_THAT(push[static_cast<size_t>(placeOf(push, CavityStepKind::Strip))].text, HasSubstr("4.5 mm"));
    EXPECT_THAT(push[static_cast<size_t>(placeOf(push, CavityStepKind::Tug))].why,
                HasSubstr("0.75 mm² it must hold 85 N"));
}

/// Petrel before anybody has pinned anything.
job::Job bare()
{
    job::Job job = test::petrel();
    job.pinned.clear();
    return job;
}

const job::Connector& plug(const job::Job& job, const char* id)
{
    return *job::findConnector(job, id);
}

Pin pin(const job::Job& job, const PointRef& at)
{
    const auto all = pinsOf(job, plug(job, at.owner.c_str()));
    return *std::ranges::find(all, at, &Pin::at);
}

PointRef firstPlanned(const job::Job& job, const char* connector)
{
    for (const Pin& p : pinsOf(job, plug(job, connector)))
        if (p.state == PinState::Planned)
            return p.at;
    return {};
}

TEST(Pinning, APinIsTickedCountedAndDone)
{
    job::Job job = bare();
    const PointRef at = firstPlanned(job, "A");
    ASSERT_FALSE(at.empty());
    const size_t steps = pin(job, at).steps.size();
    for (size_t i = 0; i < steps; ++i) {
        EXPECT_EQ(pin(job, at).ticked, static_cast<int>(i));
        EXPECT_TRUE(tick(job, at, "2026-01-01T10:00:00Z"));
    }
    EXPECT_EQ(pin(job, at).state, PinState::Seated) << "not done before it is counted again";
    EXPECT_FALSE(isDone(PinState::Seated));
    EXPECT_THAT(tick(job, at, "later").error().sentence, HasSubstr("nothing is left to tick"));
    EXPECT_EQ(job.pinned.back().steps, static_cast<int>(steps)) << "there is no further step";
    EXPECT_TRUE(count(job, at, at.cavity, "2026-01-01T10:05:00Z"));
    EXPECT_EQ(pin(job, at).state, PinState::Counted);
    EXPECT_TRUE(job::check(job));
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->pinned, job.pinned);
    EXPECT_TRUE(untick(job, at));
    EXPECT_EQ(pin(job, at).state, PinState::InHand);
    EXPECT_TRUE(job.pinned.back().counted.empty()) << "what is out must be counted again";
}

/// What cannot be done says so, and nothing of the job is another afterwards.
TEST(Pinning, WhatIsRefusedIsSaidAndLeavesTheJobAlone)
{
    const job::Job before = bare();
    job::Job job = before;
    const PointRef nowhere{"A", "99"}, noPlug{"QQ", "1"}, here = firstPlanned(job, "A");
    for (const PointRef& at : {nowhere, noPlug}) {
        EXPECT_THAT(tick(job, at, "t").error().sentence, HasSubstr("no plug has a cavity " + at.text()));
        EXPECT_THAT(count(job, at, "1", "t").error().sentence, HasSubstr("no plug has a cavity " + at.text()));
        EXPECT_FALSE(untick(job, at));
        EXPECT_FALSE(pullOut(job, at, "t"));
    }
    EXPECT_THAT(untick(job, here).error().sentence, HasSubstr("nothing is ticked at"));
    EXPECT_THAT(pullOut(job, here, "t").error().sentence, HasSubstr("nothing is in"));
    EXPECT_EQ(job, before);
}

TEST(Pinning, AWrongSecondCountIsCaught)
{
    job::Job job = bare();
    const PointRef at = firstPlanned(job, "A");
    while (pin(job, at).next() != nullptr)
        EXPECT_TRUE(tick(job, at, "t"));
    EXPECT_TRUE(count(job, at, "26", "t"));
    EXPECT_EQ(pin(job, at).state, PinState::Wrong);
    EXPECT_THAT(pin(job, at).trouble,
                testing::AllOf(HasSubstr("led to cavity 26"), HasSubstr("belongs in " + at.cavity)));
    EXPECT_EQ(pinsOf(job, plug(job, "A"))[*nextPin(pinsOf(job, plug(job, "A")))].at, at) << "what is wrong comes first";
    EXPECT_TRUE(pullOut(job, at, "t"));
    EXPECT_EQ(pin(job, at).state, PinState::Planned);
}

TEST(Pinning, AWireThatIsChangedAfterwardsMustComeOut)
{
    job::Job job = bare();
    const PointRef at = firstPlanned(job, "A");
    EXPECT_TRUE(tick(job, at, "t"));
    std::erase_if(job.wires, [&](const job::Wire& w) { return w.from == at || w.to == at; });
    EXPECT_EQ(pin(job, at).state, PinState::Wrong);
    EXPECT_THAT(pin(job, at).trouble, HasSubstr("no longer drawn"));
}

TEST(Pinning, UnusedCavitiesOfASealedPlugWantABlank)
{
    job::Job job = bare();
    const auto pins = pinsOf(job, plug(job, "A"));
    const auto blank = std::ranges::find(pins, PinState::BlankDue, &Pin::state);
    ASSERT_NE(blank, pins.end());
    EXPECT_TRUE(tick(job, blank->at, "t"));
    EXPECT_EQ(pin(job, blank->at).state, PinState::BlankIn);
    job::Wire late = job.wires.front();
    late.id = {"late"};
    late.to = blank->at;
    job.wires.push_back(late);
    EXPECT_THAT(pin(job, blank->at).trouble, HasSubstr("blank plug sits where a wire belongs"));
    for (const Pin& p : pinsOf(test::jobOn("plug-in-60"), *job::findConnector(test::jobOn("plug-in-60"), "V")))
        EXPECT_NE(p.state, PinState::BlankDue) << "an unsealed plug has none";
}

TEST(Pinning, APlugWithoutWiresWantsNoBlanksYet)
{
    job::Job job = bare();
    for (const job::Connector& c : job.connectors) {
        job::Job unwired = job;
        std::erase_if(unwired.wires, [&](const job::Wire& w) { return w.from.owner == c.id || w.to.owner == c.id; });
        for (const Pin& p : pinsOf(unwired, c))
            EXPECT_EQ(p.state, PinState::Open) << p.at.text() << ": what is left open is known once it is wired";
    }
    job.wires.clear();
    for (const materials::Item& i : materials::shoppingList(job))
        EXPECT_FALSE(i.what.starts_with("Blank")) << i.what;
}

TEST(Pinning, TheWholeConnectorComesToAnEnd)
{
    job::Job job = bare();
    test::pinAll(job);
    for (const Pin& p : pinsOf(job, plug(job, "B")))
        EXPECT_TRUE(isDone(p.state)) << p.at.text();
}

TEST(Pinning, WhatIsCountedIsUnderstoodAsItIsTyped)
{
    const parts::Layout& l = *parts::find(test::library(), parts::LayoutId{"block-26"});
    using parts::Face;
    EXPECT_EQ(countTyped(l, Face::Wire, "2 6").value(), "19");
    EXPECT_EQ(countTyped(l, Face::Wire, "row 2, 6").value(), "19");
    EXPECT_EQ(countTyped(l, Face::Mating, "2 6").value(), "21") << "the mirror";
    EXPECT_EQ(countTyped(l, Face::Wire, "2 6 right").value(), "21");
    EXPECT_EQ(countTyped(l, Face::Wire, "19").value(), "19") << "read off the part";
    EXPECT_THAT(countTyped(l, Face::Wire, "2 14").error().sentence, HasSubstr("no place 14 in row 2"));
    EXPECT_THAT(countTyped(l, Face::Wire, "27").error().sentence, HasSubstr("no cavity 27"));
    EXPECT_THAT(countTyped(l, Face::Wire, "").error().sentence, HasSubstr("expected a row and a place"));
    EXPECT_THAT(countTyped(l, Face::Wire, "2 about").error().sentence, HasSubstr("about"));
}

TEST(Pinning, PinsOfAPlugThatGoesAreForgotten)
{
    job::Job job = bare();
    EXPECT_TRUE(tick(job, firstPlanned(job, "A"), "t"));
    EXPECT_TRUE(tick(job, firstPlanned(job, "OIL-PRESSURE"), "t"));
    EXPECT_TRUE(harness::removeCircuit(job, job::CircuitId{"oil-pressure"}));
    EXPECT_EQ(job.pinned.size(), 1U);
    EXPECT_TRUE(harness::setEcu(job, test::ecu("small-4")));
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
}

TEST(PinUse, EachCavitySaysWhatItIsFor)
{
    const job::Job job = bare();
    const auto uses = pinUses(job);
    const job::Circuit& clt = *job::find(job, job::CircuitId{"clt"});
    EXPECT_EQ(uses.at(job::cavityOf(job, clt.input)).purpose, "Coolant temp, signal");
    EXPECT_EQ(uses.at(job::cavityOf(job, clt.input)).circuit, clt.id);
    bool ground = false, feed = false;
    for (const auto& [place, use] : uses) {
        ground = ground || use.purpose.starts_with("Sensor ground of ");
        feed = feed || use.purpose == "Power feed";
    }
    EXPECT_TRUE(ground);
    EXPECT_TRUE(feed);
}

/// IEC 60757 letters.
TEST(Colour, IsSpokenFromItsLettersAndReadAsItIsWritten)
{
    EXPECT_EQ(wires::colourName("BU/WH"), "blue, white tracer");
    EXPECT_EQ(wires::colourName("VT"), "violet");
    EXPECT_EQ(wires::colourName("GY/TQ"), "grey, turquoise tracer");
    EXPECT_EQ(wires::parseColour("bu/wh").value(), "BU/WH");
    EXPECT_EQ(wires::parseColour("Blue-white").value(), "BU/WH");
    EXPECT_EQ(wires::parseColour(" YE ").value(), "YE");
    EXPECT_THAT(wires::parseColour("mauve").error().sentence, HasSubstr("BK, BN, RD"));
    EXPECT_FALSE(wires::parseColour("BU/WH/RD"));
    EXPECT_FALSE(wires::parseColour(" / "));
}

} // namespace
} // namespace vicegrip::pinning
