#pragma once

#include "core/run_sheet/off_circuit.h"
#include "core/run_sheet/sheet_line.h"

#include <initializer_list>

/// Lines as they are made, a function for each part of the sheet. What does not apply to the job makes no line.
namespace vicegrip::run_sheet {

class Made
{
  public:
    explicit Made(const analysis::Analysis& analysis) : m_analysis(analysis), m_network(*analysis.job) {}

    [[nodiscard]] const analysis::Analysis& analysis() const { return m_analysis; }
    [[nodiscard]] const job::Job& job() const { return *m_analysis.job; }
    [[nodiscard]] OffCircuit& network() { return m_network; }
    [[nodiscard]] std::vector<Line>& lines() { return m_lines; }

    /// The part that is made now.
    void begin(Section section) { m_section = section; }

    /// One more line, after what it names and after every line that holds in the parts before. The reference holds
    /// until the next one is made.
    Line& add(std::string id, By by, std::string what, std::initializer_list<const char*> after = {});

    /// A line that another stage proves.
    Line& work(std::string id, std::string what, analysis::Stage stage, proof::State state, std::string reason);

    /// A line of what the ECU reports of a circuit, within the window its promise has under this condition; null where
    /// nothing is promised there.
    Line* reported(const std::string& id, const job::Circuit& circuit, job::Condition condition, std::string what);

    /// A line with a window of its own: what the circuit's value must be, SI.
    Line& valued(const std::string& id, const job::Circuit& circuit, job::Condition condition, std::string what,
                 double low, double high, std::string source);

    /// A line of what a gallery shows, `least_pa` above the air outside; by eyes where no pressure is read.
    Line& oil(const std::string& id, job::Condition condition, std::string what, double least_pa, std::string source);

    /// A line of a meter; null where the network says nothing of it.
    Line* metered(const std::string& id, std::string what, std::optional<proof::Expectation> due);

    /// Lines of a meter at each of the ECU's own feeds, their ids beginning so. The references hold until the next line
    /// is made.
    std::vector<Line*> feeds(const std::string& begin, job::Condition condition, const char* what);

    [[nodiscard]] bool has(std::string_view id) const;

    /// The first circuit of this function that reads something; null when there is none.
    [[nodiscard]] const job::Circuit* sensing(std::string_view function) const;
    /// Whether anything of this kind is driven.
    [[nodiscard]] bool drives(parts::PartUse use) const;
    /// The circuit whose value is the engine's speed: the crank's; null without one.
    [[nodiscard]] const job::Circuit* crank() const;
    /// Whether the circuit's wheel and sensor are as the maker left them: a plug-in unit, and nothing is said of a
    /// wheel.
    [[nodiscard]] bool keepsWheel(const job::Circuit& circuit) const;
    /// Facts of every part that fuel runs through.
    [[nodiscard]] std::vector<std::string> fuelSubjects() const;

  private:
    const analysis::Analysis& m_analysis;
    OffCircuit m_network;
    std::vector<Line> m_lines;
    Section m_section = Section::BeforePower;
};

void beforePower(Made& made);
void keyOn(Made& made);
void outputs(Made& made);
void cranking(Made& made);
void firstStart(Made& made);
void warm(Made& made);
void road(Made& made);

/// A temperature and a pressure above the air's in a sentence, as people read them.
[[nodiscard]] std::string degreesText(double kelvin);
[[nodiscard]] std::string gaugeText(double pa);

/// What every line says of a reading that the fault finder can take up.
[[nodiscard]] std::string findIt();

} // namespace vicegrip::run_sheet
