// Solids in the window: a scene from nothing, chosen, moved, changed, grouped, undone and saved; light that
// comes roughly first.
#include "desk.h"

#include "app/pages/tryout_page.h"
#include "app/pages/upload_dialog.h"
#include "core/project/solids_document.h"
#include "app/solids/onto_others.h"
#include "core/solids/scene_model.h"
#include "core/texture/picture_file.h"
#include "standins/region/region_server.h"
#include "standins/region/region_store.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QPlainTextEdit>
#include <QTreeWidget>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// Two boxes and a lamp on Commonmoor, taken in hand.
struct Moor : Desk {
    WorkbenchPage* page = nullptr;
    std::filesystem::path file;

    Moor() : Desk(24) {
        solids::Scene scene;
        scene.groups[1] = {"yard", 0, 0};
        for (const int k : {0, 1}) {
            solids::Solid& box = scene.solids[2 + k];
            box.name = k ? "crate" : "slab", box.group = 1;
            box.shape.size = k ? glm::dvec3(0.6) : glm::dvec3(3, 0.2, 3);
            box.at = k ? glm::dvec3(0.5, 0.5, 0.5) : glm::dvec3(0, 0.1, 0);
        }
        scene.lights[4] = {"lamp", solids::LightKind::Lamp, {-0.8, 1.4, 0.2}, {}, {1, 1, 1}, 1, {0.1, 0.1}};
        project::SolidsDocument document;
        document.scene = scene;
        file = folder / "yard.solids";
        writeFile(file, project::documentText(project::solidsKind, document));
        session().edit("bring in", [&](project::Project& project) {
            project.platforms.push_back("commonmoor");
            project::Piece piece;
            piece.name = "Yard";
            piece.sources = {{file, "", "", project::Permission::OwnWork}};
            piece.crossings = {{"commonmoor", {}}};
            project.pieces.push_back(piece);
        });
        REQUIRE(idle());
        window->showWorkbench("Yard", "commonmoor");
        page = &window->workbench();
        page->setStage(steps::Stage::Shape);
        REQUIRE(settled());
    }
    bool settled() {
        return idle() && waitFor([&] { return page->isSettled(); }, 30000);
    }
    solids::Scene scene() {
        return std::dynamic_pointer_cast<const project::SolidsDocument>(
                   session().documents().now(file).document)
            ->scene;
    }
    QPoint on(const glm::dvec3& place) { return page->view().onScreen(place).toPoint(); }
    void press(const glm::dvec3& place, Qt::KeyboardModifiers keys = Qt::NoModifier) {
        QTest::mouseClick(&page->view(), Qt::LeftButton, keys, on(place));
    }
    void type(Qt::Key key, Qt::KeyboardModifiers keys = Qt::NoModifier) {
        page->view().setFocus();
        QTest::keyClick(&page->view(), key, keys);
    }
};

} // namespace

TEST_CASE("solids are chosen by clicks, moved by drags in steps, and it is all undone") {
    Moor moor;
    moor.click("mode-solids");
    REQUIRE(moor.settled());
    moor.page->view().lookFrom(ModelView::From::Above);
    REQUIRE(moor.settled());
    moor.press({0.5, 0.8, 0.5});
    auto* tree = moor.find<QTreeWidget>("solidsTree");
    REQUIRE(tree->selectedItems().size() == 1);
    CHECK(tree->selectedItems()[0]->text(0) == "crate");

    const glm::dvec3 before = moor.scene().solids.at(3).at;
    drag(moor.page->view(), Qt::LeftButton, moor.on({0.5, 0.8, 0.5}), moor.on({-0.42, 0.8, 0.1}));
    REQUIRE(moor.settled());
    const glm::dvec3 after = moor.scene().solids.at(3).at;
    CHECK(after.y == before.y);
    CHECK(after.x == Approx(-0.4).margin(0.101));
    CHECK(after.z == Approx(0.1).margin(0.101));
    CHECK(std::abs(std::remainder(after.x - before.x, 0.1)) < 1e-9); // whole steps of 10 cm
    CHECK(moor.scene().solids.at(2).at == glm::dvec3(0, 0.1, 0));
    moor.type(Qt::Key_PageUp);
    CHECK(moor.scene().solids.at(3).at.y == Approx(0.6));
    moor.session().undo().undo();
    moor.session().undo().undo();
    CHECK(moor.scene().solids.at(3).at == before);
    REQUIRE(moor.settled());
}

