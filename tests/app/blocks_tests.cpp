// Blocks in the window: a model becomes a build, is edited by hand in the view, undone, cut away, saved.
#include "desk.h"

#include "core/model/block_build.h"
#include "core/project/blocks_document.h"

#include <QComboBox>
#include <QSlider>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// A box 5 blocks wide, 4 high and 8 long, and built.
struct Yard : Desk {
    WorkbenchPage& page;
    Yard() : page(open(shapes::box({-0.625, 0, -1}, {0.625, 1, 1}), "raft", "hullyard")) {
        page.setStage(steps::Stage::Shape);
        session().editCrossing("build", "Raft", "hullyard", [](project::Crossing& crossing) {
            recipe::Entry entry{
                "build-of-blocks", true, {{"by", "factor"}, {"factor", 1}, {"inside", "full"}}};
            entry.params = steps::makeStep(entry.step, entry.params)->params();
            crossing.recipe.push_back(entry);
        });
        REQUIRE(settled());
        REQUIRE(hull());
        REQUIRE(hull()->build.count() == 160);
        page.view().lookFrom(ModelView::From::Above);
        REQUIRE(settled());
    }
    bool settled() {
        return idle() && waitFor([&] { return page.isSettled(); }, 30000);
    }
    const blocks::Hull* hull() {
        return blocks::hullOf(session().state("Raft", "hullyard").evaluation.model);
    }
    std::size_t count() { return hull() ? hull()->build.count() : 0; }
    /// Where a cell's top is on the view.
    QPoint topOf(glm::ivec3 cell) {
        const auto scene = page.view().restScene();
        const blocks::Hull* shown = blocks::hullOf(scene->model);
        REQUIRE(shown);
        const glm::dvec3 at = shown->cornerOf(cell) + glm::dvec3(0.5, 1, 0.5) * shown->edge;
        return page.view().onScreen(glm::dvec3(scene->model.placement * glm::dvec4(at, 1))).toPoint();
    }
    void press(glm::ivec3 cell, Qt::KeyboardModifiers keys = Qt::NoModifier) {
        const QPoint at = topOf(cell);
        hover(page.view(), at);
        QTest::mouseClick(&page.view(), Qt::LeftButton, keys, at);
    }
};

} // namespace

TEST_CASE(
    "blocks are put, taken away and turned by clicks, on both sides, and each click is one step of undo") {
    Yard yard;
    CHECK(yard.find<QAbstractButton>("mode-block-put"));
    yard.click("mode-block-put");
    yard.find<QComboBox>("mode-block-paint")->setCurrentIndex(9);
    yard.press({1, 3, 4});
    REQUIRE(waitFor([&] { return yard.settled() && yard.count() == 162; }));
    REQUIRE(yard.hull()->at({1, 4, 4}));
    CHECK(yard.hull()->at({1, 4, 4})->colour == 9);
    CHECK(yard.hull()->at({-1, 4, 4}));
    CHECK(yard.session().project().piece("Raft")->on("hullyard")->recipe.size() == 2);
    CHECK(yard.session().project().piece("Raft")->on("hullyard")->recipe[1].step == "by-hand");

    yard.click("mode-block-mirrored"); // off
    yard.click("mode-block-take");
    yard.press({-1, 4, 4});
    REQUIRE(waitFor([&] { return yard.settled() && yard.count() == 161; }));
    yard.press({0, 3, 6});
    REQUIRE(waitFor([&] { return yard.settled() && yard.count() == 160; }));
    CHECK(yard.hull()->at({0, 3, 6}) == nullptr);

    yard.click("mode-block-turn");
    yard.press({1, 4, 4});
    REQUIRE(waitFor([&] {
        return yard.settled() && yard.hull()->at({1, 4, 4})->kind == blocks::Kind::Slope;
    }));
    const blocks::Turn first = yard.hull()->at({1, 4, 4})->turn;
    yard.press({1, 4, 4});
    REQUIRE(waitFor([&] { return yard.settled() && yard.hull()->at({1, 4, 4})->turn != first; }));
    CHECK(showsText(*yard.window, "1 put, 1 taken away, 0 made another"));

    for (int k = 0; k < 5; ++k) yard.session().undo().undo();
    REQUIRE(waitFor([&] { return yard.settled() && yard.count() == 160; }));
    CHECK(yard.session().project().piece("Raft")->on("hullyard")->recipe.size() == 1);
    for (int k = 0; k < 5; ++k) yard.session().undo().redo();
    REQUIRE(waitFor([&] { return yard.settled() && yard.hull()->at({1, 4, 4}); }));
    CHECK(yard.hull()->at({0, 3, 6}) == nullptr);
}

