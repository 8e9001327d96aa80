// Tryouts of every platform in the window, on files that were delivered or spoiled.
#include "desk.h"

#include "app/sound/sound_mixer.h"
#include "app/widgets/elided_label.h"
#include "core/deliver/deliver.h"
#include "core/texture/picture_file.h"

#include <QComboBox>
#include <QDropEvent>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

std::shared_ptr<const platform::Sheet> sheet(const char* id) {
    return platform::sheetNamed(platform::loadSheets(), id);
}

/// Delivers a model as it is into a folder of its own.
std::filesystem::path delivered(const TemporaryFolder& folder, const Model& model, const char* platform,
                                const recipe::Recipe& recipe = {}) {
    const auto out = folder / platform;
    const auto built = deliver::build(model, 1, recipe, *sheet(platform), out, {"thing", "own work"});
    REQUIRE(built.fits);
    return out;
}

/// Two props of 30 cm, each with a material of its own; the first wears a picture.
Model props() {
    Model model = shapes::box({-0.15, 0, -0.15}, {0.15, 0.3, 0.15});
    model.nodes[0].name = "crate";
    model.materials = {{.name = "pine"}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs[0].material = 0;
    mesh->uvSets = {std::vector<glm::vec2>(mesh->vertexCount(), glm::vec2(0.5f))};
    model.meshes[0] = mesh;
    model.images = {texture::pictureFromBytes(
        "pine.png", texture::encodePng({4, 4, std::vector<std::uint8_t>(64, 150)}))};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    model.headingKnown = true;
    return model;
}

struct Trial {
    Desk desk;
    TemporaryFolder folder;

    TryoutPage& load(const std::filesystem::path& path, const char* standIn) {
        auto& page = desk.window->tryout();
        desk.open();
        desk.click("try"); // shows the page; what it loads is replaced at once
        REQUIRE(waitFor([&] { return page.isVisible() && page.isReady(); }));
        page.load(QString::fromStdString(path.string()), standIn);
        REQUIRE(waitFor([&] { return page.isReady(); }));
        return page;
    }
    Trial() : desk(40, true) {
        desk.session().editCrossing("unit", "Ball", "hearthboard", [](project::Crossing& c) {
            c.recipe.push_back({"unit-and-up", true, {{"unit", "m"}, {"up", "y"}}});
        });
        REQUIRE(desk.idle());
    }
    bool shows(const QString& text) {
        return waitFor([&] { return showsText(*desk.window, text); }, 8000);
    }
};

} // namespace

TEST_CASE("the site says that it is checking, and its verdict only behind the last upload") {
    Trial trial;
    auto& page = trial.load(delivered(trial.folder, props(), "playmeadow"), "site");
    CHECK(trial.shows("is checking"));
    CHECK_FALSE(showsText(*trial.desk.window, "Accepted by"));
    REQUIRE(page.view().arena());
    CHECK(page.view().arena()->isChecking());
    const auto room = page.view().arena()->frame();
    const auto foot = page.view().arena()->figureFoot();
    CHECK(page.view().arena()->drawn().empty()); // nothing is there yet, but room for it
    CHECK(trial.shows("Accepted by"));
    CHECK_FALSE(page.view().arena()->drawn().empty());
    CHECK(glm::distance(page.view().arena()->frame().second, room.second) < 0.1f);
    CHECK(glm::distance(page.view().arena()->figureFoot(), foot) < 0.1f);
    CHECK_FALSE(page.view().arena()->isChecking());
    CHECK_FALSE(showsText(*trial.desk.window, "is checking"));
    trial.desk.click("try-upload"); // and again from the start
    CHECK(trial.shows("is checking"));
    CHECK(trial.shows("Accepted by"));
}

TEST_CASE("a missing picture makes the site wait for it, and linking it changes the verdict") {
    Trial trial;
    const auto out = delivered(trial.folder, props(), "playmeadow");
    std::filesystem::path picture;
    for (const auto& entry : std::filesystem::directory_iterator(out / "pictures")) picture = entry.path();
    REQUIRE_FALSE(picture.empty());
    std::filesystem::rename(picture, trial.folder / "aside.png");
    trial.load(out, "site");
    CHECK(trial.shows("Refused by"));
    CHECK(trial.shows("waits for its picture"));
    std::filesystem::rename(trial.folder / "aside.png", picture);
    trial.desk.click("try-link");
    CHECK(trial.shows("Accepted by"));
    CHECK_FALSE(showsText(*trial.desk.window, "waits for its picture"));
}