TEST_CASE("several solids are edited together, grouped, copied and removed") {
    Moor moor;
    moor.click("mode-solids");
    moor.page->view().lookFrom(ModelView::From::Above);
    REQUIRE(moor.settled());
    moor.press({0.5, 0.8, 0.5});
    moor.press({-1.2, 0.2, -1.2}, Qt::ShiftModifier);
    REQUIRE(moor.find<QTreeWidget>("solidsTree")->selectedItems().size() == 2);
    CHECK(waitFor([&] { return showsText(*moor.window, "2 solids are edited together"); }, 5000));
    auto* stuff = moor.find<QWidget>("form-look")->findChild<QComboBox*>();
    REQUIRE(stuff);
    stuff->setCurrentIndex(int(solids::Stuff::Stone));
    Q_EMIT stuff->activated(int(solids::Stuff::Stone));
    CHECK(moor.scene().solids.at(2).look.stuff == solids::Stuff::Stone);
    CHECK(moor.scene().solids.at(3).look.stuff == solids::Stuff::Stone);
    CHECK(moor.scene().solids.at(2).shape.size == glm::dvec3(3, 0.2, 3)); // nothing else of them

    moor.press({0.5, 0.8, 0.5});
    moor.type(Qt::Key_G);
    solids::Scene scene = moor.scene();
    REQUIRE(scene.groups.size() == 2);
    const int made = scene.solids.at(3).group;
    CHECK(made != 1);
    CHECK(scene.groups.at(made).within == 1);
    CHECK(scene.groups.at(made).lead == 3);
    moor.type(Qt::Key_D, Qt::ControlModifier);
    REQUIRE(moor.scene().solids.size() == 3);
    moor.type(Qt::Key_Delete);
    CHECK(moor.scene().solids.size() == 2);
    moor.press({0.5, 0.8, 0.5});
    moor.type(Qt::Key_G, Qt::ShiftModifier);
    CHECK(moor.scene().groups.size() == 1);
    CHECK(moor.scene().solids.at(3).group == 1);
    auto* tree = moor.find<QTreeWidget>("solidsTree");
    tree->topLevelItem(0)->setText(0, "back yard"); // as its editor does
    REQUIRE(waitFor([&] { return moor.scene().groups.at(1).name == "back yard"; }, 5000));
    CHECK(tree->topLevelItem(0)->text(0) == "back yard");
    REQUIRE(moor.settled());
}

TEST_CASE("angles are typed in degrees, and kept as such") {
    Moor moor;
    moor.click("mode-solids");
    moor.page->view().lookFrom(ModelView::From::Above);
    REQUIRE(moor.settled());
    moor.press({0.5, 0.8, 0.5});
    const auto box = [&](const char* form, const char* name) {
        return moor.find<QWidget>(form)->findChild<QDoubleSpinBox*>(name);
    };
    box("form-solid", "field-turn-up")->setValue(30);
    REQUIRE(waitFor([&] { return moor.scene().solids.at(3).turn.y == 30; }, 5000));
    REQUIRE(waitFor([&] { return box("form-solid", "field-turn-up")->value() == 30; }, 5000));
    box("form-solid", "field-twist")->setValue(-45);
    REQUIRE(waitFor([&] { return moor.scene().solids.at(3).shape.twist == -45; }, 5000));
    moor.session().undo().undo();
    moor.session().undo().undo();
    CHECK(moor.scene().solids.at(3).turn.y == 0);
    moor.type(Qt::Key_Escape);
    box("form-scene", "field-sides")->setValue(12);
    REQUIRE(waitFor([&] { return moor.scene().sides == 12; }, 5000));
    moor.session().undo().undo();
    CHECK(moor.scene().sides == 32);
    REQUIRE(moor.settled());
}

