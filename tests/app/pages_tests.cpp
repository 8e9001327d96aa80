// Start page, settings, Loom, steps, delivery, tryout and saving, each worked as a person would.
#include "desk.h"

#include "app/theme.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QSignalSpy>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

void choose(QComboBox* box, int index) {
    box->setFocus();
    box->setCurrentIndex(index);
    Q_EMIT box->activated(index);
    Q_EMIT box->textActivated(box->itemText(index));
}

} // namespace

TEST_CASE("the start page begins an empty project that says what to do") {
    QSettings().clear();
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    auto* fresh = window.findChild<QPushButton*>("newProject");
    REQUIRE(fresh);
    QTest::mouseClick(fresh, Qt::LeftButton);
    CHECK(window.session().isOpen());
    auto* card = window.findChild<QAbstractButton*>("platform-hearthboard");
    REQUIRE(card);
    QTest::mouseClick(card, Qt::LeftButton);
    QTest::mouseClick(window.findChild<QPushButton*>("takePlatforms"), Qt::LeftButton);
    CHECK(window.loom().isVisible());
    CHECK(window.session().project().platforms == std::vector<std::string>{"hearthboard"});
    CHECK(waitFor([&] { return showsText(window, "Drop"); })); // an empty loom tells how to fill it
    window.session().close();
}

TEST_CASE("recent projects are offered, newest first, and open by a click") {
    Desk desk;
    const QString file = QString::fromStdString((desk.folder / "bench.zestloom").string());
    CHECK(QSettings().value("recent").toStringList().first() == file);
    QTest::keyClick(desk.window.get(), Qt::Key_W, Qt::ControlModifier);
    REQUIRE(waitFor([&] { return !desk.session().isOpen(); }));
    QPushButton* recent = nullptr;
    REQUIRE(waitFor([&] {
        for (auto* made : desk.window->findChildren<QPushButton*>())
            if (made->isVisible() && made->text().contains("bench")) recent = made;
        return recent != nullptr;
    }));
    QTest::mouseClick(recent, Qt::LeftButton);
    CHECK(waitFor([&] { return desk.session().isOpen(); }));
    CHECK(desk.session().project().name == "Bench");
    REQUIRE(desk.idle());
}

TEST_CASE("settings change the theme and the numbers, and are remembered") {
    Desk desk;
    const bool was = Theme::instance().isDusk();
    QTest::keyClick(desk.window.get(), Qt::Key_Comma, Qt::ControlModifier);
    choose(desk.find<QComboBox>("settingsTheme"), was ? 0 : 1);
    CHECK(Theme::instance().isDusk() != was);
    CHECK(QSettings().value("dusk").toBool() != was);
    choose(desk.find<QComboBox>("settingsNumbers"), 1);
    CHECK(showNumber(12345, 0) == "12345");
    choose(desk.find<QComboBox>("settingsNumbers"), 0);
    CHECK(showNumber(12345, 0) != "12345");
    choose(desk.find<QComboBox>("settingsTheme"), was ? 1 : 0);
    for (auto* dialog : desk.window->findChildren<QDialog*>()) dialog->accept();
}

TEST_CASE("the Loom says in words how each crossing stands and what to do about it") {
    Desk desk;
    auto* crossing = desk.find<CrossingButton>("crossing-Ball-hearthboard");
    QTest::mouseClick(crossing, Qt::LeftButton);
    CHECK(crossing->accessibleName().contains("Ball"));
    CHECK(desk.find<QPushButton>("loomSuggest")->isEnabled());
    // The other platform has no crossing yet; a click sets it up.
    CHECK_FALSE(desk.piece().on("playmeadow"));
    QTest::mouseClick(desk.find<CrossingButton>("crossing-Ball-playmeadow"), Qt::LeftButton);
    CHECK(desk.piece().on("playmeadow"));
    REQUIRE(desk.idle());
    desk.session().undo().undo();
    CHECK_FALSE(desk.piece().on("playmeadow"));
}

TEST_CASE("steps are moved, shared with every platform and given back") {
    Desk desk;
    desk.open();
    auto& bench = desk.window->workbench();
    bench.addStep("stand-on-floor");
    bench.addStep("turn");
    const auto names = [&] {
        std::string all;
        for (const auto& entry : desk.piece().on("hearthboard")->recipe) all += entry.step + " ";
        return all;
    };
    CHECK(names() == "stand-on-floor turn ");
    const auto press = [&](const QString& tip) {
        QToolButton* wanted = nullptr;
        REQUIRE(waitFor([&] {
            for (auto* made : desk.window->findChildren<QToolButton*>())
                if (made->isVisible() && made->toolTip() == tip) wanted = made;
            return wanted != nullptr;
        }));
        QTest::mouseClick(wanted, Qt::LeftButton);
    };
    press("Run this step earlier");
    CHECK(names() == "turn stand-on-floor ");
    press("Use this step on every platform");
    CHECK(names() == "stand-on-floor ");
    REQUIRE(desk.piece().recipe.size() == 1);
    CHECK(desk.piece().recipe[0].step == "turn");
    press("Use this step on this platform only");
    CHECK(desk.piece().recipe.empty());
    CHECK(names() == "turn stand-on-floor ");
    REQUIRE(desk.idle());
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
    CHECK(names().empty());
}

