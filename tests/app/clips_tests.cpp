// Clips in the window: the way of the whole on the floor, before and after a step.
#include "desk.h"

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// Words with plain spaces: units stand behind narrow ones.
std::string plain(QString words) {
    return words.replace(QChar(0x202f), ' ').toStdString();
}

} // namespace

TEST_CASE("a clip that drifts shows its way on the floor, and that it stays once a step has taken it out") {
    Desk desk;
    Model model = shapes::modelOf(shapes::sphere(12, 8, 0.5), "float");
    Channel way{.node = 0, .target = Channel::Target::Translation};
    for (int k = 0; k <= 6; ++k) {
        way.times.push_back(0.2f * float(k));
        way.values.insert(way.values.end(), {0, 0.5f + 0.1f * float(k % 2), 0.3f * float(k)});
    }
    model.clips.push_back(std::make_shared<const Clip>(Clip{"swim", {way}}));
    writeAllOrNone(desk.folder.path(), formats::writeGlb(model, {"float"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "float.glb").string())});
    REQUIRE(desk.idle());
    desk.session().editCrossing("open", "Float", "saltbranch", [](project::Crossing&) {});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Float", "saltbranch");
    WorkbenchPage& page = desk.window->workbench();
    page.setStage(steps::Stage::Motion);
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    CHECK(page.view().ways().now.empty()); // at rest
    page.clips().goTo(2);
    REQUIRE(waitFor([&] { return !page.view().ways().now.empty(); }));
    CHECK(plain(page.view().ways().now.words) == "drifts 1.8 m in 1.2 s");
    CHECK(glm::distance(page.view().ways().now.places.back() - page.view().ways().now.places.front(),
                        glm::dvec3(0, 0, 1.8)) < 1e-3);
    CHECK(page.view().ways().before.empty());
    page.addStep("stay-on-the-spot");
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    page.clips().goTo(3);
    waitFor([&] { return page.view().ways().now.words == "now: on the spot"; }, 5000);
    CHECK(plain(page.view().ways().now.words) == "now: on the spot");
    CHECK(plain(page.view().ways().before.words) == "before: drifts 1.8 m in 1.2 s");
    page.clips().leave();
    CHECK(page.view().ways().now.empty());
    CHECK(page.view().ways().before.empty());
}
