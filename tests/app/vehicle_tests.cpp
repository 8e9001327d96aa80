// A car in the window: its showcase pose, wheels taken from another, the circuit, and into the game and out.
#include "desk.h"
#include "support/box_car.h"

#include "app/pages/tryout_page.h"
#include "app/view/tryout_view.h"
#include "core/geometry/part_places.h"
#include "standins/world/arena.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>

#include <map>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

std::map<std::string, std::string> filesIn(const std::filesystem::path& folder) {
    std::map<std::string, std::string> out;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
        if (entry.is_regular_file())
            out[entry.path().lexically_relative(folder).generic_string()] = readText(entry.path());
    return out;
}

/// A desk with a car on Oxbow, and another whose wheels are smaller and painted otherwise.
struct Garage : Desk {
    std::filesystem::path game = folder / "game";

    Garage() {
        bring(boxCars::boxCar(), "box-car");
        Model other = boxCars::boxCar();
        for (std::size_t n = 0; n < other.nodes.size(); ++n)
            if (other.nodes[n].name.starts_with("wheel.")) {
                auto mesh = std::make_shared<Mesh>(*other.meshes[std::size_t(other.nodes[n].mesh)]);
                for (auto& p : mesh->positions) p = 0.9f * p + glm::vec3(0.2, 0, 0); // off its origin
                other.meshes[std::size_t(other.nodes[n].mesh)] = mesh;
            }
        other.materials[1].picture(PictureRole::Colour).image = 0;
        other.images = {texture::pictureFromBytes("paint.png", png(8, 8, 200))};
        bring(other, "other-car");
        writeAllOrNone(game, {{"cars/box-car/box-car.glb", "the game's own"}, {"cars/van/van.glb", "a van"}});
        session().editCrossing("open", "Box car", "oxbow", [](project::Crossing&) {});
        REQUIRE(idle());
        window->showWorkbench("Box car", "oxbow");
        REQUIRE(waitFor([&] { return window->workbench().isSettled(); }));
    }
    void bring(const Model& model, const char* name) {
        writeAllOrNone(folder.path(), formats::writeGlb(model, {name}, nullptr));
        session().bringIn({QString::fromStdString((folder / (std::string(name) + ".glb")).string())});
        REQUIRE(idle());
    }
    void build() {
        window->workbench().setStage(steps::Stage::Deliver);
        QTest::keyClick(window.get(), Qt::Key_B, Qt::ControlModifier);
        REQUIRE(waitFor([&] { return std::filesystem::exists(delivered() / "box-car.car.json"); }));
        REQUIRE(idle());
    }
    std::filesystem::path delivered() const { return folder / "delivered/oxbow/box-car"; }
    /// Whether a label comes to say that.
    bool says(const char* text) {
        return waitFor(
            [&] {
                for (auto* label : window->findChildren<QLabel*>())
                    if (label->isVisible() && QString(label->text()).remove(QChar(0x200b)).contains(text))
                        return true;
                return false;
            },
            8000);
    }
};

} // namespace

TEST_CASE("the showcase pose changes the preview and nothing that is driven") {
    Garage garage;
    garage.build();
    REQUIRE(garage.says("Written at"));
    const auto plain = filesIn(garage.delivered());
    REQUIRE(plain.size() == 5);
    auto* steering = garage.find<QWidget>("field-steering");
    auto* number = steering->findChild<QLineEdit*>();
    REQUIRE(number);
    number->setFocus();
    number->selectAll();
    QTest::keyClicks(number, "30");
    QTest::keyClick(number, Qt::Key_Return);
    REQUIRE(garage.idle());
    const auto& piece = *garage.session().project().piece("Box car");
    CHECK(deliveryFor(piece, "oxbow")["steering"] == 30);
    CHECK(recipeFor(piece, "oxbow").empty());
    CHECK(garage.find<QLabel>("preview")->pixmap().width() > 100);
    std::filesystem::remove(garage.delivered() / "box-car.car.json");
    garage.build();
    auto posed = filesIn(garage.delivered());
    CHECK(posed.at("preview.png") != plain.at("preview.png"));
    posed["preview.png"] = plain.at("preview.png");
    CHECK(posed == plain);
}

