// The list of parts, what is selected, picking faces, what can be dragged, clips: by mouse and keys.
#include "app/pages/clip_bar.h"
#include "app/pages/parts_drawer.h"
#include "app/qt_text.h"
#include "desk.h"
#include "support/rich_model.h"

#include <QComboBox>
#include <QLineEdit>
#include <QSlider>
#include <QTableView>

using namespace desk;

namespace {

/// A desk with a piece "Row" of three boxes in a row, 10 mm wide each, on the table platform.
struct RowDesk : Desk {
    RowDesk() : Desk(20, true) {
        Model row = shapes::box({-0.005, 0, -0.005}, {0.005, 0.01, 0.005});
        row.nodes[0].name = "left";
        row.nodes[0].local = glm::translate(glm::dmat4(1.0), {-0.02, 0.0, 0.0});
        row.nodes.push_back({"middle", -1, glm::dmat4(1.0), 0});
        row.nodes.push_back({"right", -1, glm::translate(glm::dmat4(1.0), {0.02, 0.0, 0.0}), 0});
        bring(row, "row", "Row");
    }
    void bring(const Model& model, const std::string& file, const QString& piece) {
        writeAllOrNone(folder.path(), formats::writeGlb(model, {file}, nullptr));
        session().bringIn({QString::fromStdString((folder / (file + ".glb")).string())});
        REQUIRE(idle());
        window->showWorkbench(piece, "hearthboard");
        REQUIRE(waitFor([&] { return page().isSettled(); }));
    }
    WorkbenchPage& page() { return window->workbench(); }
    ModelView& view() { return page().view(); }
    const CrossingState& row() { return session().state("Row", "hearthboard"); }
    const recipe::Recipe& recipe() { return session().project().piece("Row")->on("hearthboard")->recipe; }
    QPoint pixel(const glm::dvec3& at) { return view().onScreen(at).toPoint(); }
    bool settled() {
        return waitFor([&] { return page().isSettled(); });
    }
};

} // namespace

TEST_CASE("parts are listed, found by typing, and selected there as in the view") {
    RowDesk desk;
    desk.click("openParts");
    auto* table = desk.find<QTableView>("partsTable");
    REQUIRE(table->model()->rowCount() == 3);
    CHECK(table->model()->index(0, PartsList::Name).data().toString() == "left");
    CHECK(table->model()->index(0, PartsList::Triangles).data().toString() == "12");
    desk.find<QLineEdit>("partsFilter")->setText("LE");
    CHECK(table->model()->rowCount() == 2); // left, middle
    CHECK(waitFor([&] { return showsText(*desk.window, "2 of 3 parts"); }));
    QTest::keyClick(desk.find<QLineEdit>("partsFilter"), Qt::Key_Return);
    CHECK(desk.selectedNodes() == std::set<int>{0, 1});
    desk.find<QLineEdit>("partsFilter")->clear();
    // A click in the view selects in the list.
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, desk.pixel({0.02, 0.005, 0.005}));
    const auto rows = table->selectionModel()->selectedRows(PartsList::Name);
    REQUIRE(rows.size() == 1);
    CHECK(rows[0].data().toString() == "right");
    QTest::keyClick(desk.window.get(), Qt::Key_P, Qt::ControlModifier);
    CHECK(waitFor([&] { return !table->isVisible(); }));
}

TEST_CASE("a hidden part is not drawn and not picked, and nothing else knows") {
    RowDesk desk;
    desk.click("openParts");
    auto* table = desk.find<QTableView>("partsTable");
    REQUIRE(desk.settled());
    const auto eye = table->visualRect(table->model()->index(1, PartsList::Shown)).center();
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, eye);
    REQUIRE(waitFor([&] { return desk.view().restScene()->triangles == 24; }));
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, desk.pixel({0, 0.005, 0.005}));
    CHECK(desk.selectedNodes().empty());
    CHECK(triangleCount(desk.row().evaluation.model) == 36);
    CHECK(waitFor([&] { return showsText(*desk.window, "1 hidden from view"); }));
    desk.click("showAllParts");
    REQUIRE(waitFor([&] { return desk.view().restScene()->triangles == 36; }));
    // Space hides what is selected.
    table->setFocus();
    table->selectRow(2);
    QTest::keyClick(table, Qt::Key_Space);
    REQUIRE(waitFor([&] { return desk.view().restScene()->triangles == 24; }));
    QTest::keyClick(table, Qt::Key_Space);
    CHECK(waitFor([&] { return desk.view().restScene()->triangles == 36; }));
}