TEST_CASE("the tryout's tools have room for their words at the smallest window") {
    Trial trial;
    trial.desk.window->resize(1100, 700);
    trial.desk.open();
    trial.desk.click("try");
    auto& page = trial.desk.window->tryout();
    REQUIRE(waitFor([&] { return page.isVisible() && page.isReady(); }));
    const auto tools = [&] {
        std::vector<QWidget*> found;
        for (auto* child : page.view().findChildren<QWidget*>())
            if (child->objectName().startsWith("try-") && child->isVisible()) found.push_back(child);
        return found;
    };
    REQUIRE(waitFor([&] { return tools().size() >= 8; }));
    const auto placeOf = [&](const QWidget* tool) {
        return QRect(tool->mapTo(&page.view(), QPoint()), tool->size());
    };
    for (const QWidget* tool : tools()) {
        INFO(tool->objectName().toStdString());
        CHECK(tool->width() >= tool->sizeHint().width());
        CHECK(page.view().rect().contains(placeOf(tool)));
        for (const QWidget* other : tools())
            if (other != tool) CHECK_FALSE(placeOf(other).intersects(placeOf(tool)));
    }
}

TEST_CASE("a folder that is dropped on the tryout is tried in place of what was delivered") {
    Trial trial;
    const auto good = delivered(trial.folder, props(), "playmeadow"), spoiled = trial.folder / "spoiled";
    std::filesystem::copy(good, spoiled, std::filesystem::copy_options::recursive);
    writeFile(spoiled / "pack.json", "{\"format\": ");
    const auto& page = trial.load(good, "site");
    CHECK(trial.shows("Accepted by"));
    const auto dropped = [&](const std::filesystem::path& folder) {
        drop(*trial.desk.window, {QString::fromStdString(folder.string())});
        return waitFor([&] { return page.isReady(); });
    };
    REQUIRE(dropped(spoiled));
    CHECK(trial.shows("Refused by"));
    CHECK(trial.desk.find<QPushButton>("try-folder")->isEnabled()); // another can be chosen
    REQUIRE(dropped(good));
    CHECK(trial.shows("Accepted by"));
    CHECK(trial.desk.session().project().pieces.size() == 1); // nothing was brought in
}

TEST_CASE("what a stand-in refuses is said with the file, and there is nothing to play with") {
    Trial trial;
    const auto out = delivered(trial.folder, props(), "playmeadow");
    writeFile(out / "pack.json", "{\"format\": ");
    auto& page = trial.load(out, "site");
    CHECK(trial.shows("Refused by"));
    CHECK(trial.shows("pack.json"));
    CHECK(page.view().arena() == nullptr);
    for (auto* made : trial.desk.window->findChildren<QPushButton*>("try-upload"))
        CHECK_FALSE(made->isVisible());
}

TEST_CASE("a stack that outgrows the view is brought into it") {
    Trial trial;
    Model post = shapes::box({-0.2, 0, -0.2}, {0.2, 3, 0.2});
    post.nodes[0].name = "post";
    post.headingKnown = true;
    auto& page = trial.load(delivered(trial.folder, post, "lampwright"), "level");
    REQUIRE(page.view().arena());
    const double near = page.view().camera().distance;
    trial.desk.click("try-stack");
    REQUIRE(page.view().arena()->drawn().size() == 3);
    CHECK(page.view().camera().distance > 1.5 * near);
    const auto [low, high] = page.view().arena()->frame();
    CHECK(page.view().camera().project({0, high.y, 0}, page.view().width(), page.view().height()).y > 0);
}

