// The workbench's view under mouse and keys: picking, selecting, measuring, comparing.
#include "desk.h"

#include "app/view/overlay.h"

#include <QLabel>
#include <QSignalSpy>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// Two boxes of 10 mm, "left" and "right", 20 mm apart, in one file.
void writeTwoBoxes(const Desk& desk) {
    Model model = shapes::box({-0.02, 0, -0.005}, {-0.01, 0.01, 0.005});
    model.nodes[0].name = "left";
    model.nodes.push_back({"right", -1, glm::translate(glm::dmat4(1.0), {0.03, 0.0, 0.0}), 0});
    writeAllOrNone(desk.folder.path(), formats::writeObj(model, {"ball"}, nullptr));
}

QPoint pixel(const ModelView& view, const glm::dvec3& p) {
    const auto at = view.camera().project(p, view.width(), view.height());
    return {int(std::lround(at.x)), int(std::lround(at.y))};
}

void reduceTo500(Desk& desk) {
    desk.session().editCrossing("reduce", "Ball", "hearthboard", [](project::Crossing& crossing) {
        crossing.recipe = recipe::fromJson(
            {{{"step", "reduce-triangles"}, {"params", {{"goal", "number"}, {"number", 500}}}}});
    });
    REQUIRE(waitFor([&] {
        return desk.state().kind == CrossingState::Kind::Ready &&
               triangleCount(desk.state().evaluation.model) <= 500 && desk.window->workbench().isSettled();
    }));
}

struct TwoBoxes : Desk {
    TwoBoxes() : Desk(60, true) {
        writeTwoBoxes(*this);
        REQUIRE(waitFor([&] {
            return state().kind == CrossingState::Kind::Ready && objectCount(state().evaluation.model) == 2;
        }));
        open();
        REQUIRE(waitFor([&] { return view().isResting(); }));
    }
    ModelView& view() { return window->workbench().view(); }
};

} // namespace

TEST_CASE("a left click picks a part, names it, and a click beside lets go") {
    TwoBoxes desk;
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, pixel(desk.view(), {-0.015, 0.005, 0.005}));
    CHECK(desk.selectedNodes() == std::set<int>{0});
    CHECK(waitFor([&] { return showsText(*desk.window, "left"); }));
    CHECK(waitFor([&] { return showsText(*desk.window, "12 triangles"); }));
    QTest::mouseClick(&desk.view(), Qt::LeftButton, Qt::ShiftModifier,
                      pixel(desk.view(), {0.015, 0.005, 0.005}));
    CHECK(desk.selectedNodes() == std::set<int>{0, 1});
    CHECK(waitFor([&] { return showsText(*desk.window, "2 parts selected"); }));
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, {5, desk.view().height() - 5});
    CHECK(desk.selectedNodes().empty());
}

TEST_CASE("a left drag selects the parts that lie within it") {
    TwoBoxes desk;
    const QPoint low = pixel(desk.view(), {-0.02, 0, 0.005}),
                 high = pixel(desk.view(), {-0.01, 0.01, -0.005});
    const QRect left = QRect(low, high).normalized();
    drag(desk.view(), Qt::LeftButton, left.topLeft() - QPoint(25, 25), left.bottomRight() + QPoint(25, 25));
    CHECK(desk.selectedNodes() == std::set<int>{0});
    // A band across only half of a part leaves it out.
    drag(desk.view(), Qt::LeftButton, left.topLeft() - QPoint(25, 25), left.center());
    CHECK(desk.selectedNodes().empty());
    drag(desk.view(), Qt::LeftButton, {3, 70}, {desk.view().width() - 3, desk.view().height() - 3});
    CHECK(desk.selectedNodes() == std::set<int>{0, 1});
    QTest::keyClick(&desk.view(), Qt::Key_Escape);
    CHECK(desk.selectedNodes().empty());
}

