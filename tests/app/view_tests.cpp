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
