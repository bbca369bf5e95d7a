#include "core/base/phrase.h"
#include "core/seating/compatibility.h"
#include "core/seating/drivers.h"
#include "core/seating/plan.h"

#include <map>

/// Why seats do not take a circuit as things stand.
namespace vicegrip::seating {
namespace {

std::string takenBy(const job::Circuit& there)
{
    return phrase("it is taken by {}{}", there.name, (there.locked ? ", locked" : ""));
}

class Judge
{
  public:
    Judge(const job::Job& job, const job::Circuit& circuit)
        : m_job(job), m_circuit(circuit), m_wiring(job), m_part(asDriven(m_wiring, circuit))
    {
        for (const job::Circuit& c : job.circuits) {
            m_read.try_emplace(c.input, &c);
            m_driven.try_emplace(c.output, &c);
        }
    }

    [[nodiscard]] std::string reasonOf(const parts::EcuInput& input, double draw, const SupplyBudget& budget) const
    {
        if (std::string reason = compatibility(m_wiring, m_circuit, input).reason; !reason.empty())
            return reason;
        if (const auto there = m_read.find(input.id); there != m_read.end() && there->second->id != m_circuit.id)
            return takenBy(*there->second);
        if (m_circuit.input.empty() && draw > 0 && budget.drawn_a + draw > budget.limit_a)
            return phrase("the sensor supply would deliver {} of {}",
                          units::format(budget.drawn_a + draw, units::Dimension::Current, "mA", 0),
                          units::format(budget.limit_a, units::Dimension::Current, "mA", 0));
        return {};
    }

    [[nodiscard]] std::string reasonOf(const parts::EcuOutput& output) const
    {
        if (!m_part)
            return phrase("nobody has said what it drives");
        if (std::string reason = compatibility(m_job, m_circuit, *m_part, output).reason; !reason.empty())
            return reason;
        const auto there = m_driven.find(output.id);
        return !output.isShared() && there != m_driven.end() && there->second->id != m_circuit.id
                   ? takenBy(*there->second)
                   : std::string();
    }

  private:
    const job::Job& m_job;
    const job::Circuit& m_circuit;
    electrics::Wiring m_wiring;
    std::optional<parts::Part> m_part; ///< of what is driven, as an output sees it
    std::map<parts::InputId, const job::Circuit*> m_read;
    std::map<parts::OutputId, const job::Circuit*> m_driven;
};

} // namespace

std::string unfitness(const job::Job& job, const job::Circuit& circuit, const std::string& seat)
{
    if (const parts::EcuInput* input = job::findInput(job, parts::InputId{seat}))
        return compatibility(electrics::Wiring(job), circuit, *input).reason;
    const parts::EcuOutput* output = job::findOutput(job, parts::OutputId{seat});
    const auto part = asDriven(electrics::Wiring(job), circuit);
    if (output == nullptr || !part)
        return phrase("no unit of this job has an input \"{}\"", seat);
    return compatibility(job, circuit, *part, *output).reason;
}

std::vector<Refusal> refusals(const job::Job& job, const job::Circuit& circuit)
{
    const Judge judge(job, circuit);
    std::vector<Refusal> out;
    if (job::actuatorOf(job, circuit) != nullptr) {
        for (const parts::EcuOutput* output : job::outputs(job))
            if (std::string reason = judge.reasonOf(*output); !reason.empty())
                out.push_back({{}, output->id, std::move(reason)});
        return out;
    }
    const auto budgets = supplyBudgets(job);
    const auto units = job::units(job);
    for (size_t u = 0; u < units.size(); ++u) {
        const double draw = supplyDraw(job, circuit, *units[u]);
        for (const parts::EcuInput& input : units[u]->inputs)
            if (std::string reason = judge.reasonOf(input, draw, budgets[u]); !reason.empty())
                out.push_back({input.id, {}, std::move(reason)});
    }
    return out;
}

} // namespace vicegrip::seating
