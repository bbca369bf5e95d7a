#include "app/shell/main_window.h"

#include "app/look/look.h"
#include "app/shell/circuit_list.h"
#include "app/shell/command_finder.h"
#include "app/shell/findings_drawer.h"
#include "app/shell/header.h"
#include "app/shell/missing.h"
#include "app/shell/notices.h"
#include "app/shell/opening_size.h"
#include "app/shell/preferences_page.h"
#include "app/shell/stage_rail.h"
#include "app/shell/start_page.h"
#include "app/stages/library/part_page.h"
#include "app/stages/links/links_page.h"
#include "app/stages/practice/practice_bar.h"
#include "app/stages/practice/practice_page.h"
#include "app/views/circuit_strip.h"
#include "app/widgets/sheet.h"
#include "app/widgets/signpost.h"

#include <QHBoxLayout>
#include <QScreen>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

/// What stands in the window and how it shares the room; all of it is made again when the text's size changes.
namespace vicegrip::app {

namespace {

constexpr look::Px kHelp{300}, kHelpTerms{64};
constexpr QSize kLeastWindow(840, 700); ///< whatever the text

/// What the window shows. Its content fills it and has no say in its size: texts that wrap would ask for more height
/// than they need.
class Frame : public QWidget
{
  public:
    Frame() : m_content(new QWidget(this))
    {
        setObjectName(QStringLiteral("frame"));
        setMinimumSize(look::kLeastFrameWide, look::kLeastFrameTall);
    }
    [[nodiscard]] QWidget* content() const { return m_content; }

  protected:
    void resizeEvent(QResizeEvent*) override { m_content->resize(size()); }

