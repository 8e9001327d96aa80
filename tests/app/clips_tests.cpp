// Clips in the window: the way of the whole on the floor, before and after a step.
#include "desk.h"

#include "app/pages/bones_list.h"
#include "app/pages/tryout_page.h"
#include "app/view/tryout_view.h"
#include "core/motion/posed.h"
#include "core/motion/weights_on.h"
#include "standins/world/arena.h"
#include "support/swimmer.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

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
    WorkbenchPage& page = desk.open(model, "float", "saltbranch");
    page.setStage(steps::Stage::Motion);
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    CHECK(page.view().ways().now.empty()); // at rest
    page.clips().goTo(2);
    REQUIRE(waitFor([&] { return !page.view().ways().now.empty(); }));
    CHECK(plain(page.view().ways().now.words) == "drifts 1.8 m in 1.2 s");
    CHECK(glm::distance(page.view().ways().now.places.back() - page.view().ways().now.places.front(),
                        glm::dvec3(0, 0, 1.8)) < 1e-3);
    CHECK(page.view().ways().before.empty());
    desk.click("mode-path");
    CHECK(page.view().ways().now.empty());
    desk.click("mode-path");
    REQUIRE(waitFor([&] { return !page.view().ways().now.empty(); }));
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

TEST_CASE("the lane shows how the whole and a bone move, and a part between its handles is played and kept") {
    Desk desk;
    Model model = shapes::modelOf(shapes::sphere(12, 8, 0.5), "body");
    model.nodes.push_back({"root", -1, glm::dmat4(1)});
    model.nodes.push_back({"tail", 1, glm::translate(glm::dmat4(1), {0, 0.2, 0})});
    Mesh mesh = *model.meshes[0];
    mesh.joints.assign(mesh.vertexCount(), glm::u16vec4(0, 1, 0, 0));
    mesh.weights.assign(mesh.vertexCount(), glm::vec4(0.5f, 0.5f, 0, 0));
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.skins.push_back({"rig", {1, 2}, {glm::mat4(1), glm::mat4(1)}, 1});
    model.nodes[0].skin = 0;
    Channel way{
        .node = 1, .target = Channel::Target::Translation, .times = {0, 2}, .values = {0, 0, 0, 0, 0, 1.5f}};
    const float half = std::sqrt(0.5f);
    Channel turn{.node = 2,
                 .target = Channel::Target::Rotation,
                 .times = {0, 1, 2},
                 .values = {0, 0, 0, 1, half, 0, 0, half, 0, 0, 0, 1}};
    model.clips.push_back(std::make_shared<const Clip>(Clip{"swim", {way, turn}}));
    WorkbenchPage& page = desk.open(model, "fish", "saltbranch");
    CHECK_FALSE(page.clips().lane().isVisible()); // only where clips are worked on
    page.setStage(steps::Stage::Motion);
    CurveLane& lane = page.clips().lane();
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled() && lane.lines().size() == 2; }));
    CHECK(plain(lane.lines()[0].label) == "forward 1.5 m");
    CHECK(lane.lines()[0].values[120] == Approx(0.75).margin(1e-4));
    auto* whose = desk.find<QComboBox>("curveOf");
    whose->setCurrentIndex(whose->findText("tail"));
    Q_EMIT whose->activated(whose->currentIndex());
    REQUIRE(waitFor([&] { return !lane.lines().empty() && lane.lines()[0].degrees; }));
    CHECK(plain(lane.lines()[0].label).starts_with("tail turns 90°"));
    CHECK(std::ranges::max(lane.lines()[0].values) == Approx(90).margin(0.5));

    // The rig over the piece: a click on a bone chooses it.
    desk.click("mode-bones");
    auto& view = page.view();
    REQUIRE(view.scene()->bones.size() == 2);
    CHECK(view.scene()->bones[1].above == 0);
    QTest::mouseClick(&view, Qt::LeftButton, {}, view.onScreen(view.scene()->bones[0].place).toPoint());
    CHECK(whose->currentText() == "root");
    CHECK(page.selected().empty());
    page.setStage(steps::Stage::Shape);
    CHECK_FALSE(view.bones().shown);
    page.setStage(steps::Stage::Motion);
    CHECK(view.bones().shown);

    // The same bones below the parts, as they hang on one another; found by typing.
    desk.click("mode-bones");
    page.showMode("parts", true);
    auto* bones = desk.find<BonesList>("bonesList");
    REQUIRE(bones->isVisible());
    REQUIRE(bones->topLevelItemCount() == 1);
    auto* root = bones->topLevelItem(0);
    CHECK(root->text(0) == "root");
    REQUIRE(root->childCount() == 1);
    CHECK(bones->currentItem() == root); // the one that was clicked in the view
    QTest::mouseClick(bones->viewport(), Qt::LeftButton, {}, bones->visualItemRect(root->child(0)).center());
    CHECK(whose->currentText() == "tail");
    CHECK(view.bones().chosen == "tail");
    CHECK(view.bones().shown); // so that it is seen
    QTest::keyClick(bones, Qt::Key_Up);
    CHECK(whose->currentText() == "root");
    auto* filter = desk.find<QLineEdit>("partsFilter");
    QTest::keyClicks(filter, "tai");
    CHECK_FALSE(root->isHidden()); // what it hangs on
    CHECK_FALSE(root->child(0)->isHidden());
    QTest::keyClicks(filter, "x");
    CHECK(root->isHidden());
    filter->clear();
    page.setStage(steps::Stage::Shape);
    CHECK(bones->isHidden());
    page.setStage(steps::Stage::Motion);
    page.showMode("parts", false);
    const auto at = [&](double share) { return QPoint(int(std::lround(lane.xOf(share))), 20); };
    QTest::mouseClick(&lane, Qt::LeftButton, {}, at(0.25));
    CHECK(page.clips().seconds() == Approx(0.5).margin(0.02));
    auto* trim = desk.find<QPushButton>("trimToPart");
    CHECK_FALSE(trim->isEnabled());
    QTest::mousePress(&lane, Qt::LeftButton, {}, at(1));
    QTest::mouseMove(&lane, at(0.75));
    QTest::mouseMove(&lane, at(0.5));
    QTest::mouseRelease(&lane, Qt::LeftButton, {}, at(0.5));
    CHECK(lane.to() == Approx(0.5).margin(0.01));
    REQUIRE(trim->isEnabled());
    desk.click("trimToPart");
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    const auto& recipe = desk.session().project().piece("Fish")->on("saltbranch")->recipe;
    REQUIRE(recipe.size() == 1);
    CHECK(recipe[0].step == "trim-clips");
    CHECK(motion::lengthOf(*desk.session().state("Fish", "saltbranch").evaluation.model.clips[0]) ==
          Approx(1).margin(0.02));
    CHECK(lane.to() == 1);
}