TEST_CASE("what is selected outlasts steps, is left out, and can be kept by name") {
    RowDesk desk;
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, desk.pixel({0.02, 0.005, 0.005}));
    REQUIRE(desk.selectedNodes() == std::set<int>{2});
    desk.page().addStep("turn");
    REQUIRE(desk.settled());
    CHECK(desk.selectedNodes() == std::set<int>{2});
    auto* name = desk.find<QLineEdit>("keepSelection");
    name->setText("the right one");
    QTest::keyClick(name, Qt::Key_Return);
    REQUIRE(desk.session().project().piece("Row")->selections.size() == 1);
    CHECK(desk.session().project().piece("Row")->selections[0].name == "the right one");
    desk.click("leaveOut");
    REQUIRE(waitFor([&] { return triangleCount(desk.row().evaluation.model) == 24; }));
    CHECK(desk.recipe().back().step == "leave-out");
    CHECK(waitFor([&] { return showsText(*desk.window, "part right"); }));
    while (desk.session().undo().canUndo() && desk.session().undo().undoText() != "bring in row.glb")
        desk.session().undo().undo();
    CHECK(waitFor([&] { return triangleCount(desk.row().evaluation.model) == 36; }));
}

TEST_CASE("faces are picked up to their creases, added to and taken away from") {
    RowDesk desk;
    desk.click("mode-faces");
    const auto count = [&] { return desk.page().selected().in(desk.view().scene()->model).count(); };
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, desk.pixel({-0.02, 0.005, 0.005}));
    CHECK(count() == 2); // the front side of a box
    QTest::mouseClick(&desk.view(), Qt::LeftButton, Qt::ShiftModifier, desk.pixel({0, 0.005, 0.005}));
    CHECK(count() == 4);
    QTest::mouseClick(&desk.view(), Qt::LeftButton, Qt::AltModifier, desk.pixel({0, 0.005, 0.005}));
    CHECK(count() == 2);
    QTest::mouseClick(&desk.view(), Qt::LeftButton, Qt::ControlModifier, desk.pixel({0, 0.005, 0.005}));
    CHECK(count() == 12);
    CHECK(desk.page().selected().parts() == std::set<NodePath>{"middle"}); // all of it is the part
    QTest::keyClick(&desk.view(), Qt::Key_Escape);                         // puts the tool down
    CHECK(desk.view().tool() == nullptr);
    CHECK(count() == 12);
    QTest::keyClick(&desk.view(), Qt::Key_Escape);
    CHECK(count() == 0);
}

TEST_CASE("a step takes what is selected, and takes it away again") {
    RowDesk desk;
    desk.page().addStep("leave-out");
    REQUIRE(desk.settled());
    QTest::mouseClick(&desk.view(), Qt::LeftButton, {}, desk.pixel({0.02, 0.005, 0.005}));
    desk.click("takeSelected");
    REQUIRE(waitFor([&] { return triangleCount(desk.row().evaluation.model) == 24; }));
    CHECK(waitFor([&] { return desk.find<QLabel>("selectionWords")->text().contains("right"); }));
}

