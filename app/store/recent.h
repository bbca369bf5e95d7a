#pragma once

#include <QDateTime>
#include <QString>

#include <vector>

/// The jobs that were open last, the latest first, kept from start to start.
namespace vicegrip::app {

class Recent
{
  public:
    struct Entry
    {
        QString path; ///< absolute
        QString name, title; ///< as they were then
        QDateTime when; ///< UTC
    };
    static constexpr int kMost = 12;

    /// Reads them from this user's configuration. A file that cannot be understood is set aside, and `complaint` says
    /// so; one of a newer version is left as it is, and nothing is kept.
    Recent();

    [[nodiscard]] const std::vector<Entry>& entries() const { return m_entries; }
    /// What was wrong with the list as it was found, in a sentence; empty: nothing.
    [[nodiscard]] const QString& complaint() const { return m_complaint; }

    /// Puts a job first. What cannot be written is forgotten at the end: nobody's work hangs on it.
    void add(Entry entry);
    void forget(const QString& path);

    /// Where it is kept.
    [[nodiscard]] static QString file();

  private:
    void read();
    void write() const;

    std::vector<Entry> m_entries;
    QString m_complaint;
    bool m_keeps = true; ///< not over a file of a newer version
};

} // namespace vicegrip::app
