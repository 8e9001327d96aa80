// Chains, yardsticks, the stack, headings, typed units and building everything, by mouse and keys.
#include "desk.h"

#include "app/pages/build_all_dialog.h"
#include "app/pages/chain_dialog.h"
#include "app/widgets/chain_table.h"

#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// A desk whose ball is also on the level platform, fitting there, with a yardstick of 1 m.
struct LevelDesk : Desk {
    LevelDesk() : Desk(60, true) {
        Model gauge = shapes::box({0, 0, 0}, {0.5, 1, 0.5});
        writeAllOrNone(folder.path(), formats::writeObj(gauge, {"gauge"}, nullptr));
        session().edit("set up", [](project::Project& p) {
            p.platforms.push_back("lampwright");
            p.pieces[0].crossings.push_back(
                {"lampwright",
                 recipe::fromJson(
                     {{{"step", "size"}, {"params", {{"by", "height"}, {"measure", 1.0}}}},
                      {{"step", "reduce-triangles"}, {"params", {{"goal", "number"}, {"number", 900}}}},
                      {{"step", "origin"}}})});
            p.yardsticks = {{"Gauge", "gauge.obj", "m", "y"}};
        });
        REQUIRE(idle());
        window->showWorkbench("Ball", "lampwright");
        REQUIRE(waitFor([&] { return window->workbench().isVisible() && window->workbench().isSettled(); }));
        REQUIRE(level().kind == CrossingState::Kind::Ready);
    }
    ~LevelDesk() {
        while (session().undo().canUndo()) session().undo().undo();
    }
    const CrossingState& level() { return session().state("Ball", "lampwright"); }
};

} // namespace

TEST_CASE("Deliver shows the chain as expected, then as measured, and says the importer's factor") {
    LevelDesk desk;
    INFO(desk.level().report.brokenMusts());
    desk.window->workbench().setStage(steps::Stage::Deliver);
    CHECK(waitFor([&] { return showsText(*desk.window, "as expected"); }));
    CHECK(waitFor([&] { return showsText(*desk.window, "Lampwright 3 multiplies by 40"); }));
    CHECK(desk.find<ChainTable>("chainTable")->findChildren<QLabel*>().size() > 10);
    desk.click("runChain");
    CHECK(waitFor([&] { return showsText(*desk.window, "as measured"); }));
    const auto folder = desk.folder / "delivered/lampwright/ball-chain";
    for (const char* leg : {"1-glb", "2-dae", "3-level"}) CHECK(std::filesystem::is_directory(folder / leg));
    desk.click("compareChains");
    auto* dialog = desk.window->findChild<ChainDialog*>();
    REQUIRE(waitFor([&] { return (dialog = desk.window->findChild<ChainDialog*>()) != nullptr; }));
    auto* other = desk.find<QLineEdit>("chainOther");
    other->setFocus();
    other->selectAll();
    QTest::keyClicks(other, "stl, wax");
    QTest::keyClick(other, Qt::Key_Return);
    CHECK(waitFor([&] { return showsText(*dialog, "there is no format \"wax\""); }));
    other->setFocus();
    other->selectAll();
    QTest::keyClicks(other, "stl");
    QTest::keyClick(other, Qt::Key_Return);
    desk.click("chainRun");
    REQUIRE(desk.idle());
    CHECK(waitFor([&] { return showsText(*dialog, "Measured"); }));
    CHECK(waitFor([&] { return showsText(*dialog, "put back"); }));
    desk.click("chainDone");
}

TEST_CASE("a yardstick and a stack stand beside the piece, one at a time") {
    LevelDesk desk;
    ModelView& view = desk.window->workbench().view();
    REQUIRE(waitFor([&] { return view.isResting(); }));
    const auto plain = view.grabFramebuffer();
    desk.click("mode-stack");
    REQUIRE(waitFor([&] { return view.isResting(); }));
    const auto stacked = view.grabFramebuffer();
    CHECK(stacked != plain);
    desk.click("mode-yardstick");
    REQUIRE(desk.idle());
    CHECK_FALSE(desk.find<QToolButton>("mode-stack")->isChecked());
    REQUIRE(waitFor([&] { return view.isResting(); }));
    CHECK(view.grabFramebuffer() != stacked);
    // Matching it is one step.
    desk.window->workbench().addStep("match-yardstick");
    REQUIRE(desk.idle());
    CHECK(geometry::worldBounds(desk.level().evaluation.model).size().y == Approx(1.0).epsilon(1e-3));
    QTest::keyClick(desk.window.get(), Qt::Key_1, Qt::ControlModifier);
    CHECK(waitFor([&] { return showsText(*desk.window, "Gauge (gauge.obj)"); }));
}