TEST_CASE("building what is not allowed warns, and the credit says so") {
    Desk desk(60, true);
    desk.session().edit("permission", [](project::Project& p) {
        p.pieces[0].sources[0].permission = project::Permission::NotAllowed;
    });
    desk.open();
    QTest::keyClick(desk.window.get(), Qt::Key_B, Qt::ControlModifier);
    const auto description = desk.folder / "delivered/hearthboard/ball/ball.table.json";
    REQUIRE(waitFor([&] { return std::filesystem::exists(description); }));
    CHECK(readText(description).find("publishing is not allowed") != std::string::npos);
    REQUIRE(desk.idle());
    QTest::keyClick(desk.window.get(), Qt::Key_7, Qt::ControlModifier);
    CHECK(waitFor([&] { return showsText(*desk.window, "not allowed"); }));
    CHECK(waitFor([&] { return showsText(*desk.window, "ball.obj"); })); // what was written is listed
    desk.session().undo().undo();
}

TEST_CASE("the finish chosen on Deliver goes into the description") {
    Desk desk(60, true);
    desk.open();
    desk.window->workbench().setStage(steps::Stage::Deliver);
    choose(desk.find<QComboBox>("field-finish"), 2);
    CHECK(desk.piece().on("hearthboard")->deliver["finish"] == "gloss");
    REQUIRE(desk.idle());
    desk.click("build");
    const auto description = desk.folder / "delivered/hearthboard/ball/ball.table.json";
    REQUIRE(waitFor([&] { return std::filesystem::exists(description); }));
    CHECK(readText(description).find("\"gloss\"") != std::string::npos);
    REQUIRE(desk.idle());
    desk.session().undo().undo();
}

TEST_CASE("a figure is picked up with the mouse and let go") {
    Desk desk(60, true);
    desk.open();
    QTest::keyClick(desk.window.get(), Qt::Key_F5);
    REQUIRE(waitFor([&] { return desk.window->tryout().isVisible() && desk.window->tryout().isReady(); }));
    TryoutView& view = desk.window->tryout().view();
    REQUIRE(view.world());
    desk.click("try-drop");
    REQUIRE(waitFor([&] { return view.world()->atRest(); }));
    CHECK(view.world()->count() == 1);
    desk.click("try-stack");
    CHECK(view.world()->count() == 2);
    REQUIRE(waitFor([&] { return view.world()->atRest(); }));
    desk.click("try-base");
    REQUIRE(waitFor([&] { return view.world()->atRest(); }));
    // The pointer at the middle of the view meets one of the two figures that stand there.
    bool held = false;
    for (int x = view.width() / 5; x < view.width() * 4 / 5 && !held; x += 12) {
        QTest::mousePress(&view, Qt::LeftButton, {}, {x, view.height() / 2});
        held = view.world()->holding();
        if (!held) QTest::mouseRelease(&view, Qt::LeftButton, {}, {x, view.height() / 2});
    }
    REQUIRE(held);
    const auto height = [&] {
        return std::max(view.world()->pose(0).matrix[3].y, view.world()->pose(1).matrix[3].y);
    };
    CHECK(waitFor([&] { return height() > 0.2f; })); // it is carried above the table
    QTest::mouseRelease(&view, Qt::LeftButton, {}, {view.width() / 2, view.height() / 2});
    CHECK_FALSE(view.world()->holding());
    CHECK(waitFor([&] { return view.world()->atRest(); }));
    QTest::keyClick(&view, Qt::Key_Escape);
    CHECK(waitFor([&] { return desk.window->workbench().isVisible(); }));
}

TEST_CASE("saving writes the project and clears the mark of unsaved work") {
    Desk desk;
    desk.session().edit("note", [](project::Project& p) { p.pieces[0].sources[0].author = "Mira Quill"; });
    CHECK(desk.window->isWindowModified());
    QTest::keyClick(desk.window.get(), Qt::Key_S, Qt::ControlModifier);
    CHECK_FALSE(desk.window->isWindowModified());
    CHECK(project::load(desk.folder / "bench.zestloom").pieces[0].sources[0].author == "Mira Quill");
    CHECK_FALSE(std::filesystem::exists(project::autosavePath(desk.folder / "bench.zestloom")));
}