TEST_CASE("a face shows a picture from beside the scene, moved and repeated, and one from elsewhere is "
          "brought beside it") {
    Moor moor;
    const TemporaryFolder elsewhere;
    const auto png = [](std::uint8_t red) {
        Pixels pixels;
        pixels.width = pixels.height = 4;
        pixels.rgba.assign(64, red);
        return texture::encodePng(pixels);
    };
    writeFile(moor.folder / "tiles.png", png(200));
    writeFile(elsewhere.path() / "tiles.png", png(40));
    moor.click("mode-solids");
    moor.page->view().lookFrom(ModelView::From::Above);
    REQUIRE(moor.settled());
    moor.press({0.5, 0.8, 0.5});
    const auto choose = [&](const char* name, const QString& text) {
        auto* box = moor.find<QComboBox>(name);
        const int index = box->findText(text);
        REQUIRE(index >= 0);
        box->setCurrentIndex(index);
        Q_EMIT box->activated(index);
    };
    choose("solid-face", "head");
    REQUIRE(moor.settled());
    choose("solid-picture", "tiles.png");
    REQUIRE(waitFor([&] { return moor.scene().solids.at(3).lookOf(solids::HeadFace).picture == "tiles.png"; },
                    5000));
    CHECK(moor.scene().solids.at(3).look.picture.empty());
    REQUIRE(waitFor([&] { return moor.window->findChild<QWidget*>("form-picture") != nullptr; }, 5000));
    auto* repeats = moor.find<QWidget>("form-picture")->findChild<QDoubleSpinBox*>("field-repeats-across");
    REQUIRE(repeats);
    repeats->setFocus();
    repeats->setValue(3);
    REQUIRE(waitFor([&] { return moor.scene().solids.at(3).lookOf(solids::HeadFace).placement.scale.x == 3; },
                    5000));
    CHECK(QApplication::focusWidget()->objectName() == "field-repeats-across"); // made anew, still in hand
    // It is seen while it is edited.
    REQUIRE(waitFor([&] {
        const auto shown = moor.page->view().restScene();
        return shown && shown->model.images.size() == 1 && shown->model.images[0]->width == 4;
    }));
    answerDialog(QString::fromStdString((elsewhere.path() / "tiles.png").string()));
    choose("solid-picture", "another file…");
    REQUIRE(waitFor(
        [&] { return moor.scene().solids.at(3).lookOf(solids::HeadFace).picture == "tiles-2.png"; }, 10000));
    CHECK(readText(moor.folder / "tiles-2.png") == png(40));
    CHECK(moor.scene().solids.at(3).lookOf(solids::HeadFace).placement.scale.x == 3);
    REQUIRE(moor.settled());
}

TEST_CASE("what is dragged comes to lie on others where that is asked for") {
    Moor moor;
    moor.click("mode-solids");
    moor.page->view().lookFrom(ModelView::From::Above);
    REQUIRE(moor.settled());
    auto* snaps = moor.find<QComboBox>("mode-solid-snap");
    snaps->setCurrentIndex(snaps->findText("onto others"));
    // The slab ends at 1.5; the crate is 0.6 wide, and is let go 2 cm short of it.
    moor.press({0.5, 0.8, 0.5});
    const double pixel = [&] {
        const QPointF a = moor.page->view().onScreen({0, 0.8, 0}),
                      b = moor.page->view().onScreen({1, 0.8, 0});
        return 1 / std::hypot(b.x() - a.x(), b.y() - a.y());
    }();
    REQUIRE(pixel < 0.02);
    drag(moor.page->view(), Qt::LeftButton, moor.on({0.5, 0.8, 0.5}), moor.on({1.2 - 3 * pixel, 0.8, 0.5}));
    REQUIRE(moor.settled());
    CHECK(moor.scene().solids.at(3).at.x == Approx(1.2).margin(1e-9));
}