TEST_CASE("the truck drives through the gate and back, and its size is told in both units") {
    Trial trial;
    Model truck = shapes::box({-1.1, 0, -2.5}, {1.1, 2.4, 2.5});
    truck.nodes[0].name = "truck";
    truck.headingKnown = true;
    auto& page = trial.load(delivered(trial.folder, truck, "mudhaul"), "yard");
    CHECK(trial.shows("Accepted by"));
    CHECK(trial.shows("decimetres"));
    REQUIRE(page.view().arena());
    const auto where = [&] {
        const auto drawn = page.view().arena()->drawn();
        REQUIRE_FALSE(drawn.empty());
        glm::vec3 sum(0);
        for (const auto& one : drawn) sum += glm::vec3(one.pose[3]);
        return sum;
    };
    const glm::vec3 start = where();
    trial.desk.click("try-drive");
    CHECK(waitFor([&] { return glm::distance(where(), start) > 71; })); // its length and the gate
    auto& view = page.view();
    for (const auto& one : view.arena()->drawn()) {
        const glm::dvec3 at = view.camera().project(glm::dvec3(one.pose[3]), view.width(), view.height());
        CHECK((at.x > 0 && at.x < view.width() && at.y > 0 && at.y < view.height()));
    }
    for (const auto& mark : view.arena()->marks())
        if (mark.text.ends_with("wide")) CHECK(mark.from.z > 25); // it went along
    trial.desk.click("try-back");
    CHECK(waitFor([&] { return glm::distance(where(), start) < 1; }));
}

TEST_CASE("on the table, colliders and finishes are chosen, and copies are added and knocked over") {
    Trial trial;
    const auto out = trial.folder / "table";
    Model figure = shapes::box({-0.008, 0, -0.008}, {0.008, 0.032, 0.008});
    const auto built =
        deliver::build(figure, 1, {{"collider-box", true, nlohmann::ordered_json::object()}},
                       *sheet("hearthboard"), out, {"figure", "own work"}, {{"finish", "matte"}});
    REQUIRE(built.fits);
    auto& page = trial.load(out, "table");
    CHECK(trial.shows("Accepted by"));
    const auto count = page.view().world()->count();
    trial.desk.click("try-copy");
    CHECK(page.view().world()->count() == count + 1);
    trial.desk.click("try-stack");
    CHECK(page.view().world()->count() == 2);
    trial.desk.click("try-drop");
    CHECK(page.view().world()->count() == 1);
    for (const char* name : {"try-collider", "try-outline", "try-finish"}) {
        auto* box = trial.desk.find<QComboBox>(name);
        REQUIRE(box->count() >= 2);
        for (int i = 0; i < box->count(); ++i) {
            box->setCurrentIndex(i);
            Q_EMIT box->activated(i);
            QTest::qWait(20);
        }
        CHECK_FALSE(box->accessibleName().isEmpty());
    }
    QTest::keyClick(&page, Qt::Key_Escape);
    CHECK(waitFor([&] { return trial.desk.window->workbench().isVisible(); }));
}

TEST_CASE("a picture dropped onto a face is worn there, by the drop and by the button's choice alike") {
    Trial trial;
    auto& page = trial.load(delivered(trial.folder, props(), "commonmoor"), "dressing-room");
    CHECK(trial.shows("Accepted by the dressing room"));
    CHECK(trial.shows("thing-pine.png"));
    CHECK(trial.desk.find<QPushButton>("try-picture")->text().contains("Picture for the face"));
    const auto picture =
        trial.folder.write("moss.png", texture::encodePng({16, 16, std::vector<std::uint8_t>(1024, 70)}));
    auto& view = page.view();
    const auto dropAt = [&](const QPointF& at, const std::filesystem::path& file) {
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(QString::fromStdString(file.string()))});
        QDragEnterEvent enter(at.toPoint(), Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&view, &enter);
        CHECK(enter.isAccepted());
        QDropEvent event(at, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&view, &event);
    };
    const glm::dvec3 on = view.camera().project({0, 0.15, 0.15}, view.width(), view.height());
    const int before = view.arena()->items()[0].picture->width;
    CHECK(before == 4);
    dropAt({on.x, on.y}, picture);
    CHECK(view.arena()->items()[0].picture->width == 16);
    CHECK(trial.shows("moss.png"));
    dropAt({3, 3}, picture); // beside the thing
    CHECK(trial.shows("There is no face under the pointer"));
    dropAt({on.x, on.y}, trial.folder.write("words.png", "no picture"));
    CHECK(trial.shows("words.png is refused"));
    CHECK(view.arena()->items()[0].picture->width == 16);
    trial.desk.click("try-undress");
    CHECK(view.arena()->items()[0].picture->width == 4);
}

