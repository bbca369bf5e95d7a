#pragma once

#include "core/base/phrase.h"
#include "core/job/job.h"

#include <string>
#include <unordered_map>
#include <unordered_set>

/// What the checks of a job share: pointers into its file, and everything by its name. Only checks include this.
namespace vicegrip::job {

/// "/wires/3/from".
[[nodiscard]] inline std::string at(std::string_view list, size_t index, std::string_view member = {})
{
    std::string out = "/" + std::string(list) + "/" + std::to_string(index);
    if (!member.empty())
        out += "/" + std::string(member);
    return out;
}

[[nodiscard]] inline Result<void> bad(ErrorCode code, std::string pointer, std::string sentence)
{
    return fail(code, std::move(sentence), {{}, std::move(pointer), 0, 0});
}

/// Everything by its name: a check asks for each of them many times, and an edit waits for it.
class Named
{
  public:
    explicit Named(const Job& job)
    {
        fill(m_connectors, job.connectors, [](const Connector& c) { return std::string_view(c.id); });
        fill(m_joints, job.joints, [](const Joint& j) { return std::string_view(j.id); });
        fill(m_parts, job.parts, [](const parts::Part& s) { return std::string_view(s.id.value); });
        fill(m_devices, job.devices, [](const Device& d) { return std::string_view(d.id.value); });
        fill(m_circuits, job.circuits, [](const Circuit& c) { return std::string_view(c.id.value); });
        fill(m_seats, job.circuits, [](const Circuit& c) { return std::string_view(c.input.value); });
        fill(m_wires, job.wires, [](const Wire& w) { return std::string_view(w.id.value); });
        fill(m_drivers, job.circuits, [](const Circuit& c) { return std::string_view(c.output.value); });
        for (const parts::EcuInput* input : inputs(job))
            m_inputs.try_emplace(input->id.value, input);
        for (const parts::EcuOutput* output : outputs(job))
            m_outputs.try_emplace(output->id.value, output);
    }

    [[nodiscard]] const Connector* connector(std::string_view id) const { return at(m_connectors, id); }
    [[nodiscard]] const Joint* joint(std::string_view id) const { return at(m_joints, id); }
    [[nodiscard]] const parts::Part* part(std::string_view id) const { return at(m_parts, id); }
    [[nodiscard]] const Device* device(std::string_view id) const { return at(m_devices, id); }
    [[nodiscard]] const Circuit* circuit(std::string_view id) const { return at(m_circuits, id); }
    [[nodiscard]] const Wire* wire(std::string_view id) const { return at(m_wires, id); }
    [[nodiscard]] const parts::EcuInput* input(std::string_view id) const { return at(m_inputs, id); }
    [[nodiscard]] const parts::EcuOutput* output(std::string_view id) const { return at(m_outputs, id); }
    [[nodiscard]] const Circuit* seatedOn(std::string_view input) const { return at(m_seats, input); }
    [[nodiscard]] const Circuit* drivenBy(std::string_view output) const { return at(m_drivers, output); }

  private:
    template <class T> using Map = std::unordered_map<std::string_view, const T*>;

    template <class T, class Name> static void fill(Map<T>& map, const std::vector<T>& list, Name name)
    {
        for (const T& item : list)
            map.try_emplace(name(item), &item); // the first of two of a name
    }
    template <class T> static const T* at(const Map<T>& map, std::string_view name)
    {
        const auto it = map.find(name);
        return it == map.end() ? nullptr : it->second;
    }

    Map<Connector> m_connectors;
    Map<Joint> m_joints;
    Map<parts::Part> m_parts;
    Map<Device> m_devices;
    Map<Circuit> m_circuits, m_seats, m_drivers;
    Map<Wire> m_wires;
    Map<parts::EcuInput> m_inputs;
    Map<parts::EcuOutput> m_outputs;
};

/// Names within one list must differ.
template <class List, class Name>
[[nodiscard]] Result<void> distinct(std::string_view list, const List& items, Name nameOf)
{
    std::unordered_set<std::string_view> seen;
    for (size_t i = 0; i < items.size(); ++i)
        if (const std::string_view name = nameOf(items[i]); !seen.insert(name).second)
            return bad(ErrorCode::Reference, at(list, i), phrase("the name \"{}\" is used twice", name));
    return {};
}

/// Whether a wire can end there.
[[nodiscard]] inline Result<void> checkPoint(const Named& named, const PointRef& point, std::string pointer)
{
    if (const Connector* connector = named.connector(point.owner)) {
        if (std::ranges::find(connector->cavities, point.cavity) == connector->cavities.end())
            return bad(ErrorCode::Reference, std::move(pointer),
                       phrase("connector {} has no cavity \"{}\"", connector->id, point.cavity));
        return {};
    }
    if (named.joint(point.owner) == nullptr || !point.cavity.empty())
        return bad(ErrorCode::Reference, std::move(pointer),
                   phrase("there is no connector or joint \"{}\"", point.text()));
    return {};
}

/// Connectors, wires, switches, resistors, loads, leads, branches and old plugs: what the drawing is made of.
[[nodiscard]] Result<void> checkDrawn(const Job& job, const Named& named);

} // namespace vicegrip::job