TEST_CASE("moves onto others take the nearest end or middle within reach, on each axis by itself") {
    geometry::Bounds moved, first, second;
    moved.add({0, 0, 0}), moved.add({1, 1, 1});
    first.add({3, 0, 0}), first.add({4, 2, 1});
    second.add({10, 5, 5}), second.add({12, 6, 9});
    const std::vector others{first, second};
    const OntoOthers met = ontoOthers(moved, others, {1.95, 0, 0.02}, {true, false, true}, 0.1);
    CHECK(met.by.x == Approx(2)); // its end at the first one's beginning
    CHECK(met.by.y == 0);
    CHECK(met.by.z == Approx(0).margin(1e-12));
    CHECK(met.other[0] == 0);
    CHECK(met.other[1] == -1);
    const OntoOthers apart = ontoOthers(moved, others, {1.8, 0.3, 0}, {true, true, false}, 0.1);
    CHECK(apart.by == glm::dvec3(1.8, 0.3, 0));
    const OntoOthers level = ontoOthers(moved, others, {0, 0.52, 0}, {false, true, false}, 0.1);
    CHECK(level.by.y == Approx(0.5)); // middle at middle
}

TEST_CASE("a scene is made of a mesh's parts, those that are near enough, as a piece of its own") {
    Moor moor;
    solids::Scene parts;
    for (const int k : {1, 2, 3}) {
        solids::Solid& solid = parts.solids[k];
        solid.name = "part", solid.at = {2.0 * k, 1, 0};
        solid.shape.kind = k == 1 ? solids::Kind::Box : k == 2 ? solids::Kind::Cylinder : solids::Kind::Tube;
        solid.shape.size = glm::dvec3(1), solid.shape.thick = 0.3;
    }
    const Model model = solids::modelOf(parts, "stall");
    for (const OutFile& file : formats::writeGlb(model, {"stall"}, nullptr))
        writeFile(moor.folder / file.name, file.bytes);
    moor.session().bringIn(QStringList{QString::fromStdString((moor.folder / "stall.glb").string())});
    REQUIRE(moor.idle());
    const std::string piece = moor.session().project().pieces.back().name;
    moor.window->showWorkbench(QString::fromStdString(piece), "commonmoor");
    moor.page->setStage(steps::Stage::Shape);
    REQUIRE(moor.settled());
    moor.click("mode-solids-from-parts");
    QDialog* dialog = nullptr;
    REQUIRE(waitFor(
        [&] {
            return (dialog = moor.window->findChild<QDialog*>("recognisedDialog")) && dialog->isVisible();
        },
        20000));
    auto* words = dialog->findChild<QLabel*>("recognisedWords");
    CHECK(words->text().contains("2 of 3"));
    dialog->findChild<QDoubleSpinBox*>("recognisedWithin")->setValue(100);
    CHECK(words->text().contains("3 of 3"));
    dialog->findChild<QDoubleSpinBox*>("recognisedWithin")->setValue(5);
    QTest::mouseClick(dialog->findChild<QAbstractButton*>("recognisedTake"), Qt::LeftButton);
    REQUIRE(waitFor([&] { return moor.page->piece().endsWith("of solids"); }, 10000));
    REQUIRE(moor.settled());
    const auto* shown = solids::shownBy(
        moor.session().state(moor.page->piece().toStdString(), "commonmoor").evaluation.model);
    REQUIRE(shown);
    REQUIRE(shown->scene.solids.size() == 2);
    CHECK(shown->scene.solids.begin()->second.shape.kind == solids::Kind::Box);
    CHECK(glm::distance(shown->scene.solids.begin()->second.at, glm::dvec3(2, 1, 0)) < 1e-4);
}