TEST_CASE("the island shows copies with what they take, as they are held and drawn") {
    Trial trial;
    auto& page = trial.load(delivered(trial.folder, props(), "skerry"), "island");
    CHECK(trial.shows("Accepted by the island"));
    auto& view = page.view();
    const auto choose = [&](const char* name, int option) {
        auto* box = trial.desk.find<QComboBox>(name);
        box->setCurrentIndex(option);
        Q_EMIT box->activated(option);
    };
    CHECK(view.arena()->drawn().size() == 1);
    choose("try-copies", 8);
    CHECK(view.arena()->drawn().size() == 9);
    CHECK(view.arena()->items().size() == 1);
    CHECK(trial.shows("9 copies"));
    CHECK(waitFor([&] { // a picture was drawn, and timed
        for (const auto& table : view.arena()->tables())
            for (const auto& row : table.rows)
                if (row.name == "time" && row.values[0].find("ms") != std::string::npos) return true;
        return false;
    }));
    // What changes with every frame changes where it stands.
    const auto values = page.findChildren<ElidedLabel*>();
    CHECK(values.size() > 8);
    choose("try-quality", 1);
    QTest::qWait(300);
    CHECK(page.findChildren<ElidedLabel*>() == values);
    for (const auto* value : values) CHECK(value->isVisible());
    const double near = view.camera().distance;
    choose("try-sharing", 1);
    CHECK(view.arena()->items().size() == 9);
    choose("try-copies", 29);
    CHECK(view.arena()->drawn().size() == 30);
    CHECK(view.camera().distance > near); // there is room for all of them
}

TEST_CASE("steps on the test map are heard, until they are silenced") {
    QSettings().remove("sound");
    Trial trial;
    Model crate = shapes::box({-0.4, 0, -0.4}, {0.4, 0.8, 0.4});
    crate.headingKnown = true;
    auto& page = trial.load(delivered(trial.folder, crate, "culvert",
                                      {{"surface-kind", true, {{"kind", "wood"}}},
                                       {"convex-pieces", true, nlohmann::json::object()}}),
                            "tunnel");
    QSignalSpy played(&page, &TryoutPage::played);
    trial.desk.click("try-walk");
    REQUIRE(waitFor([&] { return played.size() >= 6; }, 8000));
    CHECK(played[0][0].toString() == "dry knock");
    CHECK(trial.desk.find<QPushButton>("try-sound")->text().trimmed() == "Sound on");
    trial.desk.click("try-sound");
    CHECK_FALSE(QSettings().value("sound").toBool());
    const auto heard = played.size();
    trial.desk.click("try-walk");
    QTest::qWait(1000);
    CHECK(played.size() == heard);
    QSettings().remove("sound");

    // What a button does next stands on it at once, and the keyboard stays there.
    auto* show = page.findChildren<QPushButton*>("try-body").last();
    CHECK(show->text() == "Show its body");
    show->setFocus();
    QTest::keyClick(show, Qt::Key_Space);
    auto* hide = page.findChildren<QPushButton*>("try-body").last();
    CHECK(hide->text() == "Hide its body");
    CHECK(QApplication::focusWidget() == hide);
}

TEST_CASE("sounds are put together, and together are never too loud") {
    SoundMixer mixer;
    CHECK(mixer.isSilent());
    mixer.add({});
    CHECK(mixer.isSilent());
    mixer.add({0.25f, 0.25f, 0.25f});
    std::vector<float> block(2);
    mixer.next(block);
    CHECK(block == std::vector<float>{0.25f, 0.25f});
    mixer.add({0.5f, -0.5f});
    mixer.next(block);
    CHECK(block == std::vector<float>{0.75f, -0.5f});
    CHECK(mixer.isSilent());
    for (int i = 0; i < 40; ++i) mixer.add(std::vector<float>(4, 0.7f));
    mixer.next(block);
    CHECK(block[0] <= 1);
    CHECK(block[0] > 0.95f);
    mixer.clear();
    mixer.next(block);
    CHECK(block[0] == 0);
}
