// The Surface stage: materials as cards, pictures channel by channel, layouts, and pictures bound by name.
#include "desk.h"
#include "core/base/file_bytes.h"
#include "core/platform/cost.h"
#include "support/panels.h"

#include <QComboBox>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

std::shared_ptr<const Image> drawn(const char* name, int edge, bool alpha,
                                   const std::function<glm::ivec4(int, int)>& at) {
    Pixels out{edge, edge, {}};
    for (int y = 0; y < edge; ++y)
        for (int x = 0; x < edge; ++x)
            for (int k = 0; k < 4; ++k) out.rgba.push_back(std::uint8_t(at(x, y)[k]));
    return texture::pictureFromPixels(name, std::move(out), alpha);
}

/// Two upright squares side by side: "sail" with a picture of red rising to the right and green downward, and
/// "hull" in plain blue.
Model boat() {
    Model model = shapes::pictured({shapes::uprightSquare(1, -1), shapes::uprightSquare(1, 0)});
    model.materials = {{.name = "sail", .baseColour = glm::vec4(1)},
                       {.name = "hull", .baseColour = {0, 0, 1, 1}}};
    model.materials[0].wear(PictureRole::Colour, {.image = 0});
    model.images[0] = drawn("sail.png", 256, true, [](int x, int y) { return glm::ivec4(x, y, 40, 255); });
    Mesh hull = *model.meshes[1];
    hull.runs[0].material = 1;
    model.meshes[1] = std::make_shared<const Mesh>(hull);
    model.nodes[0].name = "sail cloth", model.nodes[1].name = "hull side";
    model.frame.unitAssumed = model.frame.upAssumed = false;
    return model;
}

void openSurface(Desk& desk, const char* platform, const Model& model = boat()) {
    desk.open(model, "boat", platform);
    desk.window->workbench().setStage(steps::Stage::Surface);
    REQUIRE(waitFor(
        [&] { return desk.window->workbench().surface().look() && desk.window->workbench().isSettled(); }));
}

bool settled(Desk& desk) {
    return waitFor([&] { return desk.idle() && desk.window->workbench().isSettled(); });
}

PictureCanvas& canvas(Desk& desk) {
    return *desk.find<PictureCanvas>("pictureCanvas");
}

QColor seen(PictureCanvas& canvas, QPointF uv) {
    return canvas.grab().toImage().pixelColor(canvas.toScreen(uv).toPoint());
}

bool near(const QColor& a, const QColor& b) {
    return std::abs(a.red() - b.red()) < 4 && std::abs(a.green() - b.green()) < 4 &&
           std::abs(a.blue() - b.blue()) < 4;
}

/// A label that was just made is shown a moment later.
bool comes(QWidget& in, const QString& text) {
    return waitFor([&] { return showsText(in, text); }, 5000);
}

std::string savedPicture(Desk& desk, const std::string& name) {
    const auto image = drawn("x.png", 8, false, [](int x, int) { return glm::ivec4(x * 30, 90, 90, 255); });
    writeFile(desk.folder / name, texture::encodePng(*image->pixels, false));
    return name;
}

} // namespace

TEST_CASE("materials are cards with what they wear; a click in the view opens the one that was clicked") {
    Desk desk;
    openSurface(desk, "saltbranch");
    auto* panel = desk.find<MaterialsPanel>("materials");
    CHECK(panel->opened() == "sail");
    CHECK(comes(*desk.window, "sail@metal is written on delivery"));
    CHECK(comes(*desk.window, "1 picture · 32 triangles · 256 texels a metre"));
    CHECK(comes(*desk.window, "No picture of normal, height"));
    auto& view = desk.window->workbench().view();
    desk.click("mode-ahead");
    REQUIRE(settled(desk));
    const auto at = view.onScreen({0.5, 0.5, 0}).toPoint(); // of the hull
    QTest::mouseClick(&view, Qt::LeftButton, {}, at);
    CHECK(panel->opened() == "hull");
    CHECK(comes(*desk.window, "It wears no picture."));
    QTest::keyClick(desk.find<QFrame>("material-sail"), Qt::Key_Return);
    CHECK(panel->opened() == "sail");
}

