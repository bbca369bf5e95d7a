#include "app/desk/linking.h"

#include "app/widgets/text.h"

#include <algorithm>

namespace vicegrip::app {
namespace {

bool knows(const dbc::Database& database, const job::Told& told)
{
    return std::ranges::any_of(database.messages(), [&](const dbc::Message& m) {
        return m.name == told.message &&
               std::ranges::find(m.carries, told.signal, &dbc::Signal::name) != m.carries.end();
    });
}

/// What a circuit is told from now on: as before where the database still has it, else as on the car before, else what
/// the words say.
std::vector<job::Told> toldNow(const job::Circuit& circuit, const StreamProfile& profile,
                               const std::vector<stream::Matched>& matched, const dbc::Database& database)
{
    std::vector<job::Told> out;
    const auto take = [&](job::Told told) {
        if (std::ranges::find(out, told.tells, &job::Told::tells) != out.end() || !knows(database, told))
            return;
        told.input = circuit.input;
        out.push_back(std::move(told));
    };
    for (const job::Told& t : circuit.told)
        if (t.input == circuit.input)
            take(t);
    if (const auto before = profile.told.find(circuit.id.value); before != profile.told.end())
        std::ranges::for_each(before->second, take);
    for (const stream::Matched& m : matched)
        if (m.circuit == circuit.id)
            take(m.told);
    return out;
}

} // namespace

Linking::Linking(JobStore& store, Live& live, QObject* parent)
    : QObject(parent), m_store(store), m_live(live), m_load([this](const Loaded& loaded) { take(loaded); })
{
    connect(&live, &Live::chosenOtherwise, this, [this] {
        ++m_asked; // a car is real or simulated
        m_reading = false;
        m_trouble.clear();
        emit changed();
    });
}

void Linking::follow()
{
    const auto job = m_store.job();
    if (const QString stream = text(job->stream); stream != m_stream) {
        m_stream = stream;
        ++m_asked;
        m_trouble.clear();
        if (stream.isEmpty()) {
            m_live.closeStream();
        } else if (const StreamProfile* profile = m_profiles.stream(stream)) {
            load(*profile, For::Job);
        } else {
            fail(tr("This job's ECU is heard over \"%1\", which is not among the links of this machine. Choose one on "
                    "page Links.")
                     .arg(stream));
        }
        emit changed();
    }
    if (const QString instrument = text(job->instrument); instrument != m_instrument) {
        m_instrument = instrument;
        connectMeter();
    }
}

void Linking::connectMeter()
{
    const auto address = link::addressOf(m_instrument);
    if (!address) {
        if (m_live.hasMeter())
            m_live.closeMeter();
    } else {
        m_live.openMeter(*address);
    }
    emit changed();
}

void Linking::fail(const QString& sentence)
{
    m_reading = false;
    m_trouble = sentence;
    m_live.closeStream();
    emit changed();
}

void Linking::load(const StreamProfile& profile, For what)
{
    m_reading = true;
    m_trouble.clear();
    m_remarks.clear();
    emit changed();
    m_load.ask([profile, what, asked = ++m_asked, job = m_store.job()] {
        Loaded out{profile, what, asked, {}, job, {}, {}, {}};
        std::shared_ptr<const dbc::Database> database;
        if (profile.isObd()) {
            database = std::make_shared<const dbc::Database>(obd::described());
        } else if (auto read = dbc::readFile(profile.database.toStdString())) {
            database = std::make_shared<const dbc::Database>(std::move(read->database));
            out.remarks = std::move(read->remarks);
        } else {
            out.trouble = text(read.error().text());
            return out;
        }
        out.matcher = std::make_shared<const stream::Matcher>(std::move(database));
        if (what == For::Use)
            out.matched = out.matcher->match(*job);
        return out;
    });
}

std::shared_ptr<const dbc::Database> Linking::database() const
{
    return m_matcher ? m_matcher->database() : nullptr;
}

void Linking::take(const Loaded& loaded)
{
    if (loaded.asked != m_asked)
        return;
    if (loaded.matcher && loaded.what == For::Use && loaded.job != m_store.job()) {
        load(loaded.profile, loaded.what); // it went on meanwhile
        return;
    }
    m_reading = false;
    if (!loaded.matcher) {
        if (loaded.what == For::Job)
            fail(loaded.trouble);
        m_trouble = loaded.trouble; // what was there goes on
        emit changed();
        return;
    }
    m_matcher = loaded.matcher;
    m_remarks = loaded.remarks;
    m_trying = loaded.what == For::Trial;
    if (loaded.what == For::Use)
        keepAndTell(loaded.profile, loaded.matched);
    m_live.openStream({loaded.profile.name,
                       {loaded.profile.plugin, loaded.profile.interface, loaded.profile.bitRate},
                       m_matcher->database(),
                       loaded.profile.isObd()});
    emit changed();
}

void Linking::endTrial()
{
    if (m_trying)
        connectAgain();
}

void Linking::connectAgain()
{
    m_trying = false;
    m_live.closeStream();
    m_stream.clear();
    follow();
}

void Linking::tryOut(const StreamProfile& profile)
{
    m_trying = true;
    load(profile, For::Trial);
}

void Linking::use(const StreamProfile& profile)
{
    load(profile, For::Use);
}

void Linking::keepAndTell(StreamProfile profile, const std::vector<stream::Matched>& matched)
{
    const std::string name = profile.name.toStdString();
    const auto job = m_store.job();
    std::map<std::string, std::vector<job::Told>> told;
    for (const job::Circuit& c : job->circuits)
        if (job::sensorOf(*job, c) != nullptr)
            told[c.id.value] = toldNow(c, profile, matched, *m_matcher->database());
    m_stream = profile.name;
    const bool taken = m_store.editOrSay(tr("Listen over %1").arg(profile.name), [&](job::Job& changed) {
        changed.stream = name;
        for (job::Circuit& c : changed.circuits)
            if (const auto now = told.find(c.id.value); now != told.end())
                c.told = now->second;
    });
    if (!taken)
        return;
    for (auto& [circuit, all] : told)
        if (!all.empty())
            profile.told[circuit] = std::move(all);
    if (const auto kept = m_profiles.keep(std::move(profile)); !kept)
        m_trouble = text(kept.error().text());
}

void Linking::useNone()
{
    if (m_store.job()->stream.empty()) {
        ++m_asked; // what was tried
        m_live.closeStream();
    } else {
        m_store.editOrSay(tr("No link to the ECU"), [](job::Job& job) { job.stream.clear(); });
    }
    emit changed();
}

void Linking::forget(const QString& name)
{
    m_profiles.forget(name);
    emit changed();
}

void Linking::tell(const job::CircuitId& circuit, job::Tells tells, const std::optional<job::Told>& told)
{
    const auto put = [&](std::vector<job::Told>& all) {
        std::erase_if(all, [&](const job::Told& t) { return t.tells == tells || (told && t.tells == told->tells); });
        if (told)
            all.push_back(*told);
    };
    const bool taken = m_store.editOrSay(tr("Signal of %1").arg(text(circuit.value)),
                                         [&](job::Job& job) { put(job::find(job, circuit)->told); });
    if (const StreamProfile* profile = m_profiles.stream(text(m_store.job()->stream)); taken && profile != nullptr) {
        StreamProfile changed = *profile;
        put(changed.told[circuit.value]);
        if (const auto kept = m_profiles.keep(std::move(changed)); !kept)
            m_trouble = text(kept.error().text());
    }
    emit changed();
}

void Linking::useMeter(const QString& place)
{
    if (!place.isEmpty())
        m_profiles.keepMeter(place);
    if (text(m_store.job()->instrument) == place)
        connectMeter(); // anew
    else
        m_store.editOrSay(place.isEmpty() ? tr("No link to a meter") : tr("Meter at %1").arg(place),
                          [&](job::Job& job) { job.instrument = place.toStdString(); });
    emit changed();
}

void Linking::forgetMeter(const QString& place)
{
    m_profiles.forgetMeter(place);
    emit changed();
}

} // namespace vicegrip::app
