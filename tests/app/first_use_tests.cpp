// A new project, its platforms, and everything fitted at once.
#include "app/pages/platforms_page.h"
#include "desk.h"

#include <QLineEdit>

using namespace desk;

TEST_CASE("a new project asks for its platforms, found by typing, and sets up what was dropped in") {
    TemporaryFolder folder;
    QSettings().clear();
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    writeAllOrNone(folder.path(), formats::writeObj(shapes::box({0, 0, 0}, {1, 1, 1}), {"crate"}, nullptr));
    drop(window, {QString::fromStdString((folder / "crate.obj").string())});
    const auto card = [&](const char* id) {
        return window.findChild<QAbstractButton*>(QString("platform-") + id);
    };
    REQUIRE(waitFor([&] { return card("hearthboard") && card("hearthboard")->isVisible(); }));
    auto* take = window.findChild<QPushButton*>("takePlatforms");
    CHECK_FALSE(take->isEnabled());
    auto* filter = window.findChild<QLineEdit*>("platformFilter");
    filter->setText("truck");
    CHECK(card("mudhaul")->isVisible());
    CHECK_FALSE(card("hearthboard")->isVisible());
    QTest::keyClick(filter, Qt::Key_Return); // the only one left
    CHECK(card("mudhaul")->isChecked());
    filter->setText("zeppelins of cheese");
    CHECK(waitFor([&] { return showsText(window, "Clear the field"); }));
    filter->clear();
    card("playmeadow")->setFocus();
    QTest::keyClick(card("playmeadow"), Qt::Key_Space);
    CHECK(take->text().contains("2 platforms"));
    QTest::mouseClick(take, Qt::LeftButton);
    CHECK(window.session().project().platforms == std::vector<std::string>{"mudhaul", "playmeadow"});
    REQUIRE(window.session().project().pieces.size() == 1);
    CHECK(window.session().project().pieces[0].on("mudhaul"));
    CHECK(window.loom().isVisible());
    REQUIRE(waitFor([&] { return window.session().jobs().running().isEmpty(); }));
    // The next project begins with what was chosen last.
    window.session().close();
    window.newProject();
    CHECK(card("mudhaul")->isChecked());
    CHECK_FALSE(card("lampwright")->isChecked());
    window.session().close();
}

TEST_CASE("a project without platforms says so on the Loom") {
    Desk desk(20, true);
    desk.session().edit("none", [](project::Project& p) { p.platforms.clear(); });
    desk.click("choosePlatforms");
    CHECK(desk.find<QAbstractButton>("platform-hearthboard"));
    desk.click("leavePlatforms");
    CHECK(desk.window->loom().isVisible());
    CHECK(desk.session().project().platforms.empty());
    desk.session().undo().undo();
}

TEST_CASE("everything that does not fit is fitted at once, with one undo and a summary") {
    Desk desk; // the ball hangs in the air
    desk.session().edit("yard", [](project::Project& p) {
        p.platforms = {"hearthboard", "mudhaul"};
        p.pieces[0].setUpOn("mudhaul");
    });
    REQUIRE(desk.idle());
    const auto fits = [&](const char* platform) {
        const auto& state = desk.session().state("Ball", platform);
        return state.kind == CrossingState::Kind::Ready && state.report.fits();
    };
    REQUIRE_FALSE(fits("hearthboard"));
    REQUIRE_FALSE(fits("mudhaul"));
    CHECK(waitFor([&] { return showsText(*desk.window, "2 of 2 do not fit"); }));
    const int before = desk.session().undo().count();
    desk.click("suggestAll");
    REQUIRE(waitFor([&] { return fits("hearthboard"); }));
    CHECK(desk.session().undo().count() == before + 1);
    CHECK(waitFor([&] { return showsText(*desk.window, "1 of 2 fit now"); }));
    CHECK(showsText(*desk.window, "Which way does its front point?")); // a ball does not say it
    REQUIRE(desk.idle());
    CHECK(showsText(*desk.window, "1 of 2 fit now")); // stays while what follows is worked out
    desk.session().undo().undo();
    REQUIRE(waitFor([&] { return desk.session().jobs().running().isEmpty() && !fits("hearthboard"); }));
    CHECK(desk.piece().on("hearthboard")->recipe.empty());
}

TEST_CASE("Deliver says what will be written, or what stands in the way, before anything is built") {
    Desk desk(60, true);
    desk.open();
    desk.window->workbench().setStage(steps::Stage::Deliver);
    CHECK(waitFor([&] { return showsText(*desk.window, "Will be written"); }));
    CHECK(waitFor([&] { return showsText(*desk.window, "ball.table.json"); }));
    CHECK_FALSE(std::filesystem::exists(desk.folder / "delivered"));
    desk.session().editCrossing("far too large", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"size", true, steps::makeStep("size", {{"measure", 9.0}})->params()});
    });
    CHECK(waitFor([&] { return showsText(*desk.window, "Stands in the way"); }));
    desk.click("inTheWay-height");
    CHECK(waitFor(
        [&] { return showsText(*desk.window, "Add \"Size\"") || desk.find<QPushButton>("mend-size"); }));
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}