TEST_CASE("the find box adds steps and goes to platforms that are not on the Loom") {
    Desk desk;
    desk.open();
    QTest::keyClick(desk.window.get(), Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(desk.find<QLineEdit>("findEdit"), "add collider: cyl");
    QTest::keyClick(desk.find<QLineEdit>("findEdit"), Qt::Key_Return);
    REQUIRE(waitFor([&] { return !desk.piece().on("hearthboard")->recipe.empty(); }));
    CHECK(desk.piece().on("hearthboard")->recipe[0].step == "collider-cylinder");
    REQUIRE(desk.idle());
    desk.session().undo().undo();
}

TEST_CASE("platforms are shown and hidden from the Loom's head, and what a piece has there is kept") {
    Desk desk;
    const auto toggle = [&](const QString& id) {
        desk.click("platformChooser");
        desk.click("platform-" + id);
        desk.click("takePlatforms");
        REQUIRE(desk.idle());
    };
    toggle("mudhaul");
    CHECK(desk.session().project().platforms ==
          std::vector<std::string>{"hearthboard", "playmeadow", "mudhaul"});
    CHECK(desk.find<CrossingButton>("crossing-Ball-mudhaul"));
    toggle("hearthboard");
    CHECK(desk.session().project().platforms == std::vector<std::string>{"playmeadow", "mudhaul"});
    CHECK(desk.piece().on("hearthboard"));
    CHECK(waitFor([&] { return showsText(*desk.window, "Ball on Playmeadow"); }));
    desk.session().undo().undo();
    CHECK(desk.find<CrossingButton>("crossing-Ball-hearthboard"));
    desk.session().undo().undo();
}

TEST_CASE("seven platforms have room at the smallest window, and more can be scrolled to") {
    Desk desk;
    desk.window->resize(1100, 700);
    // The bar of the area that holds the crossings, once every column is there and laid out.
    const auto columns = [&](const std::vector<std::string>& ids) {
        desk.session().edit("columns", [&](project::Project& p) { p.platforms = ids; });
        QWidget* table =
            desk.find<CrossingButton>("crossing-Ball-" + QString::fromStdString(ids.back()))->parentWidget();
        REQUIRE(waitFor([&] { return table->width() >= table->minimumSizeHint().width(); }));
        for (QWidget* up = table; up; up = up->parentWidget())
            if (auto* area = qobject_cast<QScrollArea*>(up)) return area->horizontalScrollBar();
        FAIL("the crossings are in no scroll area");
        return static_cast<QScrollBar*>(nullptr);
    };
    std::vector<std::string> ids;
    for (const auto& sheet : desk.session().sheets()) ids.push_back(sheet->id);
    REQUIRE(ids.size() >= 7);
    ids.resize(7);
    const auto* narrow = columns(ids);
    CHECK(narrow->maximum() == 0);
    for (int i = 0; i < 10; ++i) ids.push_back("another-" + std::to_string(i));
    const auto* wide = columns(ids);
    CHECK(waitFor([&] { return wide->maximum() > 0; }));
    desk.session().undo().undo(), desk.session().undo().undo();
}

TEST_CASE("no step's card is wider than the panel, whatever is chosen on it") {
    Desk desk(16, true);
    desk.window->resize(1100, 700);
    desk.open();
    desk.window->workbench().view().setFixedHeight(8); // hundreds of pictures that nobody looks at
    const auto* panel = desk.find<QWidget>("sidePanel");
    const auto fits = [&] {
        QTest::qWait(30); // for the new card to come
        return waitFor(
            [&] { // and for it to be laid out
                const auto* area = panel->findChild<QScrollArea*>();
                return area->widget()->minimumSizeHint().width() <= area->viewport()->width();
            },
            3000);
    };
    // All steps at once: first as they come, then each with the next of its choices, and nothing worked out.
    bool more = true;
    for (std::size_t round = 0; more; ++round) {
        more = false;
        recipe::Recipe recipe;
        for (const auto& step : steps::allSteps()) {
            recipe::Entry entry{std::string(step->info().id)};
            // Those behind blocks would work on their thousands of faces.
            entry.on = round == 0 && entry.step != "build-of-blocks";
            std::vector<std::pair<std::string_view, std::string>> choices;
            for (const auto& field : step->fields())
                for (const auto& choice : field.choices) choices.emplace_back(field.name, choice.id);
            if (round > 0 && round <= choices.size())
                entry.params[std::string(choices[round - 1].first)] = choices[round - 1].second;
            more |= round < choices.size();
            recipe.push_back(entry);
        }
        INFO("round " << round);
        desk.session().editCrossing("choose", "Ball", "hearthboard",
                                    [&](project::Crossing& c) { c.recipe = recipe; });
        REQUIRE(desk.idle());
        std::optional<steps::Stage> shown;
        for (const auto& entry : recipe) {
            INFO(entry.step << " " << entry.params.dump());
            const steps::Stage stage = steps::infoOf(entry.step).stage;
            if (shown != stage) {
                desk.window->workbench().setStage(stage);
                CHECK(fits());
            }
            shown = stage;
            const auto* card = panel->findChild<QFrame*>(QString::fromStdString("card-" + entry.step));
            REQUIRE(card);
            CHECK(card->minimumSizeHint().width() <= panel->findChild<QScrollArea*>()->viewport()->width());
        }
    }
}

TEST_CASE("long work shows itself and can be stopped") {
    Desk desk;
    std::atomic<bool> stopped{false};
    desk.session().jobs().start<int>(
        "Counting to a very large number", desk.window.get(),
        [&](const Progress& progress) {
            try {
                for (int i = 0; i < 20000; ++i) {
                    progress.report(i / 20000.0, "counting");
                    std::this_thread::sleep_for(std::chrono::milliseconds(2));
                }
            } catch (const Cancelled&) {
                stopped = true;
                throw;
            }
            return 1;
        },
        [](int) {}, [](const QString&) {});
    CHECK(waitFor([&] { return showsText(*desk.window, "Counting"); }));
    desk.click("cancelWork");
    CHECK(waitFor([&] { return stopped.load(); }));
    CHECK(desk.idle());
}

TEST_CASE("a project of 200 pieces is usable within a second while checks go on behind") {
    QSettings().clear();
    TemporaryFolder folder;
    Model ball = shapes::modelOf(shapes::sphere(40, 21, 0.016), "ball");
    project::Project project;
    project.name = "Two hundred";
    project.file = folder / "many.zestloom";
    project.platforms = {"hearthboard", "playmeadow", "lampwright"};
    for (int i = 0; i < 200; ++i) {
        const std::string name = fmt::format("piece-{:03}", i);
        writeAllOrNone(folder.path(), formats::writeStl(ball, {name}, nullptr));
        project::Piece piece;
        piece.name = name;
        piece.sources = {{name + ".stl", "Odd Fennel", "own", project::Permission::OwnWork}};
        for (const auto& id : project.platforms) piece.crossings.push_back({id, {}});
        project.pieces.push_back(piece);
    }
    project::save(project);
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    QElapsedTimer clock;
    clock.start();
    REQUIRE(window.openProject(QString::fromStdString(project.file.string())));
    const double opened = double(clock.nsecsElapsed()) / 1e6;
    QApplication::processEvents(QEventLoop::AllEvents, 20);
    // Usable: the Loom is drawn and answers a click.
    auto* crossing = window.findChild<CrossingButton*>("crossing-piece-000-hearthboard");
    REQUIRE(crossing);
    QTest::mouseClick(crossing, Qt::LeftButton);
    window.grab();
    const double milliseconds = double(clock.nsecsElapsed()) / 1e6;
    WARN("a project of 200 pieces on 3 platforms was open after " << opened << " ms and answered after "
                                                                  << milliseconds << " ms");
    CHECK(milliseconds <
          3000); // three times what is wanted, for busy machines; docs/performance.md has the figure
    CHECK_FALSE(window.session().jobs().running().isEmpty()); // checks arrive in the background
    CHECK(waitFor(
        [&] { return window.session().state("piece-199", "lampwright").kind == CrossingState::Kind::Ready; },
        120000));
    window.session().close();
}

TEST_CASE("a Loom of many platforms and long names keeps the names in sight and its words whole") {
    Desk desk;
    desk.session().edit("test", [](project::Project& project) {
        project.pieces[0].name = "Gezeitenglockenturmaufhängungsnachbildung";
        for (int i = 0; i < 15; ++i) project.platforms.push_back("unknown-" + std::to_string(i));
    });
    REQUIRE(desk.idle());
    auto* area = desk.window->loom().findChild<QScrollArea*>();
    QTest::qWait(100);
    auto* bar = area->horizontalScrollBar();
    REQUIRE(bar->maximum() > 0);
    const auto names = desk.window->loom().findChildren<QWidget*>("loomName");
    REQUIRE(names.size() == 2); // the corner, and one row
    const auto left = [&](QWidget* widget) { return widget->mapTo(area->viewport(), QPoint(0, 0)).x(); };
    for (const int at : {0, bar->maximum() / 2, bar->maximum()}) {
        bar->setValue(at);
        QTest::qWait(20);
        for (QWidget* name : names) {
            CHECK(left(name) == 0);
            const QPoint middle = name->mapTo(desk.window.get(), name->rect().center());
            QWidget* top = desk.window->childAt(middle);
            CHECK((top == name || name->isAncestorOf(top))); // nothing lies over it
        }
    }
    // Beside it the panel's words end where the panel does.
    for (auto* label : desk.window->loom().findChildren<QLabel*>())
        if (label->isVisible() && label->wordWrap()) CHECK(label->minimumSizeHint().width() <= 240);
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}