TEST_CASE(
    "a click opens the material of what was clicked, also without UVs and under a name that others have") {
    Model model = boat();
    Mesh hull = *model.meshes[1];
    hull.uvSets.clear();
    model.meshes[1] = std::make_shared<const Mesh>(hull);
    model.materials[1].name = "sail";
    Desk desk;
    openSurface(desk, "saltbranch", model);
    auto* panel = desk.find<MaterialsPanel>("materials");
    CHECK(panel->opened() == "sail");
    auto& view = desk.window->workbench().view();
    desk.click("mode-ahead");
    REQUIRE(settled(desk));
    QTest::mouseClick(&view, Qt::LeftButton, {}, view.onScreen({0.5, 0.5, 0}).toPoint());
    CHECK(panel->opened() == "sail (2)");
    CHECK(comes(*desk.window, "It wears no picture."));
}

TEST_CASE("a picture is shown large, its channels alone, with numbers, beside what is delivered of it") {
    Desk desk;
    openSurface(desk, "saltbranch");
    desk.click("sight-pictures");
    REQUIRE(settled(desk));
    PictureCanvas& shown = canvas(desk);
    CHECK_FALSE(desk.window->workbench().view().isVisible());
    CHECK(near(seen(shown, {0.3, 0.25}), QColor(76, 64, 40))); // left of the line: the source
    CHECK(near(seen(shown, {0.7, 0.75}), QColor(179, 192, 40)));
    CHECK(comes(*desk.window, "Alpha says nothing (all 1)"));
    desk.click("channel-G");
    CHECK(near(seen(shown, {0.3, 0.25}), QColor(64, 64, 64)));
    CHECK(near(seen(shown, {0.7, 0.75}), QColor(179, 192, 40))); // the other picture stays whole
    CHECK(comes(*desk.window, "least 0, mean 0.5, most 1; 256 values"));
    desk.click("channel-B");
    CHECK(comes(*desk.window, "says nothing: 0.16 everywhere"));
    desk.click("picture-delivered-1");
    REQUIRE(settled(desk));
    CHECK(near(seen(shown, {0.7, 0.75}), QColor(255, 255, 255))); // the blue of a flat normal
    CHECK(comes(*desk.window, "normal is flat"));
    desk.click("channel-B");
    CHECK(near(seen(shown, {0.7, 0.75}), QColor(128, 128, 255)));
    // The pointer reads single pixels of what lies under it.
    CHECK(shown.wordsAt(shown.toScreen({0.25, 0.5})) ==
          QString("x 64, y 128 · R 0.25 G 0.50 B 0.16 A 1.00 · sRGB"));
    CHECK(shown.wordsAt(shown.toScreen({0.75, 0.5})).endsWith("plain numbers"));
    // The line is dragged, and the wheel zooms to the pointer.
    const QPoint line(shown.width() / 2, shown.height() / 2);
    drag(shown, Qt::LeftButton, line, line + QPoint(shown.width() / 3, 0));
    CHECK(near(seen(shown, {0.7, 0.75}), QColor(179, 192, 40)));
    const QPointF kept = shown.toUv({200, 300});
    QWheelEvent wheel({200, 300}, shown.mapToGlobal(QPointF(200, 300)), {}, {0, 480}, Qt::NoButton,
                      Qt::NoModifier, Qt::NoScrollPhase, false);
    QApplication::sendEvent(&shown, &wheel);
    CHECK(std::abs(shown.toUv({200, 300}).x() - kept.x()) < 1e-6);
    CHECK(shown.toUv({260, 300}).x() - kept.x() < 0.1);
    QTest::keyClick(&shown, Qt::Key_F);
    desk.click("mode-delivered");
    desk.click("mode-tiled");
    desk.click("picture-source-0");
    REQUIRE(settled(desk));
    CHECK(near(seen(shown, {1.3, 0.25}), QColor(76, 64, 40)));
    desk.click("sight-model");
    CHECK(desk.window->workbench().view().isVisible());
    CHECK_FALSE(shown.isVisible());
    desk.window->workbench().setStage(steps::Stage::Shape);
    CHECK(desk.window->workbench().surface().sight() == SurfaceSight::Model);
}

TEST_CASE("a place is marked in the model and in the picture at once") {
    Desk desk;
    openSurface(desk, "playmeadow");
    desk.click("sight-pictures");
    REQUIRE(settled(desk));
    desk.click("mode-modelBeside");
    auto& view = desk.window->workbench().view();
    REQUIRE(view.isVisible());
    desk.click("mode-ahead");
    REQUIRE(waitFor([&] { return view.isResting(); }));
    PictureCanvas& shown = canvas(desk);
    hover(shown, shown.toScreen({0.25, 0.75})); // rows from the top
    REQUIRE(view.spots().spot);
    const auto scene = view.restScene();
    const glm::dvec3 size = scene->bounds.size(), least = scene->bounds.min;
    CHECK(glm::distance(*view.spots().spot, least + glm::dvec3(0.125, 0.25, 0) * size) < 0.02 * size.x);
    hover(view, view.onScreen(least + glm::dvec3(0.375, 0.5, 0) * size));
    const QColor ring =
        seen(shown, QPointF(0.75, 0.5) +
                        QPointF(8.0 / (shown.toScreen({1, 0}).x() - shown.toScreen({0, 0}).x()), 0));
    CHECK(ring.red() > 200); // zest on the picture's 191, 128, 40
    QEvent left(QEvent::Leave);
    QApplication::sendEvent(&shown, &left);
    CHECK_FALSE(view.spots().spot);
}