TEST_CASE("what was built goes into the game's folder and comes out again") {
    Garage garage;
    const auto before = filesIn(garage.game);
    QSettings().setValue("install/oxbow", QString::fromStdString(garage.game.string()));
    garage.window->workbench().setStage(steps::Stage::Deliver);
    REQUIRE(garage.idle());
    CHECK(garage.says("Build it first"));
    garage.build();
    auto* keep = garage.find<QLineEdit>("keepAs");
    CHECK(keep->text() == "box-car-original");
    keep->setFocus();
    keep->selectAll();
    QTest::keyClicks(keep, "van");
    QTest::keyClick(keep, Qt::Key_Return);
    REQUIRE(garage.says("has a car \"van\" already"));
    CHECK_FALSE(garage.find<QPushButton>("putIn")->isEnabled());
    CHECK(filesIn(garage.game) == before);
    keep = garage.find<QLineEdit>("keepAs");
    keep->setFocus();
    keep->selectAll();
    QTest::keyClicks(keep, "first-car");
    QTest::keyClick(keep, Qt::Key_Return);
    REQUIRE(waitFor([&] {
        auto* put = garage.window->findChild<QPushButton*>("putIn");
        return put && put->isEnabled();
    }));
    garage.click("putIn");
    REQUIRE(waitFor([&] { return garage.window->findChild<QPushButton*>("takeOut") != nullptr; }));
    REQUIRE(garage.idle());
    const auto now = filesIn(garage.game);
    CHECK(now.at("cars/first-car/box-car.glb") == "the game's own");
    CHECK(now.at("cars/box-car/box-car.glb") == readText(garage.delivered() / "box-car.glb"));
    CHECK(garage.says("It is in the game as it was built"));
    garage.click("takeOut");
    REQUIRE(waitFor([&] {
        try {
            return filesIn(garage.game) == before;
        } catch (const Error&) { // one went just as it was read
            return false;
        }
    }));
    REQUIRE(garage.idle());
    CHECK(garage.find<QLineEdit>("keepAs")->text() == "first-car");
}

TEST_CASE("a car is driven round on the circuit and stands in the garage") {
    Garage garage;
    garage.build();
    garage.click("try");
    auto& page = garage.window->tryout();
    REQUIRE(waitFor([&] { return page.isVisible() && page.isReady(); }));
    auto* view = page.findChild<TryoutView*>("tryoutView");
    REQUIRE(view);
    REQUIRE(view->arena());
    const auto wheel = [&] { return view->arena()->drawn().at(1).pose; };
    const auto start = wheel();
    garage.click("try-drive");
    REQUIRE(waitFor([&] { return glm::distance(glm::vec3(start[3]), glm::vec3(wheel()[3])) > 0.5f; }));
    garage.click("try-drive");
    garage.click("try-back");
    REQUIRE(waitFor([&] { return wheel() == start; }));
    auto* where = garage.find<QComboBox>("try-where");
    where->setFocus();
    QTest::keyClick(where, Qt::Key_Down);
    REQUIRE(waitFor([&] { return wheel() != start; }));
}

TEST_CASE("wheels of another car come onto the hubs, and one hand makes the track wider") {
    Garage garage;
    auto& bench = garage.window->workbench();
    garage.session().editCrossing("take", "Box car", "oxbow", [](project::Crossing& crossing) {
        crossing.recipe = {
            {"take-parts", true,
             steps::makeStep("take-parts", {{"from", {{"piece", "Other car"}}}, {"parts", {"wheel.*"}}})
                 ->params()}};
    });
    REQUIRE(garage.idle());
    bench.setStage(steps::Stage::Shape);
    REQUIRE(waitFor([&] { return bench.isSettled(); }));
    const auto now = [&]() -> const Model& {
        return garage.session().state("Box car", "oxbow").evaluation.model;
    };
    const auto wheel = [&](const char* name) {
        for (std::size_t n = 0; n < now().nodes.size(); ++n)
            if (now().nodes[n].name == name) return geometry::boundsOf(now(), {int(n)});
        return geometry::Bounds();
    };
    CHECK(wheel("wheel.front.left").size().y == Approx(2 * 0.9 * boxCars::radius));
    CHECK(wheel("wheel.front.left").centre().x == Approx(0.8).margin(1e-4));
    CHECK(garage.says("told apart: paint → paint-2"));
    garage.click("stepOffer");
    auto& view = bench.view();
    REQUIRE(waitFor([&] { return bench.isSettled() && view.handles().handles().size() == 4; }));
    garage.click("mode-ahead");
    const auto& handles = view.handles().handles();
    const auto left = std::ranges::max_element(handles, {}, [](const Handle& handle) { return handle.at.x; });
    const QPoint at = view.onScreen(left->at).toPoint();
    const bool front = left->at.z > 0;
    drag(view, Qt::LeftButton, at, at + QPoint(20, 0));
    REQUIRE(waitFor([&] { return wheel(front ? "wheel.front.left" : "wheel.rear.left").centre().x > 0.82; }));
    REQUIRE(garage.idle());
    const double out = wheel(front ? "wheel.front.left" : "wheel.rear.left").centre().x;
    CHECK(wheel(front ? "wheel.front.right" : "wheel.rear.right").centre().x == Approx(-out).margin(1e-4));
    CHECK(wheel(front ? "wheel.rear.left" : "wheel.front.left").centre().x == Approx(0.8).margin(1e-4));
    garage.session().undo().undo();
    REQUIRE(garage.idle());
    CHECK(wheel("wheel.front.left").centre().x == Approx(0.8).margin(1e-4));
}
