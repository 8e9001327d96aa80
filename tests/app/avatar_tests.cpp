// Avatars in the window: faces tried on the workbench, the set-up carried over, and the mirror.
#include "desk.h"

#include "app/pages/face_card.h"
#include "app/pages/tryout_page.h"
#include "app/view/tryout_view.h"
#include "app/widgets/look_pad.h"
#include "standins/world/arena.h"
#include "support/avatar_figure.h"

#include <QComboBox>
#include <QSlider>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// A desk with an avatar on Mirrorfolk and, beside it, the same figure without a set-up.
struct AvatarDesk : Desk {
    AvatarDesk() {
        writeAllOrNone(folder.path(), formats::writeVrm(avatarFigure(), {"worn"}, nullptr));
        writeAllOrNone(folder.path(),
                       formats::writeGlb(figureWithFaces({"aa", "blink", "happy"}), {"plain"}, nullptr));
        session().bringIn({QString::fromStdString((folder / "worn.vrm").string()),
                           QString::fromStdString((folder / "plain.glb").string())});
        REQUIRE(idle());
        for (const char* piece : {"Worn", "Plain"})
            session().editCrossing("open", piece, "mirrorfolk", [](project::Crossing&) {});
        REQUIRE(idle());
    }
    WorkbenchPage& show(const QString& piece) {
        window->showWorkbench(piece, "mirrorfolk");
        auto& page = window->workbench();
        page.setStage(steps::Stage::Motion);
        REQUIRE(waitFor([&] { return idle() && page.isSettled(); }));
        return page;
    }
};

double apart(const Scene& a, const Scene& b) {
    double far = 0;
    for (std::size_t v = 0; v < a.mesh.positions.size(); ++v)
        far = std::max(far, double(glm::distance(a.mesh.positions[v], b.mesh.positions[v])));
    return far;
}

} // namespace

TEST_CASE("an avatar's faces are tried by sliders, keys and blinking, and nothing of it stays") {
    AvatarDesk desk;
    auto& page = desk.show("Worn");
    auto* mode = page.findChild<QToolButton*>("mode-face");
    auto* card = page.findChild<FaceCard*>();
    REQUIRE(mode->isVisible());
    CHECK_FALSE(card->isVisible());
    desk.click("mode-face");
    REQUIRE(waitFor([&] { return card->isVisible(); }));
    const auto moved = [&] { return apart(*page.view().scene(), *page.view().restScene()); };
    CHECK(moved() == 0);
    auto* happy = desk.find<QSlider>("slide-happy");
    happy->setFocus();
    QTest::keyClick(happy, Qt::Key_End);
    REQUIRE(waitFor([&] { return moved() > 0.03; }));
    CHECK(showsText(*desk.window, "100%"));
    desk.click("plainFace");
    REQUIRE(waitFor([&] { return moved() == 0; }));
    CHECK(happy->value() == 0);
    desk.click("faceBlinks"); // by itself
    REQUIRE(waitFor([&] { return moved() > 0.01; }, 8000));
    REQUIRE(waitFor([&] { return moved() == 0; }, 8000));
    desk.click("faceBlinks");
    auto* pad = page.findChild<LookPad*>("lookPad");
    QTest::mouseClick(pad, Qt::LeftButton, {}, {pad->width() - 12, pad->height() / 2});
    CHECK(pad->point().x() == Approx(1).margin(0.03));
    CHECK(card->face()->look.x == Approx(60).margin(2));
    QTest::keyClick(pad, Qt::Key_Up);
    CHECK(card->face()->look.y == Approx(4).margin(0.5));
    QTest::mouseDClick(pad, Qt::LeftButton, {}, {20, 20});
    CHECK_FALSE(card->face());
    page.setStage(steps::Stage::Shape);
    CHECK_FALSE(card->isVisible());
    CHECK(desk.session().project().piece("Worn")->on("mirrorfolk")->recipe.empty());
    auto& other = desk.show("Plain"); // no avatar, no faces
    CHECK_FALSE(other.findChild<QToolButton*>("mode-face")->isVisible());
}

TEST_CASE("the set-up of another piece is taken, and goes over again by itself when the file changes") {
    AvatarDesk desk;
    auto& page = desk.show("Plain");
    const auto bones = [&] {
        return desk.session().state("Plain", "mirrorfolk").report.rules.at(0).finding.measured;
    };
    CHECK(bones() == "not set up");
    desk.session().editCrossing("take", "Plain", "mirrorfolk", [](project::Crossing& c) {
        c.recipe.push_back({"take-setup", true, {{"from", {{"piece", "Worn"}}}}});
    });
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    const auto set = [&] { return desk.session().state("Plain", "mirrorfolk").evaluation.model; };
    REQUIRE(set().avatar);
    CHECK(set().avatar->expression("angry")->morphs.empty()); // it has none
    CHECK(bones() == "15 of 15");
    // Its maker draws the missing face, and nobody clicks anything.
    const auto file =
        formats::writeGlb(figureWithFaces({"aa", "blink", "happy", "angry"}), {"plain"}, nullptr);
    writeAllOrNone(desk.folder.path(), file);
    REQUIRE(waitFor([&] {
        return desk.idle() && set().avatar && set().avatar->expression("angry") &&
               set().avatar->expression("angry")->morphs.size() == 1;
    }));
}

TEST_CASE("the mirror follows the pointer and its sliders, and comes close by") {
    Desk desk(40, true);
    desk.session().editCrossing("unit", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"unit-and-up", true, {{"unit", "m"}, {"up", "y"}}});
    });
    REQUIRE(desk.idle());
    TemporaryFolder out;
    writeAllOrNone(out.path(), formats::writeVrm(avatarFigure(), {"worn"}, nullptr));
    auto& page = desk.window->tryout();
    desk.open();
    desk.click("try"); // shows the page; what it loads is replaced at once
    REQUIRE(waitFor([&] { return page.isVisible() && page.isReady(); }));
    page.load(QString::fromStdString(out.path().string()), "mirror");
    REQUIRE(waitFor([&] { return page.isReady() && page.view().arena(); }));
    auto* arena = page.view().arena();
    CHECK(waitFor([&] { return showsText(*desk.window, "Accepted by the mirror"); }, 8000));
    const auto aside = [&] { return arena->tables()[0].rows[4].values[0]; };
    hover(page.view(), {page.view().width() - 5.0, 200});
    CHECK(waitFor([&] { return aside() != "0°" && !aside().starts_with("-"); }, 8000));
    hover(page.view(), {5.0, 200});
    CHECK(waitFor([&] { return aside().starts_with("-") || aside().starts_with("−"); }, 8000));
    auto* sad = page.findChild<QSlider*>("slide-sad");
    REQUIRE(sad);
    const auto plain = arena->bent(0)->positions;
    sad->setValue(100);
    CHECK(waitFor([&] { return showsText(*desk.window, "sad") && arena->sliders()[4].value == 1; }, 8000));
    auto* seen = page.findChild<QComboBox*>("try-seen");
    seen->setCurrentIndex(1);
    Q_EMIT seen->activated(1);
    CHECK(arena->ride());
    seen->setCurrentIndex(0);
    Q_EMIT seen->activated(0);
    CHECK_FALSE(arena->ride());
    CHECK(waitFor(
        [&] {
            return showsText(*desk.window, "Its author alone") || showsText(*desk.window, "Everyone may");
        },
        3000));
}