TEST_CASE("lengths are typed in any unit") {
    Desk desk(60, true);
    desk.open();
    desk.window->workbench().addStep("size");
    auto* measure = desk.find<QDoubleSpinBox>("field-measure");
    const auto type = [&](const char* text) {
        auto* box = desk.find<QDoubleSpinBox>("field-measure");
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, text);
        QTest::keyClick(box, Qt::Key_Return);
        REQUIRE(desk.idle());
        return desk.piece().on("hearthboard")->recipe[0].params["measure"].get<double>();
    };
    REQUIRE(measure);
    CHECK(type("2") == Approx(0.05)); // platform units of 25 mm
    CHECK(type("40 mm") == Approx(0.04));
    CHECK(type("1.5in") == Approx(0.0381));
    CHECK(type("0.1ft") == Approx(0.03048));
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("a heading is said on Place and shown as an arrow") {
    Desk desk(60, true);
    desk.open();
    ModelView& view = desk.window->workbench().view();
    REQUIRE(waitFor([&] { return view.isResting(); }));
    const auto without = view.grabFramebuffer();
    desk.window->workbench().addStep("heading");
    REQUIRE(waitFor(
        [&] { return desk.state().evaluation.model.headingKnown && desk.window->workbench().isSettled(); }));
    CHECK(view.grabFramebuffer() != without);
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("a selected part is sized, and names are previewed before they are delivered") {
    LevelDesk desk;
    desk.selectNodes({0});
    CHECK(waitFor([&] { return showsText(*desk.window, "ball"); }));
    desk.click("sizeByPart");
    REQUIRE(desk.idle());
    const auto& recipe = desk.piece().on("lampwright")->recipe;
    const auto entry = std::ranges::find(recipe.rbegin(), recipe.rend(), "size", &recipe::Entry::step);
    REQUIRE(entry != recipe.rend());
    CHECK(entry->params["part"] == nlohmann::json::array({"ball"}));
    desk.window->workbench().addStep("rename-parts");
    desk.session().editCrossing("name", "Ball", "lampwright", [](project::Crossing& crossing) {
        for (auto& e : crossing.recipe)
            if (e.step == "rename-parts") e.params["become"] = "Float {n}";
    });
    REQUIRE(desk.idle());
    CHECK(waitFor([&] { return showsText(*desk.window, QString::fromUtf8("ball → float_1")); }));
}

TEST_CASE("building all that fit ends in one summary") {
    LevelDesk desk;
    desk.session().editCrossing("name", "Ball", "lampwright", [](project::Crossing& crossing) {
        crossing.recipe.push_back({"rename-parts", true, steps::makeStep("rename-parts")->params()});
    });
    REQUIRE(desk.idle());
    QTest::keyClick(desk.window.get(), Qt::Key_0, Qt::ControlModifier);
    desk.click("buildAll");
    REQUIRE(waitFor([&] { return desk.window->findChild<BuildAllDialog*>() != nullptr; }));
    auto* dialog = desk.window->findChild<BuildAllDialog*>();
    CHECK(waitFor([&] { return showsText(*dialog, "2 built, 0 unchanged, 0 left out"); }));
    CHECK(std::filesystem::exists(desk.folder / "delivered/lampwright/ball/ball.lamplevel"));
    desk.click("buildAllDone");
    REQUIRE(waitFor([&] { return desk.window->findChild<BuildAllDialog*>() == nullptr; }));
    desk.window->activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(desk.window.get()));
    QTest::keyClick(desk.window.get(), Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(waitFor([&] { return desk.window->findChild<BuildAllDialog*>() != nullptr; }));
    CHECK(waitFor(
        [&] { return showsText(*desk.window->findChild<BuildAllDialog*>(), "0 built, 2 unchanged"); }));
    desk.click("buildAllDone");
}

TEST_CASE("a prop is tried in the level, stacked and dropped") {
    LevelDesk desk;
    desk.session().editCrossing("name", "Ball", "lampwright", [](project::Crossing& crossing) {
        crossing.recipe.push_back({"rename-parts", true, steps::makeStep("rename-parts")->params()});
    });
    REQUIRE(desk.idle());
    desk.click("try");
    REQUIRE(waitFor([&] { return desk.window->tryout().isVisible() && desk.window->tryout().isReady(); }));
    CHECK(waitFor([&] { return showsText(*desk.window, "Accepted by the level"); }));
    REQUIRE(desk.window->tryout().view().arena());
    desk.click("try-stack");
    CHECK(desk.window->tryout().view().world()->count() == 3);
    desk.click("try-drop");
    CHECK(desk.window->tryout().view().world()->count() == 1);
    desk.click("back");
    CHECK(desk.window->workbench().isVisible());
}