TEST_CASE("a layout says what lies over what, selects by a click, and is saved to be painted on") {
    Desk desk;
    openSurface(desk, "playmeadow");
    desk.click("sight-layout");
    REQUIRE(settled(desk));
    CHECK(comes(*desk.window, "UV layout of sail"));
    CHECK(desk.find<QPushButton>("fault-0")->text() == "lie over others: 0");
    PictureCanvas& shown = canvas(desk);
    QTest::mouseClick(&shown, Qt::LeftButton, {}, shown.toScreen({0.4, 0.4}).toPoint());
    const auto& parts = desk.window->workbench().selected().parts();
    REQUIRE(parts.size() == 1);
    CHECK(parts.begin()->find("sail cloth") != std::string::npos);
    const auto svg = desk.folder / "sail.svg", png = desk.folder / "sail.png";
    desk.window->workbench().surface().saveLayout(QString::fromStdString(svg.string()));
    desk.window->workbench().surface().saveLayout(QString::fromStdString(png.string()));
    REQUIRE(waitFor([&] { return std::filesystem::exists(svg) && std::filesystem::exists(png); }));
    CHECK(texture::pictureFromBytes("sail.png", std::string(FileBytes(png).text()))->width == 2048);
}

TEST_CASE(
    "pictures of a folder are bound by the endings of their names, twofold ones told, moved ones found") {
    Desk desk;
    openSurface(desk, "saltbranch");
    std::filesystem::create_directories(desk.folder / "skins/old");
    for (const char* name :
         {"skins/sail-n.png", "skins/sail-orm.png", "skins/old/sail_normal.png", "skins/note.png"})
        savedPicture(desk, name);
    desk.click("bindPictures");
    auto* panel = desk.find<BindPanel>("bindPanel");
    CHECK_FALSE(desk.window->findChild<QPushButton*>("bindNow")->isVisible());
    panel->look({QString::fromStdString((desk.folder / "skins").string())});
    REQUIRE(desk.idle());
    CHECK(comes(*panel, "4 pictures in"));
    CHECK(comes(*panel, "sail_normal.png (normal of sail)"));
    CHECK(desk.find<QPushButton>("bindNow")->text() == "Bind 2 pictures"); // of which one holds three roles
    CHECK(desk.session().project().piece("Boat")->recipe.empty());         // nothing silently
    desk.click("bindNow");
    REQUIRE(desk.idle());
    const auto& recipe = desk.session().project().piece("Boat")->recipe; // on every platform
    REQUIRE(recipe.size() == 1);
    CHECK(recipe[0].params["pictures"][0]["picture"]["file"] == "skins/sail-n.png");
    const auto& model = desk.session().state("Boat", "saltbranch").evaluation.model;
    CHECK(model.materials[0].picture(PictureRole::Normal));
    CHECK(model.materials[0].picture(PictureRole::Roughness).channel == PictureChannel::Green);
    desk.session().undo().undo();
    CHECK(desk.session().project().piece("Boat")->recipe.empty());
    desk.session().undo().redo();
    REQUIRE(desk.idle());

    std::filesystem::rename(desk.folder / "skins", desk.folder / "moved");
    desk.click("bindPictures");
    panel->look({QString::fromStdString((desk.folder / "moved").string())});
    REQUIRE(desk.idle());
    CHECK(desk.find<QPushButton>("relinkNow")->text() == "Relink 2");
    desk.click("relinkNow");
    CHECK(desk.session().project().piece("Boat")->recipe[0].params["pictures"][0]["picture"]["file"] ==
          "moved/sail-n.png");
}

