#pragma once

#include "app/desk/desk.h"
#include "app/store/preferences.h"
#include "app/store/remembered.h"
#include "app/store/taken.h"
#include "core/analysis/analysis.h"
#include "core/lookup/entries.h"

#include <QWidget>

#include <array>
#include <memory>

class QScrollArea;
class QStackedWidget;

namespace vicegrip::app {

class CircuitList;
class CommandFinder;
class FindingsDrawer;
class Header;
class JobMenu;
class Jobs;
class Keeping;
class LinksPage;
class Notices;
class PartPage;
class PracticeBar;
class PracticePage;
class PreferencesPage;
class Sheet;
class StagePage;
class StartPage;
enum class PartKind;
class Signpost;
class StageRail;
class CircuitStrip;

/// The window: header, stage rail, circuit list, the stage, and the thread under it.
class MainWindow : public QWidget
{
    Q_OBJECT

  public:
    explicit MainWindow(std::unique_ptr<Preferences> preferences = std::make_unique<Preferences>());
    ~MainWindow() override;

    /// Opens a job; a failure is said in the window and what was open stays open.
    bool openJob(const QString& path);
    bool openJob(Result<OpenedJob> read);
    void showStage(analysis::Stage stage);
    /// The practice bench: which round is to be played.
    void showPractice();
    void beginRound(practice::Level level);
    /// Rounds are made from this from now on (tests).
    void setRoundSeed(unsigned seed) { m_seed = seed; }
    /// Prefers the night's colours, or the day's.
    void setNight(bool night);

    [[nodiscard]] Desk& desk() { return m_desk; }
    [[nodiscard]] analysis::Stage stage() const { return m_stage; }
    [[nodiscard]] Notices& notices() { return *m_notices; }
    [[nodiscard]] Jobs& jobs() { return *m_jobs; }

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void closeEvent(QCloseEvent* event) override;

  private:
    void furnish();
    void connectFurniture();
    void furnishAgain();
    void dropPages();
    void share();
    [[nodiscard]] bool isTight() const;
    [[nodiscard]] int frameWidth() const;
    void buildActions();
    void connectDesk();
    QAction* act(const QString& name, const QKeySequence& key, const std::function<void()>& what);
    void refresh();
    StagePage& page(analysis::Stage stage);
    void showPage();
    void makeRoom();
    void refreshLive();
    void moveCircuit(int step);
    void toggleFindings();
    void openFinder();
    void goTo(const lookup::Entry& entry);
    void offerRecovery();
    void startBench(const QString& faults);
    void offerBench(const QString& demo);
    void openMenu();
    void showAside(QWidget* page);
    void showSheet();
    void toggleHelp();
    void refreshHelp();
    [[nodiscard]] std::string helpSubject() const;
    void showKeys();
    void showGlossary();
    void showAbout();
    void showPreferences();
    void showLinks();
    void toggleRecording();
    void markRecording();
    void sayRecorded(const QString& file);
    void makePractising();
    void showNaming();
    void followPractice();
    [[nodiscard]] Result<job::Job> jobToPractise() const;
    void leavePractice();
    [[nodiscard]] static bool isPractised(const QString& path);
    void followPreferences(const Preferred& before);
    void changeTextSize(int steps);
    void setTextSize(int percent);
    void makePart();
    void describePart(PartKind what);
    void sayLibraryComplaints();
    void sayConfigComplaints();

    std::unique_ptr<Preferences> m_preferences; ///< first: what is shown hangs on it
    Remembered m_remembered;
    Taken m_taken; ///< with the finder
    JobStore m_store;
    Live m_live;
    Selection m_selection;
    Promises m_promises{m_store};
    Practice m_practice{m_store};
    Linking m_linking{m_store, m_live};
    Desk m_desk{m_store, m_live, m_selection, m_promises, *m_preferences, m_practice, m_linking};
    bool m_beforeIsKept = false; ///< the job before the round had edits that were not saved, and lie beside its file
    std::optional<unsigned> m_seed; ///< of rounds (tests); none: as chance has it
    analysis::Stage m_stage = analysis::Stage::Board;

    Notices* m_notices;
    Keeping* m_keeping;
    Jobs* m_jobs;
    JobMenu* m_menu;
    QList<QAction*> m_railActions; ///< at the foot of the rail

    // What stands in the window, made again with the text's size.
    QScrollArea* m_frame; ///< of all of it
    Header* m_header;
    StageRail* m_rail;
    CircuitList* m_list;
    QStackedWidget* m_stages;
    Signpost* m_signpost; ///< in the place of a stage that lacks what it begins with
    std::array<StagePage*, analysis::kStageCount> m_pages{};
    std::array<QString, analysis::kStageCount> m_views; ///< what a page that was dropped showed
    CircuitStrip* m_strip;
    FindingsDrawer* m_drawer;
    QWidget* m_aside = nullptr; ///< what stands in the stage's place until it is left
    StartPage* m_start = nullptr; ///< before any job
    PartPage* m_part = nullptr; ///< made when first asked for
    PreferencesPage* m_preferring = nullptr; ///< made when first asked for
    LinksPage* m_links = nullptr; ///< made when first asked for
    PracticePage* m_practising = nullptr; ///< made when first asked for
    PracticeBar* m_practiceBar; ///< under the header while a round is played
    Sheet* m_sheet = nullptr; ///< made when first asked for
    Sheet* m_help; ///< beside the stage
    std::string m_helpOn; ///< the view it speaks of
    bool m_librarySaid = false; ///< what was left out of the library was said
    CommandFinder* m_finder = nullptr; ///< made when first asked for
};

} // namespace vicegrip::app