TEST_CASE("a scene begins with nothing, is filled, saved and opened again") {
    Moor moor;
    moor.session().undo().setClean();
    moor.window->newScene();
    REQUIRE(moor.idle());
    moor.page->setStage(steps::Stage::Shape);
    moor.click("mode-solids");
    auto* kinds = moor.find<QComboBox>("mode-solid-kind");
    for (const int index : {2, 4, 8}) { // a cylinder, a ball, a lamp
        kinds->setCurrentIndex(index);
        Q_EMIT kinds->activated(index);
    }
    REQUIRE(moor.settled());
    const auto file = moor.folder / "Scene.solids";
    const auto now = [&] {
        return std::dynamic_pointer_cast<const project::SolidsDocument>(
                   moor.session().documents().now(file).document)
            ->scene;
    };
    REQUIRE(now().solids.size() == 2);
    CHECK(now().lights.size() == 1);
    moor.session().saveAs(moor.session().project().file);
    REQUIRE(std::filesystem::exists(file));
    CHECK(moor.session().documents().unsaved().empty());
    moor.click("mode-solids");
    REQUIRE(moor.settled());
    CHECK(solids::shownBy(moor.session().state("Scene", "commonmoor").evaluation.model));
}

TEST_CASE("light is rough at first and becomes what is delivered") {
    Moor moor;
    std::vector<int> sizes;
    QObject::connect(&moor.session(), &Session::crossingComes, moor.window.get(),
                     [&](const QString&, const QString&, const std::shared_ptr<const Model>& model) {
                         sizes.push_back(model->images.empty() ? 0 : model->images[0]->width);
                     });
    moor.session().editCrossing("bake", "Yard", "commonmoor", [](project::Crossing& crossing) {
        recipe::Entry entry{"bake-light", true, {{"pixels", 128}}};
        entry.params = steps::makeStep(entry.step, entry.params)->params();
        crossing.recipe.push_back(entry);
    });
    REQUIRE(moor.settled());
    REQUIRE(sizes == std::vector<int>{16, 64});
    const Model& made = moor.session().state("Yard", "commonmoor").evaluation.model;
    REQUIRE(solids::shownBy(made));
    CHECK(solids::shownBy(made)->lit);
    CHECK(made.images.size() == 12);
    CHECK(made.images[0]->width == 128);
    REQUIRE(waitFor([&] {
        const auto shown = moor.page->view().restScene();
        return shown && shown->model.images.size() == 12 && shown->model.images[0]->width == 128;
    }));
}

TEST_CASE("baking is stopped, and goes on when it is asked to") {
    Moor moor;
    auto* stop = moor.window->findChild<QAbstractButton*>("cancelWork");
    auto* goOn = moor.window->findChild<QAbstractButton*>("goOnWork");
    REQUIRE(stop);
    REQUIRE(goOn);
    CHECK_FALSE(goOn->isVisible());
    moor.session().editCrossing("bake", "Yard", "commonmoor", [](project::Crossing& crossing) {
        recipe::Entry entry{"bake-light", true, {{"pixels", 256}, {"fineness", 8}, {"bounces", 4}}};
        entry.params = steps::makeStep(entry.step, entry.params)->params();
        crossing.recipe.push_back(entry);
    });
    REQUIRE(waitFor([&] { return stop->isVisible(); }, 20000));
    QTest::mouseClick(stop, Qt::LeftButton);
    const auto kind = [&] { return moor.session().state("Yard", "commonmoor").kind; };
    REQUIRE(waitFor([&] { return kind() == CrossingState::Kind::Stopped; }, 20000));
    REQUIRE(waitFor([&] { return goOn->isVisible(); }, 5000));
    QTest::mouseClick(goOn, Qt::LeftButton);
    CHECK_FALSE(kind() == CrossingState::Kind::Stopped);
    REQUIRE(waitFor([&] { return kind() == CrossingState::Kind::Ready; }, 120000));
    CHECK_FALSE(goOn->isVisible());
    CHECK(solids::shownBy(moor.session().state("Yard", "commonmoor").evaluation.model)->lit);
    REQUIRE(moor.settled());
}