TEST_CASE("a picture is dragged on the model: what lay under the mark lies under the hand, turned and sized "
          "by others") {
    Desk desk;
    openSurface(desk, "playmeadow");
    auto& bench = desk.window->workbench();
    auto& view = bench.view();
    desk.click("mode-ahead");
    bench.selected().setMaterials({"sail"});
    bench.addStep("uv-placement");
    REQUIRE(settled(desk));
    const auto handle = [&](const char* id) {
        const auto& all = view.handles().handles();
        const auto found = std::ranges::find(all, QString(id), &Handle::id);
        REQUIRE(found != all.end());
        return *found;
    };
    const auto params = [&]() -> nlohmann::ordered_json {
        return desk.session().project().piece("Boat")->on("playmeadow")->recipe.back().params;
    };
    // The step is about everything: both squares lie on the whole picture, and the mark on the first's
    // middle.
    const Handle carry = handle("carry");
    const glm::dvec3 right = carry.at + glm::dvec3(0.2, -0.1, 0) * (view.restScene()->bounds.size().x / 2);
    drag(view, Qt::LeftButton, view.onScreen(carry.at).toPoint(), view.onScreen(right).toPoint());
    REQUIRE(settled(desk));
    CHECK(params()["across"].get<double>() == Approx(0.2).margin(0.01));
    CHECK(params()["down"].get<double>() == Approx(0.1).margin(0.01));
    const Handle turn = handle("turn");
    const glm::dvec3 arm = turn.at - turn.centre;
    drag(view, Qt::LeftButton, view.onScreen(turn.at).toPoint(),
         view.onScreen(turn.centre + glm::dvec3(-arm.y, arm.x, 0)).toPoint());
    REQUIRE(settled(desk));
    CHECK(params()["turn"].get<double>() == Approx(90).margin(3));
    const Handle size = handle("size");
    drag(view, Qt::LeftButton, view.onScreen(size.at).toPoint(),
         view.onScreen(size.at + (size.at - carry.at) * 0.5).toPoint());
    REQUIRE(settled(desk));
    CHECK(params()["wider"].get<double>() == Approx(1.5).margin(0.1));
    desk.session().undo().undo();
    CHECK(params()["wider"].get<double>() == Approx(1));
}

TEST_CASE("the card of a step that is added is brought into sight") {
    Desk desk;
    openSurface(desk, "saltbranch");
    REQUIRE(settled(desk));
    desk.window->workbench().addStep("normals");
    REQUIRE(settled(desk));
    auto* card = desk.find<QWidget>("card-normals");
    QWidget* panel = card;
    while (!qobject_cast<QScrollArea*>(panel)) panel = panel->parentWidget();
    CHECK(waitFor([&] { return panel->rect().contains(QRect(card->mapTo(panel, QPoint()), card->size())); }));
}

TEST_CASE("what copies cost stands on Deliver, and follows their number") {
    Desk desk;
    openSurface(desk, "saltbranch");
    desk.window->workbench().setStage(steps::Stage::Deliver);
    REQUIRE(desk.idle());
    desk.find<QWidget>("costPanel");
    auto* copies = desk.find<QSpinBox>("copies");
    copies->setValue(3);
    const auto sheet = desk.session().sheet("saltbranch");
    const auto cost = platform::costOf(desk.session().state("Boat", "saltbranch").evaluation.model, *sheet);
    const double one = cost.memory(1, true, cost.usual(), sheet->cost);
    CHECK(one > 256 * 256 * 4); // the base; of what there is no picture one pixel is packed
    const QString words = desk.find<QLabel>("costQualities")->text();
    CHECK(words.contains(QString::fromStdString(showBytes(one))));
    CHECK(words.contains(QString::fromStdString(showBytes(3 * one))));
    CHECK(desk.find<QLabel>("costLimits")->text().contains("Memory"));
    CHECK_FALSE(desk.find<QLabel>("costLimits")->text().contains("<b>!"));
    copies->setValue(1000000);
    CHECK(desk.find<QLabel>("costLimits")->text().contains("<b>! Frame"));
}

TEST_CASE("a picture is seen in each quality of an importer that shrinks it, the usual one first") {
    Desk desk;
    openSurface(desk, "skerry");
    CHECK(comes(*desk.window, "As its importer shows it"));
    CHECK(comes(*desk.window, "far ✓ usual"));
    desk.click("sight-pictures");
    REQUIRE(settled(desk));
    // 256 px are less than any quality shrinks.
    CHECK(comes(*desk.window, "256 × 256 px"));
    const auto* material = desk.window->workbench().surface().look()->material("sail");
    REQUIRE(material->delivered.size() == 3);
    CHECK(material->usual == 2);
    // The same with a picture that is shrunk, straight from what the stage shows.
    SurfaceLook look = *desk.window->workbench().surface().look();
    look.model.images[0] =
        drawn("wide.png", 1024, false, [](int x, int) { return glm::ivec4(x / 4, 0, 0, 255); });
    const auto levels = deliveredLevels(look, *material, 2, {});
    CHECK(levels->size() == QSize(512, 512));
    CHECK(levels->facts.contains("25 %"));
    CHECK(deliveredLevels(look, *material, 1, {})->size() == QSize(1024, 1024));
}