TEST_CASE("what is hidden is shown before it goes") {
    RowDesk desk;
    Model safe = shapes::box({0, 0, 0}, {0.03, 0.03, 0.03});
    safe.nodes[0].name = "case";
    safe.meshes.push_back(std::make_shared<const Mesh>(shapes::sphere(10, 6, 0.005)));
    safe.nodes.push_back({"gear", -1, glm::translate(glm::dmat4(1.0), {0.015, 0.015, 0.015}), 1});
    desk.bring(safe, "safe", "Safe");
    const auto triangles = [&] {
        return triangleCount(desk.session().state("Safe", "hearthboard").evaluation.model);
    };
    const auto all = triangles();
    desk.page().addStep("remove-hidden");
    CHECK(waitFor([&] { return showsText(*desk.window, "in gear"); }));
    CHECK(triangles() == all);
    desk.click("takeOut");
    CHECK(waitFor([&] { return triangles() == 12; }));
}

TEST_CASE("a height is dragged by its top, and the number stands beside the hand") {
    RowDesk desk;
    desk.page().addStep("size");
    desk.page().setStage(steps::Stage::Place);
    REQUIRE(desk.settled());
    desk.session().editCrossing("height", "Row", "hearthboard",
                                [](project::Crossing& c) { c.recipe.back().params["measure"] = 0.01; });
    REQUIRE(desk.settled());
    const auto handles = desk.view().handles().handles();
    const auto top = std::ranges::find(handles, "measure", &Handle::id);
    REQUIRE(top != handles.end());
    CHECK(top->label == qs(desk.session().sheet("hearthboard")->showBoth(0.01)));
    const QPoint from = desk.pixel(top->at), to = desk.pixel(top->at + glm::dvec3(0, 0.01, 0));
    drag(desk.view(), Qt::LeftButton, from, to);
    CHECK(desk.recipe().back().params["measure"].get<double>() == Approx(0.02).epsilon(0.05));
    REQUIRE(desk.settled());
    CHECK(desk.selectedNodes().empty()); // the drag selected nothing
    desk.session().undo().undo();        // one drag is one step
    CHECK(desk.recipe().back().params["measure"].get<double>() == Approx(0.01));
}

TEST_CASE("a turn is dragged around its ring") {
    RowDesk desk;
    desk.page().addStep("turn");
    REQUIRE(desk.settled());
    const auto handles = desk.view().handles().handles();
    const auto ring = std::ranges::find(handles, "y", &Handle::id);
    REQUIRE(ring != handles.end());
    const glm::dvec3 from = ring->at - ring->centre;
    const glm::dvec3 quarter(from.z, from.y, -from.x); // by 90° about +Y
    drag(desk.view(), Qt::LeftButton, desk.pixel(ring->at), desk.pixel(ring->centre + quarter));
    CHECK(desk.recipe().back().params["y"].get<double>() == Approx(90).margin(2));
    CHECK(std::abs(desk.recipe().back().params["x"].get<double>()) < 0.5);
}

TEST_CASE("the origin is dragged onto a corner") {
    RowDesk desk;
    desk.page().addStep("origin");
    desk.session().editCrossing("stay", "Row", "hearthboard",
                                [](project::Crossing& c) { c.recipe.back().params["at"] = "stay"; });
    REQUIRE(desk.settled());
    const auto handles = desk.view().handles().handles();
    const auto mark = std::ranges::find(handles, "origin", &Handle::id);
    REQUIRE(mark != handles.end());
    drag(desk.view(), Qt::LeftButton, desk.pixel(mark->at), desk.pixel({0.015, 0.01, 0.005}) + QPoint(3, 3));
    const auto& params = desk.recipe().back().params;
    CHECK(params["at"] == "point");
    const auto point = params["point"].get<std::array<double, 3>>();
    CHECK(glm::distance(glm::dvec3(point[0], point[1], point[2]), glm::dvec3(0.015, 0.01, 0.005)) < 1e-6);
}