TEST_CASE("a built scene is uploaded from the window, after a wrong password with the right one") {
    Moor moor;
    const TemporaryFolder data;
    const standins::region::RegionServer server({data.path()});
    moor.page->setStage(steps::Stage::Deliver);
    moor.window->build();
    REQUIRE(moor.settled());
    moor.click("uploadAsked");
    auto* dialog = moor.window->findChild<UploadDialog*>();
    REQUIRE(dialog);
    const auto field = [&](const char* name) { return dialog->findChild<QLineEdit*>(name); };
    auto* go = dialog->findChild<QAbstractButton*>("uploadGo");
    auto* words = dialog->findChild<QLabel*>("uploadWords");
    field("uploadServer")->setText(QString::fromStdString(server.url()));
    CHECK_FALSE(go->isEnabled()); // nobody is named yet
    field("uploadUser")->setText("mira");
    QTest::keyClicks(field("uploadPassword"), "not-this");
    QTest::mouseClick(go, Qt::LeftButton);
    REQUIRE(waitFor([&] { return words->text().contains("wrong"); }, 20000));
    CHECK(field("uploadPassword")->text().isEmpty());
    QTest::keyClicks(field("uploadPassword"), QString("lantern-on-the-") + "quay");
    QTest::mouseClick(go, Qt::LeftButton);
    REQUIRE(waitFor([&] { return words->text().contains("stands in the test region"); }, 20000));
    const QString log = dialog->findChild<QPlainTextEdit*>("uploadLog")->toPlainText();
    CHECK(log.contains("solid 3 crate"));
    CHECK(log.contains("group 1 yard"));
    CHECK_FALSE(log.contains("lantern"));
    CHECK(standins::region::RegionStore(data.path()).build("test", "yard")->solids.size() == 2);
    QTest::mouseClick(dialog->findChild<QAbstractButton*>("uploadClose"), Qt::LeftButton);

    // The tryout's viewer logs in and stands below it.
    moor.window->tryOut();
    auto* page = moor.window->findChild<TryoutPage*>();
    REQUIRE(page);
    REQUIRE(waitFor([&] { return page->isReady(); }, 30000));
    CHECK(waitFor([&] { return showsText(*moor.window, "Accepted by the region"); }, 5000));
    const auto logIn = [&](const QString& password) {
        moor.click("try-visit");
        auto* visit = moor.window->findChild<QDialog*>("visitDialog");
        REQUIRE(visit);
        QTest::keyClicks(visit->findChild<QLineEdit*>("uploadPassword"), password);
        QTest::mouseClick(visit->findChild<QAbstractButton*>("visitGo"), Qt::LeftButton);
        REQUIRE(waitFor([&] { return !moor.window->findChild<QDialog*>("visitDialog"); }, 5000));
    };
    logIn("not-this");
    REQUIRE(waitFor([&] { return page->isReady(); }, 30000)); // the delivered files are back
    CHECK(waitFor([&] { return showsText(*moor.window, "Accepted by the region"); }, 5000));
    logIn(QString("lantern-on-the-") + "quay");
    REQUIRE(waitFor([&] { return page->isReady(); }, 30000));
    REQUIRE(waitFor([&] { return showsText(*moor.window, "Accepted by the test region"); }, 5000));
    CHECK(showsText(*moor.window, "2 solids in 1 group"));
    auto& view = page->view();
    const glm::vec3 stood = view.arena()->figureFoot();
    const glm::dvec3 target = view.camera().target;
    view.setFocus();
    QTest::keyPress(&view, Qt::Key_Up);
    QTest::qWait(400);
    QTest::keyRelease(&view, Qt::Key_Up);
    const glm::vec3 walked = view.arena()->figureFoot() - stood;
    CHECK(glm::length(walked) > 0.2f);
    CHECK(glm::distance(view.camera().target, target + glm::dvec3(walked)) < 1e-4); // the camera goes along
    logIn("not-this"); // after a region was seen, it is the delivered files that come back, too
    CHECK(
        waitFor([&] { return page->isReady() && showsText(*moor.window, "Accepted by the region"); }, 30000));
    for (const QString& key : QSettings().allKeys())
        CHECK_FALSE(QSettings().value(key).toString().contains("lantern"));
}
