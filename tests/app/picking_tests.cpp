// Picking faces in the view: by clicks and by drawing, grown and turned over, kept, and cut out in both
// sizes.
#include "desk.h"
#include "support/quickest.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

void open(Desk& desk, const Model& model, const char* platform = "hearthboard") {
    desk.open(model, "thing", platform);
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    desk.window->workbench().setStage(steps::Stage::Shape);
    desk.click("mode-faces");
    desk.click("mode-ahead");
}

std::size_t selected(Desk& desk) {
    auto& bench = desk.window->workbench();
    return bench.selected().in(bench.view().scene()->model).count();
}

QPoint middle(Desk& desk) {
    return desk.window->workbench().view().onScreen({0, 0, 0.5}).toPoint();
}

void choose(Desk& desk, const char* box, int index) {
    desk.find<QComboBox>(box)->setCurrentIndex(index);
}

} // namespace

TEST_CASE("a click takes a region up to creases, one face, the object; the angle is turned while it shows") {
    Desk desk;
    Model box = shapes::box({-0.5, -0.5, -0.5}, {0.5, 0.5, 0.5});
    open(desk, box);
    auto& view = desk.window->workbench().view();
    QTest::mouseClick(&view, Qt::LeftButton, {}, middle(desk));
    CHECK(selected(desk) == 2); // the square that is seen
    CHECK(desk.find<QLabel>("selectionCounts")->text().contains("2 triangles, 4 corners"));
    desk.find<QDoubleSpinBox>("pickAngle")->setValue(120);
    CHECK(selected(desk) == 12); // round all corners
    desk.find<QDoubleSpinBox>("pickAngle")->setValue(30);
    CHECK(selected(desk) == 2);
    choose(desk, "pickTakes", 1);
    QTest::mouseClick(&view, Qt::LeftButton, {}, middle(desk) + QPoint(9, 3));
    CHECK(selected(desk) == 1);
    desk.click("pickTurnOver");
    CHECK(selected(desk) == 11);
    choose(desk, "pickTakes", 3);
    QTest::mouseClick(&view, Qt::LeftButton, Qt::AltModifier, middle(desk));
    CHECK(selected(desk) == 0);
    // By height: the middles of the upper square, and of the upper half of the sides.
    desk.find<QDoubleSpinBox>("pickLow")->setValue(0.4 / 0.025);
    desk.find<QDoubleSpinBox>("pickHigh")->setValue(0.6 / 0.025);
    desk.click("pickHeights");
    CHECK(selected(desk) == 2);
    desk.click("pickGrow");
    CHECK(selected(desk) == 10); // all but the lower square
    desk.click("pickShrink");
    CHECK(selected(desk) == 2);
}

TEST_CASE(
    "a drag takes what is seen within its line, or through everything, without delay at 60 000 triangles") {
    Desk desk;
    open(desk, shapes::modelOf(shapes::sphere(240, 126, 0.5), "ball"));
    auto& view = desk.window->workbench().view();
    REQUIRE(view.scene()->triangles == 60000);
    const auto stroke = [&](Qt::KeyboardModifiers keys = {}) {
        const QPoint at = middle(desk);
        QTest::mousePress(&view, Qt::LeftButton, keys, at + QPoint(-40, -40));
        for (const QPoint& by : {QPoint(0, -52), {40, -40}, {52, 0}, {40, 40}, {0, 52}, {-40, 40}, {-52, 0}})
            QTest::mouseMove(&view, at + by, 1);
        const WorkWatch watch;
        QTest::mouseRelease(&view, Qt::LeftButton, keys, at + QPoint(-40, -40));
        return 1000 * watch.seconds();
    };
    double longest = stroke();
    const std::size_t seen = selected(desk);
    CHECK(seen > 500);
    choose(desk, "pickDrag", 1);
    longest = std::max(longest, stroke());
    CHECK(selected(desk) > 19 * seen / 10); // front and back
    longest = std::max(longest, stroke(Qt::AltModifier));
    CHECK(selected(desk) == 0);
    const WorkWatch watch;
    QTest::mouseClick(&view, Qt::LeftButton, {}, middle(desk));
    longest = std::max(longest, 1000 * watch.seconds());
    CHECK(selected(desk) == 60000); // no crease on a ball
    WARN("a stroke over 60 000 triangles: " << longest << " ms");
    CHECK(longest < 250); // 50 on a machine of its own
}

TEST_CASE("what is picked is kept by a name and cut out with one click, undone at once") {
    Desk desk;
    open(desk, shapes::modelOf(shapes::sphere(48, 24, 0.5), "ball"));
    auto& view = desk.window->workbench().view();
    choose(desk, "pickTakes", 1);
    QTest::mouseClick(&view, Qt::LeftButton, {}, middle(desk) + QPoint(7, 5));
    for (int i = 0; i < 3; ++i) desk.click("pickGrow");
    const std::size_t count = selected(desk);
    CHECK(count > 40);
    auto* keep = desk.find<QLineEdit>("keepSelection");
    keep->setText("badge");
    QTest::keyClick(keep, Qt::Key_Return);
    CHECK(desk.session().project().piece("Thing")->selections.at(0).name == "badge");
    desk.click("cutOut");
    REQUIRE(desk.idle());
    const auto& model = desk.session().state("Thing", "hearthboard").evaluation.model;
    CHECK(objectCount(model) == 2);
    CHECK(model.meshes[std::size_t(model.nodes.back().mesh)]->triangleCount() == count);
    desk.session().undo().undo();
    REQUIRE(desk.idle());
    CHECK(objectCount(desk.session().state("Thing", "hearthboard").evaluation.model) == 1);
}
