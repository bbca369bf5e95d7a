#include "core/work/sites.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>

namespace vicegrip::work {
namespace {

constexpr std::array kSites = {
    Site{"crank", kFront, "front-drive",
         key("Set the air gap with feelers; prove it before anything goes in front of it."), key("feelers")},
    Site{"cam", kBay, "", key("Oil the O-ring."), ""},
    Site{"clt", kIntake, "intake", key("Drain first, engine cold; sealant on a tapered thread unless it is coated."),
         key("deep socket, sealant")},
    Site{"oil-pressure", kIntake, "intake", key("Sealant on a tapered thread unless it is coated; snug in aluminium."),
         key("deep socket, sealant")},
    Site{"oil-temp", kIntake, "intake", key("Washer or sealant as the thread wants; snug in aluminium."),
         key("deep socket")},
    Site{"wideband", kUnder, "", key("Bung at least 15 degrees above horizontal; exhaust cold, car on stands."),
         key("stands")},
    Site{"egt", kUnder, "", key("Exhaust cold."), key("stands")},
    Site{"gearbox-temp", kUnder, "undertray", key("In the pan, not in the cooler line; car on stands."),
         key("stands, sealant")},
    Site{"speed", kUnder, "undertray", key("Oil the O-ring; car on stands."), key("stands")},
    Site{"turbo-speed", kBay, "", key("Turbocharger cold."), ""},
    Site{"fuel-pressure", kBay, "", key("Relieve the fuel pressure, rag, no flame, extinguisher at hand."),
         key("line spanners")},
    Site{"flex", kBay, "", key("Relieve the fuel pressure, rag, no flame, extinguisher at hand."),
         key("line spanners")},
    Site{"fuel-temp", kBay, "", key("Relieve the fuel pressure, rag, no flame, extinguisher at hand."),
         key("line spanners")},
    Site{"fuel-level", kUnder, "", key("Tank vented; no flame; local rules and licensed practice come first."), ""},
    Site{"pedal1", kCabin, "", "", ""},
    Site{"pedal2", kCabin, "", "", ""},
    Site{"brake", kCabin, "", "", ""},
    Site{"clutch", kCabin, "", "", ""},
    Site{"gear", kUnder, "undertray", key("Car on stands."), key("stands")},
    // What the ECU drives; injectors and coils of every number.
    Site{"inj", kBay, "", key("Relieve the fuel pressure, rag, no flame, extinguisher at hand; oil the O-rings."),
         key("line spanners")},
    Site{"ign", kBay, "", key("Key out, its fuse drawn: it makes tens of kilovolts."), ""},
    Site{"fan", kBay, "", key("Its fuse drawn: a fan starts by itself."), ""},
    Site{"tachometer", kCabin, "", "", ""},
    Site{"warning-lamp", kCabin, "", "", ""},
    Site{"display", kCabin, "", "", ""},
    Site{"vehicle-network", kCabin, "", "", ""},
};

} // namespace

const Site& siteOf(const job::Circuit& circuit)
{
    static constexpr Site kElsewhere{"", kBay, "", "", ""};
    const std::string& function = circuit.function.value;
    auto it = std::ranges::find(kSites, function, &Site::function);
    if (it == kSites.end()) // one of several that are numbered
        it =
            std::ranges::find(kSites, function.substr(0, function.find_last_not_of("0123456789") + 1), &Site::function);
    return it == kSites.end() ? kElsewhere : *it;
}

} // namespace vicegrip::work
