#pragma once

#include "app/store/config_file.h"
#include "core/job/job.h"
#include "core/materials/habits.h"
#include "core/sheets/wire_labels.h"
#include "core/units/shown.h"

#include <QObject>
#include <QString>

#include <string>
#include <vector>

namespace vicegrip::app {

/// What the window's colours follow.
enum class Paper {
    Day,
    Night,
    Desktop ///< as the desktop's own were when the application started
};

/// What a user has set for himself, whatever the job.
struct Preferred
{
    units::Shown shown; ///< units
    QString currency; ///< beside prices: "€"; empty: none
    Paper paper = Paper::Day;
    int textSize = 100; ///< percent of the design's
    bool callOut = false; ///< pins are spoken from the start
    std::vector<std::string> bookWithout; ///< chapters that are left out of the build book, by name
    sheets::LabelStock labels; ///< that he prints on; how many are gone is not kept
    materials::Habits habits;
    job::Meter meter; ///< his own, for new jobs

    [[nodiscard]] bool operator==(const Preferred&) const = default;
};

/// The preferences, kept from start to start in a file of the user's. What is shown follows them at once: the units of
/// the process are set here and nowhere else in the application.
class Preferences : public QObject
{
    Q_OBJECT

  public:
    /// Reads them. A member that cannot be is said in `complaint` and has its default; without a file the units are
    /// those of the desktop's country.
    explicit Preferences(QObject* parent = nullptr);

    [[nodiscard]] const Preferred& now() const { return m_now; }
    /// Whether the colours are the night's, on a desktop of such colours.
    [[nodiscard]] bool night(bool desktopIsNight) const;
    [[nodiscard]] const QString& complaint() const { return m_complaint; }

    /// Takes them and keeps them.
    void set(const Preferred& preferred);

  signals:
    void changed(const vicegrip::app::Preferred& before);

  private:
    void read();
    [[nodiscard]] nlohmann::json members() const;

    ConfigFile m_file;
    Preferred m_now;
    QString m_complaint;
};

} // namespace vicegrip::app