TEST_CASE("the front is said by dragging its arrow") {
    RowDesk desk;
    desk.window->showWorkbench("Row", "playmeadow"); // which wants to know it
    desk.page().setStage(steps::Stage::Place);
    REQUIRE(desk.settled());
    REQUIRE(waitFor([&] { return !desk.view().handles().handles().empty(); }));
    const Handle arrow = desk.view().handles().handles().back();
    REQUIRE(arrow.id == "front");
    const double was = desk.view().front()->angle;
    const glm::dvec3 from = arrow.at - arrow.centre;
    const glm::dvec3 quarter(from.z, 0, -from.x);
    drag(desk.view(), Qt::LeftButton, desk.pixel(arrow.at), desk.pixel(arrow.centre + quarter));
    const auto& recipe = desk.session().project().piece("Row")->on("playmeadow")->recipe;
    REQUIRE(recipe.size() == 1);
    REQUIRE(recipe[0].step == "heading");
    const auto& params = recipe[0].params;
    static constexpr const char* quarters[] = {"+z", "+x", "-z", "-x"};
    const auto expected = (int(std::lround(glm::degrees(was) / 90)) + 1) % 4;
    CHECK(params["front"] == quarters[(expected + 4) % 4]);
    REQUIRE(desk.settled());
    CHECK(desk.view().front()->known);
}

TEST_CASE("a piece is renamed where it is gathered, and undo gives the name back") {
    RowDesk desk;
    desk.page().setStage(steps::Stage::Gather);
    desk.session().editPiece("twin", "Ball", [](project::Piece& piece) {
        piece.recipe.push_back(
            {"carry-over-placement", true,
             steps::makeStep("carry-over-placement", {{"from", {{"piece", "Row"}}}})->params()});
    });
    REQUIRE(desk.settled());
    auto* name = desk.find<QLineEdit>("pieceName");
    name->setFocus();
    name->setText("Wall");
    QTest::keyClick(name, Qt::Key_Return);
    REQUIRE(desk.session().project().piece("Wall"));
    CHECK(desk.page().piece() == "Wall");
    CHECK(desk.piece().recipe.back().params["from"] == nlohmann::json{{"piece", "Wall"}});
    CHECK(desk.session().state("Wall", "hearthboard").kind == CrossingState::Kind::Ready);
    REQUIRE(desk.idle());
    CHECK(desk.session().state("Ball", "hearthboard").evaluation.outcomes.at(0).problem.empty());
    desk.session().undo().undo();
    CHECK(desk.page().piece() == "Row");
    CHECK(desk.piece().recipe.back().params["from"] == nlohmann::json{{"piece", "Row"}});
    auto* taken = desk.find<QLineEdit>("pieceName");
    taken->setText("Ball");
    QTest::keyClick(taken, Qt::Key_Return);
    CHECK(desk.session().project().piece("Row"));
}

TEST_CASE("clips play, pause, are gone through frame by frame, and leave the piece at rest") {
    RowDesk desk;
    CHECK_FALSE(desk.page().clips().isVisible());
    Model bell = richModel();
    bell.materials[0].picture(PictureRole::Colour).image = -1;
    desk.bring(bell, "swing", "Swing");
    REQUIRE(waitFor([&] { return desk.page().clips().isVisible(); }));
    CHECK(showsText(*desk.window, "at rest"));
    const auto corner = [&] { return desk.view().scene()->mesh.positions[3]; };
    const glm::vec3 rest = corner();
    auto* slider = desk.find<QSlider>("clipSlider");
    slider->setValue(slider->maximum());
    REQUIRE(waitFor([&] { return glm::distance(corner(), rest) > 0.1f; })); // it has swung and swollen
    const glm::vec3 end = corner();
    CHECK(waitFor([&] { return showsText(*desk.window, "frame"); }));
    desk.click("clipRest");
    REQUIRE(waitFor([&] { return corner() == rest; }));
    desk.view().setFocus();
    QTest::keyClick(&desk.view(), Qt::Key_Space);
    CHECK(desk.page().clips().isPlaying());
    REQUIRE(waitFor([&] { return corner() != rest && corner() != end; }));
    QTest::keyClick(&desk.view(), Qt::Key_Space);
    CHECK_FALSE(desk.page().clips().isPlaying());
    REQUIRE(desk.settled());
    // Picking follows the pose.
    const auto scene = desk.view().scene();
    CHECK(scene->bounds.max.y == Approx(geometry::meshBounds(scene->mesh).max.y));
}