TEST_CASE(
    "weights are colours on the piece, at rest and in a clip, and a ghost is the piece before its steps") {
    Desk desk;
    Model model = swimmer();
    WorkbenchPage& page = desk.open(model, "swimmer", "kitecup");
    const auto settled = [&] { return waitFor([&] { return desk.idle() && page.isSettled(); }); };
    CHECK(page.findChild<QToolButton*>("mode-weights")->isHidden()); // not on this stage
    page.setStage(steps::Stage::Motion);
    REQUIRE(settled());
    auto* weights = page.findChild<QToolButton*>("mode-weights");
    REQUIRE(weights->isVisible());
    desk.click("mode-weights");
    const auto weighed = [&] { return page.view().scene()->weighed; };
    REQUIRE(waitFor([&] { return !weighed().empty(); }));
    const int heaviest = motion::heaviestBone(page.view().restScene()->model);
    CHECK(weighed() == page.view().restScene()->model.nodes[std::size_t(heaviest)].name);
    page.clips().showCurveOf("tail");
    REQUIRE(waitFor([&] { return weighed() == "tail"; }));
    page.clips().goTo(3);
    REQUIRE(waitFor([&] {
        return weighed() == "tail" &&
               page.view().scene()->mesh.positions != page.view().restScene()->mesh.positions;
    }));
    // Heat is the weight: least in front, most behind.
    float front = 9, back = -9;
    const Scene& scene = *page.view().scene();
    for (const GlCorner& corner : scene.full.corners)
        if (corner.heat >= 0) front = std::min(front, corner.heat), back = std::max(back, corner.heat);
    CHECK(front == Approx(0).margin(0.01));
    CHECK(back == Approx(1).margin(0.01));
    desk.click("mode-weights");
    REQUIRE(waitFor([&] { return weighed().empty(); }));
    page.clips().leave();
    REQUIRE(settled());

    page.addStep("stay-on-the-spot");
    REQUIRE(settled());
    desk.click("mode-ghost");
    REQUIRE(waitFor([&] { return page.view().ghost() != nullptr; }));
    page.clips().choose("swim");
    page.clips().goTo(2);
    REQUIRE(waitFor([&] {
        return page.view().ghost() &&
               page.view().ghost()->mesh.positions != page.view().beforeScene()->mesh.positions;
    }));
    page.setStage(steps::Stage::Shape);
    REQUIRE(waitFor([&] { return page.view().ghost() == nullptr; }));
}