TEST_CASE("chosen blocks are moved by keys, copied, pasted, flipped and taken away") {
    Yard yard;
    yard.click("mode-block-choose");
    yard.click("mode-block-mirrored"); // off
    const auto choose = [&](glm::ivec3 one, glm::ivec3 other) {
        drag(yard.page.view(), Qt::LeftButton, yard.topOf(one), yard.topOf(other));
    };
    choose({-2, 3, 0}, {-1, 3, 1});
    CHECK(yard.find<QAbstractButton>("mode-block-copy")->isVisible());
    yard.page.view().setFocus();
    QTest::keyClick(&yard.page.view(), Qt::Key_PageUp);
    REQUIRE(waitFor([&] { return yard.settled() && yard.hull()->build.size().y == 5; }));
    CHECK(yard.count() == 160);
    CHECK(yard.hull()->at({-2, 4, 0}));
    CHECK(yard.hull()->at({-2, 3, 0}) == nullptr);
    QTest::keyClick(&yard.page.view(), Qt::Key_C, Qt::ControlModifier);
    QTest::keyClick(&yard.page.view(), Qt::Key_Delete);
    REQUIRE(waitFor([&] { return yard.settled() && yard.count() == 156; }));
    yard.press({1, 3, 5});
    choose({1, 3, 5}, {1, 3, 5});
    QTest::keyClick(&yard.page.view(), Qt::Key_V, Qt::ControlModifier);
    REQUIRE(waitFor([&] { return yard.settled() && showsText(*yard.window, "4 taken away"); }));
    CHECK(yard.count() == 156); // over blocks that were there
    QTest::keyClick(&yard.page.view(), Qt::Key_PageUp);
    REQUIRE(waitFor([&] { return yard.settled() && yard.hull()->build.size().y == 5; }));
    yard.click("mode-block-flip-up");
    REQUIRE(yard.settled());
    CHECK(yard.count() == 156);
}

TEST_CASE("the slider cuts a build away by layers, and what is seen then is what is edited") {
    Yard yard;
    auto* layers = yard.find<QSlider>("slide-layers");
    CHECK(layers->maximum() == 4);
    layers->setValue(2);
    REQUIRE(waitFor([&] {
        const auto scene = yard.page.view().restScene();
        const auto* shown = scene ? blocks::hullOf(scene->model) : nullptr;
        return shown && shown->build.count() == 80;
    }));
    CHECK(yard.count() == 160);
    CHECK(showsText(*yard.window, "layers 1 to 2"));
    yard.click("mode-block-take");
    yard.press({0, 1, 4});
    REQUIRE(waitFor(
        [&] { return yard.idle() && yard.count() == 159; })); // on the centre line: its image is itself
}

TEST_CASE("what is done by hand is saved beside the project and there again") {
    Yard yard;
    yard.click("mode-block-put");
    yard.press({0, 3, 4});
    REQUIRE(waitFor([&] { return yard.settled() && yard.count() == 161; }));
    const auto file = yard.session().project().file;
    yard.session().saveAs(file);
    CHECK(std::filesystem::exists(yard.folder / "raft.blocks"));
    yard.session().openProject(file);
    REQUIRE(yard.idle());
    yard.window->showWorkbench("Raft", "hullyard");
    REQUIRE(waitFor([&] { return yard.idle() && yard.count() == 161; }));
    // The model below changes: the edit stays, and what touches nothing is said.
    yard.session().editCrossing("smaller", "Raft", "hullyard", [](project::Crossing& crossing) {
        crossing.recipe[0].params["factor"] = 2.0;
    });
    REQUIRE(waitFor([&] { return yard.idle() && yard.count() > 1000; }));
    bool said = false;
    for (const auto& outcome : yard.session().state("Raft", "hullyard").evaluation.outcomes)
        if (outcome.step == "by-hand") said = outcome.facts["idle"].size() == 1;
    CHECK(said);
}