TEST_CASE("measuring snaps to corners near the pointer") {
    TwoBoxes desk;
    desk.view().setFocus();
    QTest::keyClick(&desk.view(), Qt::Key_M);
    // Aim three pixels inside the corners of the front face.
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {},
                      pixel(desk.view(), {-0.02, 0, 0.005}) + QPoint(4, -4));
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {},
                      pixel(desk.view(), {-0.02, 0.01, 0.005}) + QPoint(4, 4));
    REQUIRE(desk.window->workbench().measuring().measured());
    CHECK(glm::distance(desk.window->workbench().measuring().measured()->first, glm::dvec3(-0.02, 0, 0.005)) <
          1e-7);
    CHECK(glm::distance(desk.window->workbench().measuring().measured()->second,
                        glm::dvec3(-0.02, 0.01, 0.005)) < 1e-7);
    CHECK(waitFor([&] { return showsText(*desk.window, "Measured"); }));
    desk.click("sizeByMeasure");
    REQUIRE(desk.piece().on("hearthboard")->recipe.size() == 1);
    const auto& params = desk.piece().on("hearthboard")->recipe[0].params;
    CHECK(params["by"] == "points");
    CHECK(params["measure"].get<double>() == Approx(0.01));
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("the comparison's line is dragged, and B shows the shape before") {
    Desk desk;
    desk.open();
    reduceTo500(desk);
    desk.click("mode-wipe");
    ModelView& view = desk.window->workbench().view();
    REQUIRE(waitFor([&] { return view.isResting(); }));
    const auto columnBefore = view.grabFramebuffer();
    // The line starts across the middle of the model; find it by its cursor.
    int line = -1;
    REQUIRE(waitFor(
        [&] {
            for (int x = 10; x < view.width() - 10 && line < 0; x += 8) {
                hover(view, QPoint(x, view.height() / 2));
                if (view.cursor().shape() == Qt::SplitHCursor) line = x;
            }
            return line > 0;
        },
        10000));
    drag(view, Qt::LeftButton, {line + 6, view.height() / 2}, {line + 106, view.height() / 2});
    hover(view, QPoint(line, view.height() / 2));
    CHECK(view.cursor().shape() != Qt::SplitHCursor);
    hover(view, QPoint(line + 106, view.height() / 2));
    CHECK(view.cursor().shape() == Qt::SplitHCursor);
    CHECK(desk.selectedNodes().empty()); // the drag moved the line and selected nothing
    view.setFocus();
    QTest::keyPress(&view, Qt::Key_B);
    REQUIRE(waitFor([&] { return view.isResting(); }));
    const auto held = view.grabFramebuffer();
    QTest::keyRelease(&view, Qt::Key_B);
    CHECK(held != columnBefore);
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("deviation colours come with their job and change the picture") {
    Desk desk;
    desk.open();
    reduceTo500(desk);
    ModelView& view = desk.window->workbench().view();
    const auto plain = view.grabFramebuffer();
    desk.click("mode-deviation");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    CHECK(view.grabFramebuffer() != plain);
    desk.click("mode-deviation");
    while (desk.session().undo().canUndo()) desk.session().undo().undo();
}

TEST_CASE("a gauge of objects lights them in the view") {
    TwoBoxes desk;
    const auto plain = desk.view().grabFramebuffer();
    desk.click("gauge-objects");
    REQUIRE(waitFor([&] { return desk.view().isResting(); }));
    CHECK(desk.view().grabFramebuffer() != plain);
    CHECK(waitFor([&] { return showsText(*desk.window, "2 objects"); }));
}

TEST_CASE("arrow keys, plus and minus move the camera as the mouse does") {
    Desk desk(60, true);
    desk.open();
    ModelView& view = desk.window->workbench().view();
    view.setFocus();
    const Camera before = view.camera();
    QTest::keyClick(&view, Qt::Key_Right);
    CHECK(view.camera().yaw > before.yaw);
    QTest::keyClick(&view, Qt::Key_Up);
    CHECK(view.camera().pitch > before.pitch);
    QTest::keyClick(&view, Qt::Key_Plus);
    CHECK(view.camera().distance < before.distance);
    QTest::keyClick(&view, Qt::Key_Minus);
    CHECK(view.camera().distance == Approx(before.distance));
    drag(view, Qt::MiddleButton, {300, 300}, {340, 300});
    CHECK(glm::distance(view.camera().target, before.target) > 0);
}

TEST_CASE("labels that would lie on one another go below one another") {
    QImage picture(400, 300, QImage::Format_ARGB32);
    QPainter painter(&picture);
    std::vector<QRectF> taken;
    for (int i = 0; i < 4; ++i)
        paintLabel(painter, QPointF(200 + 3 * i, 100 + 2 * i), QString("label %1").arg(i), Qt::black, true,
                   Qt::AlignHCenter, &taken);
    REQUIRE(taken.size() == 4);
    for (std::size_t a = 0; a < taken.size(); ++a)
        for (std::size_t b = 0; b < a; ++b) CHECK_FALSE(taken[a].intersects(taken[b]));
    CHECK(taken[0].top() == Approx(97)); // the first stays where it was wanted
}

TEST_CASE("what stands on the floor darkens it softly, what is high above only a little, what is below not "
          "at all") {
    const auto shadowOf = [](double lift) {
        const Mesh box = geometry::transformed(geometry::boxMesh({-1, 0, -1}, {1, 1, 1}),
                                               glm::translate(glm::dmat4(1.0), {0.0, lift, 0.0}));
        return floorShadowOf(box, geometry::meshBounds(box));
    };
    const auto at = [](const FloorShadow& shadow, double x, double z) {
        const double wide = shadow.most.x - shadow.least.x;
        const int column = int((x - shadow.least.x) / wide * shadow.edge),
                  row = int((z - shadow.least.y) / wide * shadow.edge);
        return int(shadow.dark.at(std::size_t(row * shadow.edge + column)));
    };
    const FloorShadow standing = shadowOf(0), high = shadowOf(2);
    CHECK(at(standing, 0, 0) > 180);
    CHECK(at(standing, 1.6, 1.6) < 10);
    int before = 255; // it grows fainter outward, without a step
    for (double x = 0.8; x < 1.6; x += 0.1) {
        CHECK(at(standing, x, 0) <= before);
        CHECK(before - at(standing, x, 0) < 90);
        before = at(standing, x, 0);
    }
    CHECK(at(high, 0, 0) < at(standing, 0, 0) / 3);
    CHECK(at(high, 0, 0) > 0);
    CHECK(shadowOf(-5).edge == 0);
    CHECK(floorShadowOf(Mesh{}, {}).edge == 0);
}

TEST_CASE("at rest edges are smooth: there are colours between the model's and the ground's") {
    Desk desk(60, true);
    desk.open();
    ModelView& view = desk.window->workbench().view();
    desk.click("mode-figure");
    REQUIRE(waitFor([&] { return view.isResting(); }));
    const QImage still = view.grabFramebuffer();
    // From the ball's middle upward: the step from ball to ground is taken in several pixels somewhere
    // around.
    int soft = 0;
    const QPoint middle = view.onScreen({0, 0.016, 0}).toPoint();
    for (int x = middle.x() - 60; x < middle.x() + 60; ++x)
        for (int y = 80; y < middle.y(); ++y) {
            const auto grey = [&](int row) { return qGray(still.pixel(x, row)); };
            const int step = std::abs(grey(y - 1) - grey(y + 1));
            if (step > 30 && std::abs(grey(y) - grey(y - 1)) > 6 && std::abs(grey(y) - grey(y + 1)) > 6)
                ++soft;
        }
    CHECK(soft > 30);
}
