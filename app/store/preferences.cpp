#include "app/store/preferences.h"

#include "app/look/look.h"

#include <QLocale>

#include <algorithm>
#include <functional>

namespace vicegrip::app {
namespace {

using nlohmann::json;

constexpr const char *kUnits = "units", *kSystem = "system", *kMetric = "metric", *kUs = "us", *kLabels = "labels";
constexpr int kLongestCurrency = 8;

/// A number of the preferences: where it stands in the file, what it may be, and where it is kept.
struct Number
{
    const char *group, *name;
    double low, high;
    std::function<double(const Preferred&)> get;
    std::function<void(Preferred&, double)> put;
};

Number numberOf(const char* group, const char* name, double low, double high, double materials::Habits::*member,
                double scale = 1)
{
    return {group,
            name,
            low,
            high,
            [=](const Preferred& p) { return p.habits.*member * scale; },
            [=](Preferred& p, double v) { p.habits.*member = v / scale; }};
}

Number numberOf(const char* name, double low, double high, double job::Meter::*member, double scale = 1)
{
    return {"meter",
            name,
            low,
            high,
            [=](const Preferred& p) { return p.meter.*member * scale; },
            [=](Preferred& p, double v) { p.meter.*member = v / scale; }};
}

const std::vector<Number>& numbers()
{
    using job::Meter;
    using materials::Habits;
    static const std::vector<Number> kNumbers = {
        {"text", "size_percent", look::kLeastText, look::kMostText, [](const Preferred& p) { return p.textSize; },
         [](Preferred& p, double v) { p.textSize = static_cast<int>(v); }},
        numberOf("cutting", "slack_percent", 0, 50, &Habits::slack, 100),
        numberOf("cutting", "service_loop_m", 0, 2, &Habits::serviceLoop_m),
        numberOf("cutting", "stagger_m", 0, 1, &Habits::stagger_m),
        numberOf("cutting", "spare_wire_m", 0, 100, &Habits::spareWire_m),
        {"cutting", "spare_for_each", 0, 100, [](const Preferred& p) { return p.habits.spareForEach; },
         [](Preferred& p, double v) { p.habits.spareForEach = static_cast<int>(v); }},
        numberOf("volts_percent", 0, 20, &Meter::voltsShare, 100),
        numberOf("volts_v", 0, 1, &Meter::volts_v),
        numberOf("ohms_percent", 0, 20, &Meter::ohmsShare, 100),
        numberOf("ohms_ohm", 0, 10, &Meter::ohms_ohm),
        numberOf("lead_ohm", 0, 10, &Meter::lead_ohm),
        numberOf("input_ohm", 1e4, 1e12, &Meter::input_ohm)};
    return kNumbers;
}

/// A measure of the labels' sheets.
struct Measure
{
    const char* name;
    double least_mm, most_mm;
    std::function<std::optional<sheets::Size>(const sheets::LabelStock&)> get;
    std::function<void(sheets::LabelStock&, const sheets::Size&)> put;
};

const std::vector<Measure>& measures()
{
    using sheets::LabelStock, sheets::Size;
    const auto of = [](const char* name, double least_mm, double most_mm, Size LabelStock::*member) {
        return Measure{name, least_mm, most_mm, [=](const LabelStock& s) { return std::optional(s.*member); },
                       [=](LabelStock& s, const Size& size) { s.*member = size; }};
    };
    static const std::vector<Measure> kMeasures = {
        of("label_mm", sheets::kLeastLabel_mm, sheets::kMostLabel_mm, &LabelStock::label),
        of("paper_mm", sheets::kLeastPaper_mm, sheets::kMostPaper_mm, &LabelStock::paper),
        of("gap_mm", 0, sheets::kMostLabel_mm, &LabelStock::gap),
        {"margin_mm", 0, sheets::kMostLabel_mm, [](const LabelStock& s) { return s.margin; },
         [](LabelStock& s, const Size& size) { s.margin = size; }}};
    return kMeasures;
}

constexpr std::pair<sheets::LabelForm, const char*> kForms[] = {{sheets::LabelForm::Flag, "flag"},
                                                                {sheets::LabelForm::Wrap, "wrap"}};

const std::pair<Paper, const char*> kPapers[] = {
    {Paper::Day, "day"}, {Paper::Night, "night"}, {Paper::Desktop, "desktop"}};

/// Takes members out of the file, and remembers the first that cannot be.
class Reader
{
  public:
    Reader(const json& members, QString& complaint) : m_members(members), m_complaint(complaint) {}

    /// `take` says whether it could.
    void member(const char* group, const char* name, const std::function<bool(const json&)>& take)
    {
        const json* in = &m_members;
        if (*group != '\0') {
            const auto found = in->find(group);
            if (found == in->end())
                return;
            in = &*found;
        }
        if (!in->is_object()) {
            refuse(QLatin1String(group));
            return;
        }
        const auto found = in->find(name);
        if (found != in->end() && !take(*found))
            refuse(*group == '\0' ? QLatin1String(name)
                                  : QStringLiteral("%1/%2").arg(QLatin1String(group), QLatin1String(name)));
    }