  private:
    QWidget* m_content;
};

} // namespace

void MainWindow::furnish()
{
    m_header = new Header(m_desk);
    m_start = new StartPage(*m_jobs);
    m_rail = new StageRail;
    for (QAction* a : m_railActions)
        m_rail->addAction(a);
    m_list = new CircuitList(m_desk);
    m_stages = new QStackedWidget;
    m_signpost = new Signpost;
    m_signpost->setContentsMargins(look::kMargin, 0, look::kMargin, 0);
    m_stages->addWidget(m_signpost);
    m_stages->addWidget(m_start);
    m_strip = new CircuitStrip(m_desk);
    m_help = new Sheet;
    m_help->setObjectName(QStringLiteral("help"));
    m_help->setFixedWidth(kHelp);
    m_help->setTermWidth(kHelpTerms);
    m_help->hide();
    m_drawer = new FindingsDrawer(m_desk, this);
    m_practiceBar = new PracticeBar(m_desk);
    connectFurniture();

    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(m_list);
    middle->addWidget(m_stages, 1);
    middle->addWidget(m_help);
    right->addLayout(middle, 1);
    right->addWidget(m_strip);

    auto* body = new QHBoxLayout;
    body->setSpacing(0);
    body->addWidget(m_rail);
    body->addLayout(right, 1);

    // On a desk that is smaller than the frame (twice the scale, or the text, on a small screen) the frame is moved
    // under the window.
    auto* frame = new Frame;
    m_frame = new QScrollArea;
    m_frame->setObjectName(QStringLiteral("desk"));
    m_frame->setFrameShape(QFrame::NoFrame);
    m_frame->setWidgetResizable(true);
    m_frame->setWidget(frame);
    m_frame->setFocusPolicy(Qt::NoFocus);
    layout()->addWidget(m_frame);
    setMinimumSize(openingSize(screen()->availableGeometry().size()).boundedTo(kLeastWindow));

    auto* column = new QVBoxLayout(frame->content());
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(m_header);
    column->addWidget(m_notices);
    column->addWidget(m_practiceBar);
    column->addLayout(body, 1);
    m_notices->dress();
    m_drawer->raise();
}

void MainWindow::connectFurniture()
{
    connect(m_rail, &StageRail::chosen, this, &MainWindow::showStage);
    connect(m_help, &Sheet::left, this, &MainWindow::toggleHelp);
    connect(m_practiceBar, &PracticeBar::nameAsked, this, &MainWindow::showNaming);
    connect(m_practiceBar, &PracticeBar::debriefAsked, this, &MainWindow::showPractice);
    connect(m_header, &Header::menuAsked, this, &MainWindow::openMenu);
    connect(m_header, &Header::linksAsked, this, &MainWindow::showLinks);
    connect(m_header, &Header::findingsAsked, this, &MainWindow::toggleFindings);
    connect(m_header, &Header::finderAsked, this, [this] { openFinder(); });
    connect(m_signpost, &Signpost::taken, this, [this] {
        if (const auto missing = missingFor(m_stage, *m_store.job()))
            showStage(missing->leadsTo);
    });
    connect(m_strip, &CircuitStrip::stationChosen, this,
            [this](const QString& key) { m_selection.setStation(key.toStdString()); });
    connect(&m_store, &JobStore::savedChanged, m_header, &Header::refresh);
    connect(&m_live, &Live::linksChanged, m_header, &Header::refresh);
    connect(&m_live, &Live::healthChanged, m_header, &Header::refreshChips);
    connect(&m_live.recorder(), &Recorder::changed, m_header, &Header::refreshChips);
}

/// The views that are shown are shown again, what is being written goes on, and the keys stay where they were. What
/// stood goes later: one of it may have asked for this.
void MainWindow::furnishAgain()
{
    QString keys;
    if (QWidget* focused = focusWidget(); focused != nullptr) {
        const QWidget* named = focused;
        while (named != nullptr && named->objectName().isEmpty()) // a field of many, in what bears the name
            named = named->parentWidget();
        keys = named == nullptr ? QString() : named->objectName();
        focused->clearFocus(); // a field takes what is typed in it, as when it is left
    }
    const bool help = !m_help->isHidden(), findings = !m_drawer->isHidden();
    QWidget *aside = std::exchange(m_aside, nullptr), *oldFrame = m_frame;
    PartPage* part = std::exchange(m_part, nullptr);
    Sheet* sheet = std::exchange(m_sheet, nullptr);
    PreferencesPage* preferring = std::exchange(m_preferring, nullptr);
    PracticePage* practising = std::exchange(m_practising, nullptr);
    LinksPage* links = std::exchange(m_links, nullptr);
    const bool said = !m_notices->isHidden();
    m_notices->setParent(this); // it stays
    dropPages();
    for (QWidget* gone : std::initializer_list<QWidget*>{oldFrame, m_drawer, std::exchange(m_finder, nullptr)})
        if (gone != nullptr) {
            gone->hide();
            gone->setParent(nullptr);
            gone->deleteLater();
        }
    furnish();
    m_notices->setVisible(said);
    share();
    m_helpOn.clear();
    m_help->setVisible(help && frameWidth() >= look::kNarrow);
    refresh();
    if (part != nullptr) {
        makePart();
        m_part->takeOver(*part);
    }
    if (aside != nullptr && aside == part)
        showAside(m_part);
    else if (aside != nullptr && aside == links)
        showLinks();
    else if (aside != nullptr && aside == preferring)
        showPreferences();
    else if (aside != nullptr && aside == practising)
        showPractice();
    else if (aside != nullptr && aside == sheet) {
        showSheet();
        m_sheet->showAgain(*sheet);
    }
    if (findings)
        toggleFindings();
    if (auto* again = keys.isEmpty() ? nullptr : m_frame->findChild<QWidget*>(keys); again != nullptr)
        again->setFocus();
}

/// Pages are made again when they are asked for, on the view they show now.
void MainWindow::dropPages()
{
    for (size_t i = 0; i < m_pages.size(); ++i)
        if (StagePage* gone = std::exchange(m_pages[i], nullptr)) {
            m_views[i] = gone->view();
            m_stages->removeWidget(gone);
            gone->hide();
            gone->setParent(nullptr);
            gone->deleteLater();
        }
}

/// Whether the circuit list has to go: the Board has the circuits as well, and the strip says which is shown.
bool MainWindow::isTight() const
{
    return width() < look::kLeastFrameWide;
}

int MainWindow::frameWidth() const
{
    return std::max(width(), m_frame->widget()->minimumWidth());
}

/// Who has how much of the window.
void MainWindow::share()
{
    const bool narrow = frameWidth() < look::kNarrow;
    m_rail->setFixedWidth(isTight() ? look::kTightRail : narrow ? look::kNarrowRail : look::kRail);
    m_list->setFixedWidth(narrow ? look::kNarrowList : look::kList);
    if (narrow)
        m_help->hide();
    makeRoom();
    if (m_drawer->isVisible())
        m_drawer->place();
}

} // namespace vicegrip::app
