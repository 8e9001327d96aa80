// Bodies for physics in the window: pieces made, told apart, and changed by hand.
#include "desk.h"

#include "core/geometry/solids.h"

#include <QPushButton>
#include <QSlider>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// A table: a top and four legs.
Model table() {
    Model model = shapes::modelOf(geometry::boxMesh({-1, 0.9, -0.6}, {1, 1, 0.6}), "top");
    for (const double x : {-0.9, 0.8})
        for (const double z : {-0.5, 0.4}) {
            model.meshes.push_back(
                std::make_shared<const Mesh>(geometry::boxMesh({x, 0, z}, {x + 0.1, 0.9, z + 0.1})));
            model.nodes.push_back({"leg", -1, glm::dmat4(1), int(model.meshes.size()) - 1});
        }
    return model;
}

const project::Piece& pieceOf(Desk& desk, const char* name) {
    const auto* piece = desk.session().project().piece(name);
    REQUIRE(piece);
    return *piece;
}

} // namespace

TEST_CASE("convex pieces are made on Contact, have numbers, are drawn apart, and an offer changes them") {
    Desk desk;
    WorkbenchPage& page = desk.open(table(), "table", "culvert");
    page.setStage(steps::Stage::Contact);
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    CHECK_FALSE(desk.window->findChild<QSlider*>("slide-apart")->isVisible());
    page.addStep("convex-pieces");
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }, 30000));
    const auto bodies = [&] { return page.view().bodies().numbers(); };
    REQUIRE(waitFor([&] { return bodies().size() >= 5; }));
    CHECK(bodies()[0].text == "1");
    CHECK(bodies().back().text == QString::number(bodies().size()));
    for (std::size_t i = 1; i < bodies().size(); ++i) CHECK(bodies()[i].colour != bodies()[0].colour);

    auto* apart = desk.find<QSlider>("slide-apart");
    const auto before = bodies();
    apart->setFocus();
    QTest::keyClick(apart, Qt::Key_End);
    CHECK(apart->value() == apart->maximum());
    const auto after = bodies();
    double spread = 0;
    for (std::size_t i = 0; i < after.size(); ++i)
        spread = std::max(spread, double(glm::distance(before[i].at, after[i].at)));
    CHECK(spread > 1); // twice as far from the middle, and legs are half a metre off

    const std::size_t count = bodies().size();
    QPushButton* merge = nullptr;
    REQUIRE(waitFor([&] {
        for (auto* button : desk.window->findChildren<QPushButton*>())
            if (button->isVisible() && button->text().startsWith("Merge ")) merge = button;
        return merge != nullptr;
    }));
    QTest::mouseClick(merge, Qt::LeftButton);
    REQUIRE(waitFor([&] { return desk.idle() && bodies().size() == count - 1; }, 30000));
    const auto* crossing = pieceOf(desk, "Table").on("culvert");
    REQUIRE(crossing);
    CHECK(crossing->recipe.back().params["changes"].size() == 1);
    desk.session().undo().undo();
    REQUIRE(waitFor([&] { return desk.idle() && bodies().size() == count; }, 30000));

    page.setStage(steps::Stage::Place); // where they are where nothing draws them apart
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    CHECK_FALSE(apart->isVisible());
    CHECK(glm::distance(bodies()[0].at, before[0].at) < 1e-6f);
}

TEST_CASE("only what a body and the piece differ by is shown, anew when the body changes") {
    Desk desk;
    WorkbenchPage& page = desk.open(table(), "table", "culvert");
    page.setStage(steps::Stage::Contact);
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    auto* differs = desk.window->findChild<QToolButton*>("mode-differs");
    CHECK_FALSE(differs->isVisible()); // there is no body yet
    desk.session().editCrossing("body", "Table", "culvert", [](project::Crossing& crossing) {
        crossing.recipe.push_back({"convex-pieces", true, {{"goal", "number"}, {"pieces", 1}}});
    });
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled() && differs->isVisible(); }));
    CHECK_FALSE(page.view().difference());
    QTest::mouseClick(differs, Qt::LeftButton);
    REQUIRE(waitFor([&] { return page.view().difference() != nullptr; }));
    const double filled = page.view().difference()->fit.filledShare();
    CHECK(filled > 1); // one hull fills what is under the table
    CHECK(page.view().difference()->where.filled.size() > 100);
    CHECK(page.view().difference()->where.missing.size() < 100);
    CHECK_FALSE(desk.find<QToolButton>("mode-surfaces")->isEnabled());
    // Five pieces fill less.
    desk.session().editCrossing("body", "Table", "culvert", [](project::Crossing& crossing) {
        crossing.recipe.back().params["pieces"] = 5;
    });
    REQUIRE(waitFor([&] {
        return desk.idle() && page.view().difference() &&
               page.view().difference()->fit.filledShare() < 0.1 * filled;
    }));
    // Sending something at it puts it away.
    QTest::mouseClick(desk.find<QToolButton>("mode-probe"), Qt::LeftButton);
    CHECK_FALSE(page.view().difference());
    CHECK_FALSE(differs->isChecked());
    QTest::mouseClick(differs, Qt::LeftButton);
    CHECK(page.view().tool() == nullptr);
    REQUIRE(waitFor([&] { return page.view().difference() != nullptr; }));
    page.setStage(steps::Stage::Shape);
    CHECK_FALSE(page.view().difference());
    CHECK_FALSE(differs->isVisible());
}

TEST_CASE("what is selected is painted as of a surface kind, and the next of the same kind joins it") {
    Desk desk;
    WorkbenchPage& page = desk.open(table(), "table", "culvert");
    page.setStage(steps::Stage::Shape);
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    const auto facesOf = [&](const QString& word) {
        for (const auto& kind : page.view().surfaces().kinds())
            if (kind.word == word) return int(kind.faces);
        return 0;
    };
    const auto paint = [&](const std::set<NodePath>& parts, const char* kind) {
        page.selected().setParts(parts);
        auto* kinds = desk.find<QComboBox>("paintKind");
        kinds->setCurrentIndex(kinds->findData(QString(kind)));
        CHECK_FALSE(kinds->itemIcon(kinds->currentIndex()).isNull());
        desk.click("paintSelection");
        CHECK(page.selected().empty());
        REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    };
    const auto painted = [&] { return pieceOf(desk, "Table").on("culvert")->recipe.size(); };
    const auto unpainted = painted();
    paint({"top"}, "wood");
    CHECK(facesOf("wood") == 12);
    CHECK(facesOf("of nothing") == 48);
    CHECK(painted() == unpainted + 1);
    paint({"leg"}, "wood"); // the first of four
    CHECK(facesOf("wood") == 24);
    CHECK(painted() == unpainted + 1);
    paint({"top"}, "metal"); // over what was wood
    CHECK(facesOf("wood") == 12);
    CHECK(facesOf("metal") == 12);
    CHECK(painted() == unpainted + 2);
    page.selected().setParts({"top"});
    CHECK(desk.find<QComboBox>("paintKind")->currentData() == "metal"); // it is remembered
    desk.session().undo().undo();
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    CHECK(facesOf("wood") == 24);
    // A platform without kinds has nothing to paint with.
    page.open("Table", "hearthboard");
    REQUIRE(waitFor([&] { return desk.idle() && page.isSettled(); }));
    page.selected().setParts({"top"});
    CHECK(waitFor([&] { return desk.window->findChild<QComboBox*>("paintKind") == nullptr; }));
}