TEST_CASE("slots are a table: what each plays, how long, and which are empty") {
    Desk desk;
    WorkbenchPage& page = desk.open(swimmer(), "swimmer", "kitecup");
    page.setStage(steps::Stage::Motion);
    page.addStep("slots");
    const auto settled = [&] { return waitFor([&] { return desk.idle() && page.isSettled(); }); };
    REQUIRE(settled());
    const auto box = [&](const char* slot) { return desk.find<QComboBox>(QString("slot-") + slot); };
    const auto choose = [&](const char* slot, const char* clip) {
        box(slot)->setCurrentIndex(box(slot)->findText(clip));
        Q_EMIT box(slot)->activated(box(slot)->currentIndex());
        REQUIRE(settled());
    };
    // "hop" goes by its own name; nothing is called like the others.
    REQUIRE(waitFor([&] { return box("hop")->currentText() == "hop, by itself"; }));
    CHECK(box("drive")->currentText() == "by itself");
    CHECK(showsText(*desk.window, "empty"));
    choose("drive", "swim");
    choose("drift", "swim");
    CHECK(box("drive")->currentText() == "swim");
    CHECK(showsText(*desk.window, "as drive"));
    CHECK(showsText(*desk.window, "0.5 s"));
    const auto filled = [&] {
        return desk.session().project().piece("Swimmer")->on("kitecup")->recipe[0].params["filled"];
    };
    CHECK(filled().size() == 2);
    // A slot's clip plays in the view.
    desk.click("play-hop");
    CHECK(page.clips().isPlaying());
    CHECK(desk.find<QComboBox>("whichClip")->currentText() == "hop");
    page.clips().play(false);
    page.clips().leave();
    CHECK_FALSE(desk.find<QToolButton>("play-lose")->isEnabled());
    choose("drift", "by itself");
    CHECK(filled() == nlohmann::json::parse(R"([{"slot":"drive","clip":"swim"}])"));
    desk.session().undo().undo();
    REQUIRE(settled());
    CHECK(filled().size() == 2);
}

