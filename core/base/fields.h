#pragma once

#include "core/base/id.h"

#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

/// One listing of a structure's fields serves reading and writing:
///
///     template <class Archive> void listFields(Archive& a, Wire& w)
///     {
///         a("id", w.id);
///         a.scaled("area_mm2", w.area_m2, 1e-6);
///         a.rest(w.extra);   // members this version does not know: kept, and written back
///     }
///
/// The document has passed its schema before a `Reader` sees it, so a member is either of the right shape or absent;
/// absent members leave the default.
namespace vicegrip::fields {

using Json = nlohmann::json;
using OrderedJson = nlohmann::ordered_json;

/// Enumerations in files: specialise `kNames` with an array of {value, "name"} pairs.
template <class E> struct EnumNames;

template <class E> std::string_view enumName(E value)
{
    for (const auto& [known, name] : EnumNames<E>::kNames)
        if (known == value)
            return name;
    return {};
}

/// Numbers that were scaled to SI and back are written with 12 digits, so that 0.5 mm² does not drift.
[[nodiscard]] double rounded(double value);

class Reader;
class Writer;

template <class T>
concept HasFields = requires(T& t, Reader& r)
{
    listFields(r, t);
};

class Reader
{
  public:
    explicit Reader(const Json& object) : m_object(object) {}

    template <class T> void operator()(const char* name, T& value)
    {
        m_seen.insert(name);
        const auto it = m_object.find(name);
        if (it != m_object.end() && !it->is_null())
            read(*it, value);
    }

    /// A number kept in SI inside and in another unit in the file: si = number * factor + offset.
    void scaled(const char* name, double& si, double factor, double offset = 0)
    {
        m_seen.insert(name);
        const auto it = m_object.find(name);
        if (it != m_object.end() && it->is_number())
            si = it->get<double>() * factor + offset;
    }

    void rest(Json& extra)
    {
        extra = Json::object();
        for (const auto& [name, value] : m_object.items())
            if (!m_seen.contains(name))
                extra[name] = value;
    }

    static void read(const Json& j, double& v) { v = j.get<double>(); }
    static void read(const Json& j, int& v) { v = j.get<int>(); }
    static void read(const Json& j, bool& v) { v = j.get<bool>(); }
    static void read(const Json& j, std::string& v) { v = j.get<std::string>(); }
    static void read(const Json& j, Json& v) { v = j; }
    template <class Tag> static void read(const Json& j, Id<Tag>& v) { v.value = j.get<std::string>(); }
    template <class T> static void read(const Json& j, std::map<std::string, T>& v)
    {
        v.clear();
        for (const auto& [name, item] : j.items())
            read(item, v[name]);
    }
    template <class T> static void read(const Json& j, std::vector<T>& v)
    {
        v.clear();
        for (const Json& item : j)
            read(item, v.emplace_back());
    }
    template <class T> static void read(const Json& j, std::optional<T>& v) { read(j, v.emplace()); }
    template <class E>
    requires std::is_enum_v<E>
    static void read(const Json& j, E& v)
    {
        for (const auto& [known, name] : EnumNames<E>::kNames)
            if (name == j.get<std::string>())
                v = known;
    }
    template <HasFields T> static void read(const Json& j, T& v)
    {
        Reader reader(j);
        listFields(reader, v);
    }

  private:
    const Json& m_object;
    std::set<std::string, std::less<>> m_seen;
};

class Writer
{
  public:
    template <class T> void operator()(const char* name, T& value)
    {
        if (!absent(value))
            m_object[name] = written(value);
    }

    void scaled(const char* name, double& si, double factor, double offset = 0)
    {
        m_object[name] = rounded((si - offset) / factor);
    }

    void rest(Json& extra)
    {
        for (const auto& [name, value] : extra.items())
            m_object[name] = OrderedJson(value);
    }

    [[nodiscard]] OrderedJson take() { return std::move(m_object); }

    static OrderedJson written(double v) { return v; }
    static OrderedJson written(int v) { return v; }
    static OrderedJson written(bool v) { return v; }
    static OrderedJson written(const std::string& v) { return v; }
    static OrderedJson written(const Json& v) { return v; }
    template <class Tag> static OrderedJson written(const Id<Tag>& v) { return v.value; }
    template <class T> static OrderedJson written(const std::map<std::string, T>& v)
    {
        OrderedJson object = OrderedJson::object();
        for (const auto& [name, item] : v)
            object[name] = written(item);
        return object;
    }
    template <class T> static OrderedJson written(std::vector<T>& v)
    {
        OrderedJson list = OrderedJson::array();
        for (T& item : v)
            list.push_back(written(item));
        return list;
    }
    template <class T> static OrderedJson written(std::optional<T>& v) { return written(*v); }
    template <class E>
    requires std::is_enum_v<E>
    static OrderedJson written(E v) { return std::string(enumName(v)); }
    template <HasFields T> static OrderedJson written(T& v)
    {
        Writer writer;
        listFields(writer, v);
        return writer.take();
    }

  private:
    template <class T> static bool absent(const T&) { return false; }
    template <class T> static bool absent(const std::optional<T>& v) { return !v.has_value(); }
    template <class T> static bool absent(const std::vector<T>& v) { return v.empty(); }
    static bool absent(const std::string& v) { return v.empty(); }
    template <class Tag> static bool absent(const Id<Tag>& v) { return v.value.empty(); }
    template <class T> static bool absent(const std::map<std::string, T>& v) { return v.empty(); }

    OrderedJson m_object = OrderedJson::object();
};

/// A structure as JSON, members in the order they are listed.
template <HasFields T> OrderedJson toJson(const T& value)
{
    T copy = value; // the listing serves both directions, so it takes its subject by reference
    return Writer::written(copy);
}

template <HasFields T> T fromJson(const Json& json)
{
    T value;
    Reader::read(json, value);
    return value;
}

} // namespace vicegrip::fields
