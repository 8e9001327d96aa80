// Suggested plans in the window: beside the piece, with their result in sight, asking what only a person can
// know; and what an empty stage offers.
#include "desk.h"

#include "app/widgets/fit_strip.h"

#include "core/geometry/world.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QWheelEvent>

using namespace zl;
using namespace zl::app;
using namespace desk;

TEST_CASE("one undo takes a suggested fit back, and a line can be left out") {
    Desk desk;
    desk.open();
    QTest::keyClick(desk.window.get(), Qt::Key_G, Qt::ControlModifier);
    REQUIRE(waitFor([&] { return desk.window->workbench().isOffering(); }));
    auto* panel = desk.find<PlanPanel>("planPanel");
    const auto ticks = panel->findChildren<QCheckBox*>();
    REQUIRE(ticks.size() >= 2);
    auto* promise = panel->findChild<QLabel*>("planPromise");
    auto* origin = panel->findChild<QCheckBox*>("plan-origin");
    REQUIRE((promise && origin));
    CHECK(promise->text().contains("every limit hold"));
    QTest::keyClick(origin, Qt::Key_Space);
    CHECK(promise->text().contains("limits stay broken"));
    QTest::keyClick(origin, Qt::Key_Space);
    CHECK(promise->text().contains("every limit hold"));
    QTest::keyClick(ticks.front(), Qt::Key_Space);
    CHECK(panel->chosen().size() == std::size_t(ticks.size()) - 1);
    desk.click("planApply");
    CHECK(desk.piece().on("hearthboard")->recipe.size() == std::size_t(ticks.size()) - 1);
    desk.window->activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(desk.window.get()));
    QTest::keyClick(desk.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(desk.piece().on("hearthboard")->recipe.empty());
    QTest::keyClick(desk.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(desk.piece().on("hearthboard")->recipe.size() == std::size_t(ticks.size()) - 1);
    desk.session().undo().undo();
}

TEST_CASE("a plan stands beside the piece and shows its result before it is taken") {
    Desk desk;
    desk.open();
    const auto gauge = [&](const char* id) {
        return desk.find<Gauge>(QString("gauge-%1").arg(id))->accessibleName();
    };
    const QString before = gauge("triangles");
    ModelView& view = desk.window->workbench().view();
    const auto plain = view.grabFramebuffer();
    desk.click("suggest");
    REQUIRE(waitFor([&] { return gauge("origin-under-foot").contains(", now centred"); }));
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    for (QDialog* dialog : desk.window->findChildren<QDialog*>()) CHECK_FALSE(dialog->isVisible());
    CHECK(desk.find<PlanPanel>("planPanel")->isVisible());
    CHECK(view.grabFramebuffer() != plain);                              // it stands on the floor there
    CHECK(desk.piece().on("hearthboard")->recipe.empty());               // and nothing is added yet
    QTest::keyClick(desk.find<QCheckBox>("plan-origin"), Qt::Key_Space); // without that line it is off again
    REQUIRE(waitFor([&] { return !gauge("origin-under-foot").contains("now"); }));
    SECTION("leaving it puts everything back") {
        desk.click("planLeave");
        REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
        CHECK(gauge("triangles") == before);
        CHECK(desk.piece().on("hearthboard")->recipe.empty());
        CHECK_FALSE(desk.session().undo().canUndo());
    }
    SECTION("Escape leaves it, and so does going to a stage") {
        if (GENERATE(true, false))
            QTest::keyClick(desk.find<PlanPanel>("planPanel"), Qt::Key_Escape);
        else
            QTest::keyClick(desk.window.get(), Qt::Key_3, Qt::ControlModifier);
        CHECK(waitFor([&] { return !desk.window->workbench().isOffering(); }));
        REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
        CHECK(gauge("triangles") == before);
    }
    SECTION("when the piece changes meanwhile, it is left") {
        desk.session().editCrossing("test", "Ball", "hearthboard", [](project::Crossing& crossing) {
            crossing.recipe = recipe::fromJson({{{"step", "stand-on-floor"}}});
        });
        CHECK(waitFor([&] { return !desk.window->workbench().isOffering(); }));
        REQUIRE(desk.idle());
        while (desk.session().undo().canUndo()) desk.session().undo().undo();
    }
}

namespace {

/// Nothing says which way the ball faces there, nor how large it is.
void suggestOnMudhaul(Desk& desk) {
    desk.session().edit("test", [](project::Project& project) { project.platforms.push_back("mudhaul"); });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Ball", "mudhaul");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.click("suggest");
    REQUIRE(waitFor([&] { return desk.window->workbench().isOffering(); }));
}

} // namespace

TEST_CASE("a plan asks what only a person can know, and follows the answer at once") {
    Desk desk;
    suggestOnMudhaul(desk);
    CHECK(showsText(*desk.window, "Which way does its front point?"));
    CHECK(showsText(*desk.window, "One thing only you can know"));
    CHECK(waitFor([&] { return desk.find<QToolButton>("front-+z")->hasFocus(); }));
    QTest::mouseClick(desk.find<QToolButton>("front-+x"), Qt::LeftButton);
    REQUIRE(waitFor([&] { return showsText(*desk.window, "These steps make every limit hold"); }));
    CHECK(desk.find<QToolButton>("front-+x")->isChecked()); // and can be answered otherwise
    // What was answered stays under the hand: neither the keyboard nor the panel has gone elsewhere.
    CHECK(desk.find<QToolButton>("front-+x")->hasFocus());
    QWidget* scrolled = desk.find<PlanPanel>("planPanel");
    while (scrolled && !qobject_cast<QScrollArea*>(scrolled)) scrolled = scrolled->parentWidget();
    REQUIRE(scrolled);
    const auto* bar = qobject_cast<QScrollArea*>(scrolled)->verticalScrollBar();
    REQUIRE(bar->maximum() > 0);
    CHECK(bar->value() == 0);
    QTest::mouseClick(desk.find<QToolButton>("front--z"), Qt::LeftButton);
    REQUIRE(waitFor([&] { // the plan was made anew
        const auto chosen = desk.find<PlanPanel>("planPanel")->chosen();
        const auto heading = std::ranges::find(chosen, std::string("heading"), &recipe::Entry::step);
        return heading != chosen.end() && heading->params["front"] == "-z";
    }));
    desk.click("planApply");
    REQUIRE(desk.idle());
    const auto& recipe = desk.piece().on("mudhaul")->recipe;
    const auto heading = std::ranges::find(recipe, std::string("heading"), &recipe::Entry::step);
    REQUIRE(heading != recipe.end());
    CHECK(heading->params["front"] == "-z");
    CHECK(std::ranges::count(recipe, std::string("heading"), &recipe::Entry::step) == 1);
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("a plan asks what a thing is made of, and takes the kind that is chosen") {
    Desk desk;
    desk.session().edit("test", [](project::Project& project) { project.platforms.push_back("culvert"); });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Ball", "culvert");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.click("suggest");
    REQUIRE(waitFor([&] { return desk.window->workbench().isOffering(); }));
    CHECK(showsText(*desk.window, "What is it made of?"));
    auto* kinds = desk.find<QComboBox>("surfaceKind");
    REQUIRE(kinds);
    CHECK(kinds->currentIndex() == -1); // nothing is taken for granted
    CHECK(kinds->count() == 6);
    kinds->setFocus();
    QTest::keyClicks(kinds, "st"); // stone, by typing
    const auto said = [&] {
        const auto chosen = desk.find<PlanPanel>("planPanel")->chosen();
        const auto step = std::ranges::find(chosen, std::string("surface-kind"), &recipe::Entry::step);
        return step == chosen.end() ? std::string() : step->params["kind"].get<std::string>();
    };
    REQUIRE(waitFor([&] { return said() == "stone"; }));
    CHECK(desk.find<QComboBox>("surfaceKind")->currentData() == "stone");
    desk.click("planLeave");
}

TEST_CASE("a plan asks how large a thing is; two points are clicked and the length between them typed") {
    Desk desk;
    suggestOnMudhaul(desk);
    CHECK(showsText(*desk.window, "How large is it really?"));
    QTest::mouseClick(desk.find<QToolButton>("front-+x"), Qt::LeftButton);
    REQUIRE(waitFor([&] { return showsText(*desk.window, "These steps make every limit hold"); }));
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    CHECK(showsText(*desk.window, "dm wide, which Mudhaul allows"));
    auto& view = desk.window->workbench().view();
    auto* by = desk.find<QComboBox>("sizeBy");
    CHECK(by->currentData() == "width");
    by->setCurrentIndex(by->findData("points"));
    CHECK(view.tool() == &desk.window->workbench().measuring());
    CHECK(showsText(*desk.window, "Click two points on the piece"));
    // The poles of the ball as it stands in the view, turned and enlarged by the plan.
    const auto bounds = geometry::worldBounds(view.scene()->model);
    const auto spot = [&](double up) {
        auto at = bounds.centre();
        at.y += up * bounds.size().y;
        return view.onScreen(at).toPoint();
    };
    QTest::mouseClick(&view, Qt::LeftButton, {}, spot(0.3));
    QTest::mouseClick(&view, Qt::LeftButton, {}, spot(-0.2));
    REQUIRE(desk.window->workbench().measuring().measured());
    const auto [a, b] = *desk.window->workbench().measuring().measured();
    const double share = glm::distance(a, b) / bounds.size().y; // of the ball's height
    auto* length = desk.find<QDoubleSpinBox>("sizeMeasure");
    CHECK(waitFor([&] { return length->hasFocus(); }));
    length->selectAll();
    QTest::keyClicks(length, "1.3 m");
    QTest::keyClick(length, Qt::Key_Return);
    const auto answer = [&]() -> const recipe::Entry* {
        static recipe::Recipe chosen;
        chosen = desk.find<PlanPanel>("planPanel")->chosen();
        const auto found = std::ranges::find(chosen, std::string("size"), &recipe::Entry::step);
        return found == chosen.end() || found->params["by"] != "points" ? nullptr : &*found;
    };
    REQUIRE(waitFor([&] { return answer() != nullptr; }));
    CHECK(answer()->params["measure"].get<double>() == Approx(1.3));
    desk.click("planApply");
    REQUIRE(desk.idle());
    const auto& state = desk.session().state("Ball", "mudhaul");
    CHECK(geometry::worldBounds(state.evaluation.model).size().y == Approx(1.3 / share).epsilon(0.01));
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("an empty stage offers its steps, those first that mend what is broken") {
    Desk desk;
    desk.open();
    QTest::keyClick(desk.window.get(), Qt::Key_2, Qt::ControlModifier); // Place
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    const auto offers = [&] {
        std::vector<QString> names;
        for (auto* frame : desk.window->findChildren<QFrame*>())
            if (frame->isVisible() && frame->objectName().startsWith("offer-"))
                names.push_back(frame->objectName());
        return names;
    };
    REQUIRE(waitFor([&] { return offers().size() >= 6; }));
    CHECK(showsText(*desk.window, "Mends what is broken: Floor"));
    auto* origin = desk.find<QFrame>("offer-origin"); // floats, and stands aside
    auto* turn = desk.find<QFrame>("offer-turn");
    CHECK(origin->y() < turn->y());
    QTest::mouseClick(origin, Qt::LeftButton); // its numbers are worked out first
    REQUIRE(waitFor([&] { return desk.piece().on("hearthboard")->recipe.size() == 1; }));
    CHECK(desk.piece().on("hearthboard")->recipe[0].step == "origin");
    CHECK(waitFor([&] { return offers().empty(); })); // its card is there in their place
    desk.session().undo().undo();
    REQUIRE(waitFor([&] { return offers().size() >= 6; }));
    QTest::keyClick(desk.find<QFrame>("offer-turn"), Qt::Key_Return);
    REQUIRE(waitFor([&] { return desk.piece().on("hearthboard")->recipe.size() == 1; }));
    CHECK(desk.piece().on("hearthboard")->recipe[0].step == "turn");
    desk.session().undo().undo();
}

TEST_CASE("a piece that changes its size by far comes back into sight") {
    Desk desk;
    desk.open();
    ModelView& view = desk.window->workbench().view();
    const double before = view.camera().distance;
    desk.session().editCrossing("test", "Ball", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe = recipe::fromJson(
            {{{"step", "size"}, {"params", {{"by", "height"}, {"measure", 32.0}}}}}); // a thousand times
    });
    REQUIRE(waitFor(
        [&] { return desk.window->workbench().isSettled() && view.camera().distance > 300 * before; }));
    // A small change leaves the camera where the hand put it.
    const double now = view.camera().distance;
    desk.session().editCrossing("test", "Ball", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe =
            recipe::fromJson({{{"step", "size"}, {"params", {{"by", "height"}, {"measure", 30.0}}}}});
    });
    REQUIRE(desk.idle());
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    CHECK(view.camera().distance == now);
    // One tap brings the whole back after the hand went astray.
    QWheelEvent away({400, 300}, view.mapToGlobal(QPointF(400, 300)), {}, {0, -2400}, Qt::NoButton,
                     Qt::NoModifier, Qt::NoScrollPhase, false);
    QApplication::sendEvent(&view, &away);
    CHECK(view.camera().distance > 2 * now);
    desk.click("mode-whole");
    CHECK(view.camera().distance < 1.5 * now);
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}