TEST_CASE("levels of detail change over by the camera's distance") {
    Desk desk;
    Model ball = shapes::modelOf(shapes::sphere(48, 32, 0.5), "ball");
    ball.frame.unitAssumed = ball.frame.upAssumed = false;
    writeAllOrNone(desk.folder.path(), formats::writeGlb(ball, {"buoy"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "buoy.glb").string())});
    REQUIRE(desk.idle());
    desk.session().editCrossing("levels", "Buoy", "saltbranch", [](project::Crossing& c) {
        c.recipe.push_back(
            {"levels-of-detail",
             true,
             {{"levels", {{{"by", "share"}, {"share", 0.3}}, {{"by", "share"}, {"share", 0.05}}}}}});
    });
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Buoy", "saltbranch");
    REQUIRE(settled(desk));
    auto* list = desk.find<QComboBox>("mode-level");
    REQUIRE(list->count() == 4);
    CHECK(list->itemText(3) == "By the camera's distance");
    auto& view = desk.window->workbench().view();
    const std::size_t whole = view.restScene()->triangles;
    list->setCurrentIndex(3);
    Q_EMIT list->activated(3);
    std::vector<std::size_t> seen;
    for (const double distance : {0.6, 4.0, 400.0}) {
        view.camera().distance = distance;
        QTest::keyClick(&view, Qt::Key_Left); // any look from elsewhere
        REQUIRE(settled(desk));
        seen.push_back(view.restScene()->triangles);
    }
    CHECK(seen[0] == whole);
    CHECK(seen[2] <= whole / 15);
    CHECK(seen[1] >= seen[2]);
    list->setCurrentIndex(0);
    Q_EMIT list->activated(0);
    REQUIRE(settled(desk));
    CHECK(view.restScene()->triangles == whole);
}

TEST_CASE("a piece that cannot be read says so in place of its surfaces") {
    Desk desk;
    // A file of the format's first version, which is another format altogether.
    writeFile(desk.folder / "boat.glb", std::string("glTF\1\0\0\0\24\0\0\0\0\0\0\0\0\0\0\0", 20));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "boat.glb").string())});
    REQUIRE(desk.idle());
    desk.session().editCrossing("open", "Boat", "saltbranch", [](project::Crossing&) {});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Boat", "saltbranch");
    desk.window->workbench().setStage(steps::Stage::Surface);
    CHECK(comes(*desk.window, "Nothing is known of its surfaces"));
    CHECK_FALSE(showsText(*desk.window, "Looking at the piece's surfaces"));
}

TEST_CASE("a picture is seen as a console with few bytes for it shows it, in each format that would fit") {
    Desk desk;
    openSurface(desk, "brindle");
    CHECK(comes(*desk.window, "As the console shows it, what loses least first"));
    const auto* material = desk.window->workbench().surface().look()->material("sail");
    REQUIRE(material->delivered.size() > 2);
    for (const auto& held : material->delivered) CHECK(held.detail.contains("off by"));
    desk.click("sight-pictures");
    REQUIRE(settled(desk));
    // 256 x 256 pixels come to fewer, and what is seen is what is held.
    const auto levels = deliveredLevels(*desk.window->workbench().surface().look(), *material, 0, {});
    CHECK(levels->size().width() < 256);
    CHECK(levels->caption == "on the console: " + material->delivered[0].name);
    CHECK(levels->levels[0]->rgba == material->delivered[0].held->rgba);
    // Pixels are squares in the view, too.
    const auto& scene = *desk.window->workbench().view().restScene();
    CHECK_FALSE(scene.full.ranges[0].sampler.smooth);
    // Behind the step that brings it there, it is one way and no guess.
    desk.window->workbench().addStep("picture-bytes");
    REQUIRE(settled(desk));
    const auto one = [&] {
        const auto* sail = desk.window->workbench().surface().look()->material("sail");
        return sail->delivered.size() == 1 && sail->delivered[0].detail.contains("as it is");
    };
    CHECK(waitFor([&] { return desk.window->workbench().surface().look() && one(); }));
}