TEST_CASE("what takes a kart's bytes stands on Deliver, and what each mend would bring") {
    Desk desk;
    writeAllOrNone(desk.folder.path(), formats::writeGlb(swimmer(), {"swimmer"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "swimmer.glb").string())});
    REQUIRE(desk.idle());
    for (const char* platform : {"kitecup", "saltbranch"})
        desk.session().editCrossing("open", "Swimmer", platform, [](project::Crossing&) {});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Swimmer", "kitecup");
    WorkbenchPage& page = desk.window->workbench();
    page.setStage(steps::Stage::Deliver);
    auto* panel = page.findChild<QWidget*>("bytesPanel");
    REQUIRE(panel);
    REQUIRE(waitFor([&] { return panel->isVisible(); }));
    const std::string rows = page.findChild<QLabel*>("bytesRows")->text().toStdString();
    CHECK(rows.find("scales") != std::string::npos);
    CHECK(rows.find("at half its edges: −2 KiB") != std::string::npos); // 64 × 64 pixels in half a byte each
    CHECK(page.findChild<QLabel*>("bytesWhole")->text().endsWith("of 192 KiB"));
    desk.window->showWorkbench("Swimmer", "saltbranch");
    page.setStage(steps::Stage::Deliver);
    REQUIRE(waitFor([&] { return panel->isHidden(); }));
}

TEST_CASE("on the trial of a kart keys play its slots, and the camera goes along with the rider") {
    Desk desk;
    writeAllOrNone(desk.folder.path(), formats::writeGlb(swimmer(), {"swimmer"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "swimmer.glb").string())});
    REQUIRE(desk.idle());
    desk.session().editCrossing("open", "Swimmer", "kitecup", [](project::Crossing& crossing) {
        const auto entry = [](const char* step, nlohmann::json params) {
            auto made = steps::makeStep(step, params);
            return recipe::Entry{step, true, made->params()};
        };
        crossing.recipe = {entry("slots", {{"others", "swim"}}), entry("hide", {{"of", {"rider"}}}),
                           entry("platform-settings", nlohmann::json::object())};
    });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Swimmer", "kitecup");
    QTest::keyClick(desk.window.get(), Qt::Key_F5);
    REQUIRE(waitFor([&] { return desk.window->tryout().isVisible() && desk.window->tryout().isReady(); }));
    TryoutView* view = &desk.window->tryout().view();
    REQUIRE(view->arena());
    const auto plays = [&] { return view->arena()->tables()[0].rows[2].values[0]; };
    CHECK(plays() == "drive");
    auto* hop = desk.window->findChild<QPushButton*>("try-slot-hop");
    REQUIRE(hop);
    CHECK(hop->shortcut() == QKeySequence("3"));
    desk.click("try-slot-hop");
    CHECK(plays() == "hop");
    auto* seen = desk.window->findChild<QComboBox*>("try-seen");
    REQUIRE(seen);
    const double yaw = view->camera().yaw;
    seen->setCurrentIndex(1);
    Q_EMIT seen->activated(1);
    REQUIRE(waitFor([&] { return view->camera().yaw != yaw; }));
}

TEST_CASE("sixty thousand skinned corners play") {
    Desk desk;
    const Model model = swimmer(64, 245); // 59 782 corners
    WorkbenchPage& page = desk.open(model, "swimmer", "saltbranch");
    page.setStage(steps::Stage::Motion);
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    int poses = 0;
    QObject::connect(&page.view(), &ModelView::sceneChanged, &page, [&] { ++poses; });
    struct Counter : QObject {
        int together = 0;
        bool eventFilter(QObject*, QEvent* event) override {
            together += event->type() == QEvent::UpdateRequest;
            return false;
        }
    } counter;
    desk.window->installEventFilter(&counter);
    page.clips().play(true);
    REQUIRE(waitFor([&] { return poses > 5; }));
    poses = 0, counter.together = 0;
    QElapsedTimer watch;
    watch.start();
    waitFor([&] { return watch.elapsed() > 3000; });
    const double rate = 1000.0 * poses / double(watch.elapsed());
    const double together = double(counter.together) / std::max(1, poses);
    page.clips().play(false);
    // Putting the window together takes longer than the pose; once for each is enough.
    CHECK(together < 1.5);
    WARN(together << " times the window was put together for each pose");
    WARN("60 000 skinned corners: " << rate << " poses a second, a picture takes "
                                    << page.view().lastFrameMillis() << " ms");
    CHECK(rate > 1); // a busy machine must not fail here; docs/performance.md says what is wanted
}
