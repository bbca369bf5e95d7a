#pragma once

#include "core/obd/obd.h"

#include <algorithm>
#include <iterator>

namespace vicegrip::test {

/// A unit with these values, in the standard's units, and codes.
inline obd::Responder::Unit unitWith(const std::map<std::uint8_t, double>& values, std::vector<obd::Code> stored = {},
                                     std::vector<obd::Code> pending = {})
{
    obd::Responder::Unit out;
    for (const auto& [number, value] : values)
        out.numbers.insert(number);
    out.value = [values](std::uint8_t number) -> std::optional<obd::Bytes> {
        return obd::bytesOf(*obd::findParameter(number), values.at(number));
    };
    out.stored = std::move(stored);
    out.pending = std::move(pending);
    return out;
}

/// A bus with units on it, until `until` seconds.
struct DiagnosticBus
{
    std::vector<std::pair<obd::Responder, obd::Responder::Unit>> units;
    obd::Session session;
    std::vector<double> asked_s; ///< when questions were put to all
    std::vector<obd::Bytes> told; ///< all of it

    void run(double from_s, double to_s)
    {
        for (double t = from_s; t < to_s; t += 0.02) {
            auto sent = session.poll(t);
            while (!sent.empty()) {
                std::vector<obd::CanFrame> answers;
                for (const obd::CanFrame& f : sent) {
                    if (f.id == obd::askAll(f.extended))
                        asked_s.push_back(t);
                    for (auto& [responder, unit] : units)
                        for (obd::CanFrame& a : responder.take(f, unit))
                            answers.push_back(std::move(a));
                }
                sent.clear();
                for (const obd::CanFrame& a : answers)
                    for (obd::CanFrame& f : session.take(t, a))
                        sent.push_back(std::move(f));
                std::ranges::move(session.takeTold(), std::back_inserter(told));
            }
        }
    }
};

} // namespace vicegrip::test