  private:
    void refuse(const QString& where)
    {
        if (m_complaint.isEmpty())
            m_complaint =
                QObject::tr("Preferences: %1 cannot be what stands in the file, and is as it comes.").arg(where);
    }

    const json& m_members;
    QString& m_complaint;
};

units::Shown shownIn(Reader& reader)
{
    units::Shown shown;
    const auto systems = QLocale::system().measurementSystem();
    if (systems == QLocale::ImperialUSSystem)
        shown.system = units::System::US;
    reader.member(kUnits, kSystem, [&](const json& v) {
        shown.system = v == kUs ? units::System::US : units::System::Metric;
        return v == kUs || v == kMetric;
    });
    for (const units::Dimension d : units::choosable()) {
        const std::string name(units::name(d));
        reader.member(kUnits, name.c_str(), [&](const json& v) {
            const auto all = units::choices(d);
            const bool known =
                v.is_string() && std::ranges::find(all, v.get<std::string>(), &units::Choice::name) != all.end();
            if (known)
                shown.own[d] = v.get<std::string>();
            return known;
        });
    }
    return shown;
}

} // namespace

Preferences::Preferences(QObject* parent)
    : QObject(parent), m_file(QStringLiteral("preferences.json"), 1, tr("What you prefer"))
{
    read();
    (void)units::setShown(m_now.shown); // of choices that there are
}

void Preferences::read()
{
    const json members = m_file.read();
    m_complaint = m_file.complaint();
    Reader reader(members, m_complaint);
    m_now.shown = shownIn(reader);
    reader.member("", "currency", [&](const json& v) {
        if (!v.is_string())
            return false;
        m_now.currency = QString::fromStdString(v.get<std::string>()).trimmed().left(kLongestCurrency);
        return true;
    });
    reader.member("", "paper", [&](const json& v) {
        for (const auto& [paper, name] : kPapers)
            if (v == name) {
                m_now.paper = paper;
                return true;
            }
        return false;
    });
    reader.member("", "call_out", [&](const json& v) {
        m_now.callOut = v.is_boolean() && v.get<bool>();
        return v.is_boolean();
    });
    reader.member("", "book_without", [&](const json& v) {
        if (!v.is_array() || !std::ranges::all_of(v, [](const json& name) { return name.is_string(); }))
            return false;
        m_now.bookWithout = v.get<std::vector<std::string>>();
        return true;
    });
    reader.member(kLabels, "form", [&](const json& v) {
        for (const auto& [form, name] : kForms)
            if (v == name) {
                m_now.labels.form = form;
                return true;
            }
        return false;
    });
    for (const Measure& m : measures())
        reader.member(kLabels, m.name, [&](const json& v) {
            const bool sound =
                v.is_array() && v.size() == 2 && std::ranges::all_of(v, [&](const json& side) {
                    return side.is_number() && side.get<double>() >= m.least_mm && side.get<double>() <= m.most_mm;
                });
            if (sound)
                m.put(m_now.labels, {v[0].get<double>(), v[1].get<double>()});
            return sound;
        });
    for (const Number& n : numbers())
        reader.member(n.group, n.name, [&](const json& v) {
            const double value = v.is_number() ? v.get<double>() : -1;
            const bool sound = value >= n.low && value <= n.high;
            if (sound)
                n.put(m_now, value);
            return sound;
        });
}

json Preferences::members() const
{
    json out;
    out[kUnits][kSystem] = m_now.shown.system == units::System::US ? kUs : kMetric;
    for (const auto& [dimension, choice] : m_now.shown.own)
        out[kUnits][std::string(units::name(dimension))] = choice;
    out["currency"] = m_now.currency.toStdString();
    for (const auto& [paper, name] : kPapers)
        if (paper == m_now.paper)
            out["paper"] = name;
    out["call_out"] = m_now.callOut;
    out["book_without"] = m_now.bookWithout;
    for (const auto& [form, name] : kForms)
        if (form == m_now.labels.form)
            out[kLabels]["form"] = name;
    for (const Measure& m : measures())
        if (const auto size = m.get(m_now.labels))
            out[kLabels][m.name] = {size->wide_mm, size->tall_mm};
    for (const Number& n : numbers())
        out[n.group][n.name] = n.get(m_now);
    return out;
}

bool Preferences::night(bool desktopIsNight) const
{
    return m_now.paper == Paper::Night || (m_now.paper == Paper::Desktop && desktopIsNight);
}

void Preferences::set(const Preferred& preferred)
{
    if (preferred == m_now)
        return;
    const Preferred before = std::exchange(m_now, preferred);
    (void)units::setShown(m_now.shown);
    m_file.write(members());
    emit changed(before);
}

} // namespace vicegrip::app
