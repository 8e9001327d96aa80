// What real use broke in the window: work that was cancelled, files that went and came back, plans for pieces
// that are not open any more, offers that no step takes, errors in slots.
#include "desk.h"

#include "app/program.h"

#include "core/base/pattern.h"
#include "core/project/dependencies.h"

#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QScrollBar>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTextBrowser>

#include <atomic>
#include <thread>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// Cancels all work the moment some of it whose title holds `word` runs; false when none came.
bool cancelWhen(Desk& desk, const QString& word) {
    return waitFor(
        [&] {
            for (const auto* job : desk.session().jobs().running())
                if (job->title().contains(word)) {
                    desk.session().jobs().cancelAll();
                    return true;
                }
            return false;
        },
        20000);
}

} // namespace

TEST_CASE("a check that was cancelled says so, and goes on when it is asked to") {
    Desk desk;
    desk.session().editCrossing("turn", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"turn", true, {{"y", 30}}});
    });
    desk.session().jobs().cancelAll();
    REQUIRE(waitFor([&] { return desk.state().kind == CrossingState::Kind::Stopped; }));
    REQUIRE(desk.idle());
    CHECK(desk.session().isAnythingStopped());
    CHECK(waitFor([&] { return showsText(*desk.window, "Checking was stopped"); }));
    desk.click("checkAgain");
    CHECK(waitFor([&] { return desk.state().kind == CrossingState::Kind::Ready; }));
    CHECK(desk.state().evaluation.outcomes.size() == 1);
    REQUIRE(desk.idle());
}

TEST_CASE("a piece whose reading was stopped is not said to be read still") {
    std::atomic<bool> holds{false}; // one job runs at a time, so reading waits until all are stopped
    Desk desk;
    desk.session().jobs().start<int>(
        "Holding", desk.window.get(),
        [&](const Progress& progress) {
            holds = true;
            while (!progress.isCancelled()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
            return 0;
        },
        [](int) {}, [](const QString&) {}, Urgency::Asked);
    REQUIRE(waitFor([&] { return holds.load(); }));
    std::filesystem::copy_file(desk.folder / "ball.obj", desk.folder / "other.obj");
    desk.session().bringIn({QString::fromStdString((desk.folder / "other.obj").string())});
    CHECK(waitFor([&] { return showsText(*desk.window, "being read…"); }));
    desk.session().jobs().cancelAll();
    REQUIRE(desk.idle());
    CHECK(waitFor([&] { return showsText(*desk.window, "reading stopped"); }));
    CHECK_FALSE(showsText(*desk.window, "being read…"));
    desk.window->loom().select("Other", "hearthboard");
    desk.click("checkAgain");
    CHECK(waitFor([&] { return !showsText(*desk.window, "reading stopped"); }));
    REQUIRE(desk.idle());
}

TEST_CASE("the licences in About wrap") {
    Desk desk;
    desk.window->openAbout();
    const auto* notices = desk.find<QTextBrowser>("aboutNotices");
    CHECK(notices->document()->toPlainText().contains("SIL Open Font License"));
    CHECK(notices->horizontalScrollBar()->maximum() == 0);
    QTest::keyClick(desk.window->findChild<QDialog*>("about"), Qt::Key_Escape);
}

TEST_CASE("a view whose drawing was cancelled can be drawn after all") {
    Desk desk(400);
    QTest::mouseDClick(desk.find<CrossingButton>("crossing-Ball-hearthboard"), Qt::LeftButton);
    REQUIRE(cancelWhen(desk, "Preparing the view"));
    REQUIRE(desk.idle());
    CHECK_FALSE(desk.window->workbench().isSettled());
    desk.click("goOn");
    CHECK(waitFor([&] { return desk.window->workbench().isSettled(); }));
}

TEST_CASE("a source that was deleted and comes back is read again") {
    Desk desk;
    const std::string bytes = readText(desk.folder / "ball.obj");
    std::filesystem::remove(desk.folder / "ball.obj");
    REQUIRE(waitFor([&] { return desk.state().kind == CrossingState::Kind::Failed; }));
    REQUIRE(desk.idle());
    CHECK(showsText(*desk.window, "ball.obj is gone"));
    writeFile(desk.folder / "ball.obj", bytes);
    CHECK(waitFor([&] { return desk.state().kind == CrossingState::Kind::Ready; }));
    REQUIRE(desk.idle());
    CHECK(waitFor([&] { return showsText(*desk.window, "ball.obj is back"); }));
    CHECK_FALSE(showsText(*desk.window, "ball.obj is gone"));
}

TEST_CASE("a picture that was missing is taken when it is put beside the model") {
    Desk desk;
    std::string obj = readText(desk.folder / "ball.obj");
    writeFile(desk.folder / "ball.obj", "mtllib ball.mtl\nusemtl skin\n" + obj);
    REQUIRE(waitFor([&] { return !desk.state().source.warnings.empty(); }));
    REQUIRE(desk.idle());
    writeFile(desk.folder / "ball.mtl", "newmtl skin\nKd 1 0 0\n");
    CHECK(waitFor(
        [&] { return desk.state().source.warnings.empty() && !desk.state().source.materials.empty(); },
        15000));
    REQUIRE(desk.idle());
}

TEST_CASE("a plan that ends after another piece was opened is not offered there") {
    Desk desk;
    Model cube = shapes::box({-0.01, 0, -0.01}, {0.01, 0.03, 0.01});
    writeAllOrNone(desk.folder.path(), formats::writeObj(cube, {"cube"}, nullptr));
    desk.session().bringIn({QString::fromStdString((desk.folder / "cube.obj").string())});
    REQUIRE(desk.idle());
    desk.open();
    desk.window->workbench().suggest();
    desk.window->showWorkbench("Cube", "hearthboard"); // before the plan can have ended
    REQUIRE(desk.idle());
    for (QDialog* dialog : desk.window->findChildren<QDialog*>()) CHECK_FALSE(dialog->isVisible());
    CHECK(desk.session().project().piece("Cube")->on("hearthboard")->recipe.empty());
    CHECK(waitFor(
        [&] {
            const auto* text = desk.window->findChild<QLabel*>("statusText");
            return text && text->text().contains("Ball");
        },
        3000));
}

TEST_CASE("a plan for a recipe that changed meanwhile is not added to it") {
    Desk desk;
    desk.open();
    desk.window->workbench().suggest();
    desk.session().editCrossing("turn", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"turn", true, {{"x", 90}}});
    });
    REQUIRE(desk.idle());
    for (QDialog* dialog : desk.window->findChildren<QDialog*>()) CHECK_FALSE(dialog->isVisible());
}

TEST_CASE("an exception in a slot is told and ends nothing") {
    Desk desk;
    QSignalSpy troubled(qobject_cast<Program*>(QApplication::instance()), &Program::troubled);
    QPushButton button(desk.window.get());
    QObject::connect(&button, &QPushButton::clicked,
                     [] { throw Error("cannot be done", "here", "Do another."); });
    QMetaObject::invokeMethod(&button, "click", Qt::QueuedConnection);
    CHECK(waitFor([&] { return troubled.count() == 1; }));
    CHECK(troubled.at(0).at(0).toString().contains("cannot be done"));
    CHECK(showsText(*desk.window, "cannot be done"));
}

TEST_CASE("a job that throws anything at all is a failed job") {
    Desk desk;
    QString problem;
    desk.session().jobs().start<int>(
        "Throwing", desk.window.get(), [](const Progress&) -> int { throw 5; }, [](int) {},
        [&](const QString& words) { problem = words; });
    CHECK(waitFor([&] { return !problem.isEmpty(); }));
}

TEST_CASE("a flat part offers no height, measuring one corner twice no length, and names with signs are "
          "meant as they are") {
    Desk desk;
    Model plate = shapes::box({-0.5, 0, -0.5}, {0.5, 0.2, 0.5});
    auto flat = std::make_shared<Mesh>(*plate.meshes[0]);
    for (glm::vec3& p : flat->positions) p.y = 0;
    plate.meshes.push_back(flat);
    plate.nodes.push_back({"mat, flat *", -1, glm::dmat4(1.0), 1});
    plate.nodes.push_back({"mat, flat x", -1, glm::dmat4(1.0), 0});
    writeAllOrNone(desk.folder.path(), formats::writeObj(plate, {"plate"}, nullptr));
    desk.session().bringIn({QString::fromStdString((desk.folder / "plate.obj").string())});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Plate", "hearthboard");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    const auto& model = desk.session().state("Plate", "hearthboard").evaluation.model;
    int flatNode = -1;
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (model.nodes[n].name == "mat, flat *") flatNode = int(n);
    REQUIRE(flatNode >= 0);
    desk.selectNodes({flatNode});
    CHECK(waitFor([&] { return desk.window->findChild<QPushButton*>("bakePart") != nullptr; }));
    for (auto* offer : desk.window->findChildren<QPushButton*>("sizeByPart")) CHECK_FALSE(offer->isVisible());
    desk.click("bakePart");
    REQUIRE(desk.idle());
    const auto& recipe = desk.session().project().piece("Plate")->on("hearthboard")->recipe;
    REQUIRE(recipe.size() == 1);
    const NamePatterns patterns(recipe[0].params["parts"].get<std::vector<std::string>>());
    CHECK(patterns.match("mat, flat *"));
    CHECK_FALSE(patterns.match("mat, flat x"));
}

TEST_CASE("very many selected parts are one offer") {
    Desk desk;
    Model crowd;
    const Model box = shapes::box({0, 0, 0}, {0.01, 0.01, 0.01});
    crowd.meshes = box.meshes;
    for (int i = 0; i < 400; ++i)
        crowd.nodes.push_back({fmt::format("a part of a rather long name, number {}", i), -1,
                               glm::translate(glm::dmat4(1.0), {0.02 * i, 0.0, 0.0}), 0});
    writeAllOrNone(desk.folder.path(), formats::writeGlb(crowd, {"crowd"}, nullptr));
    desk.session().bringIn({QString::fromStdString((desk.folder / "crowd.glb").string())});
    REQUIRE(desk.idle());
    desk.window->showWorkbench("Crowd", "hearthboard");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    std::set<int> all;
    for (int i = 0; i < 400; ++i) all.insert(i);
    desk.selectNodes(all);
    desk.click("joinParts");
    REQUIRE(waitFor([&] {
        const auto& state = desk.session().state("Crowd", "hearthboard");
        return state.kind == CrossingState::Kind::Ready && objectCount(state.evaluation.model) == 1;
    }));
    REQUIRE(desk.idle());
}

TEST_CASE("each stage has its number as a key") {
    Desk desk(40, true);
    desk.open();
    for (const auto& [key, stage] : {std::pair{Qt::Key_2, "place"},
                                     {Qt::Key_3, "shape"},
                                     {Qt::Key_4, "surface"},
                                     {Qt::Key_6, "contact"},
                                     {Qt::Key_7, "deliver"},
                                     {Qt::Key_1, "gather"}}) {
        QTest::keyClick(desk.window.get(), key, Qt::ControlModifier);
        INFO(stage);
        CHECK(waitFor([&] { return desk.find<QAbstractButton>(QString("stage-") + stage)->isChecked(); },
                      3000));
    }
}

TEST_CASE("a handle whose step goes away while it is dragged is let go without harm") {
    Desk desk(40, true);
    desk.session().editCrossing("collider", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"collider-box", true, nlohmann::ordered_json::object()});
    });
    REQUIRE(desk.idle());
    desk.open();
    desk.click("stage-contact");
    REQUIRE(desk.idle());
    ModelView& view = desk.window->workbench().view();
    const auto handles = view.handles().handles();
    REQUIRE_FALSE(handles.empty());
    const glm::dvec3 at = view.camera().project(handles[0].at, view.width(), view.height());
    const QPoint point{int(at.x), int(at.y)};
    QTest::mousePress(&view, Qt::LeftButton, {}, point);
    desk.session().undo().undo(); // the step is gone, and with it the handles
    REQUIRE(desk.idle());
    CHECK(view.handles().handles().empty());
    hover(view, point + QPoint(20, 20), Qt::LeftButton);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, point + QPoint(20, 20));
    CHECK(desk.piece().on("hearthboard")->recipe.empty());
}

TEST_CASE("a sheet of the user's own with a wrong word is left out with the nearest right one") {
    Desk desk;
    std::string sheet = readText(desk.session().sheet("hearthboard")->file);
    const auto replaced = [&](const std::string& from, const std::string& to) {
        std::string text = sheet;
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        return text.replace(at, from.size(), to);
    };
    std::filesystem::create_directories(desk.folder / "platforms");
    writeFile(desk.folder / "platforms/a.toml", replaced("reduce-triangles", "reduce-triangels"));
    writeFile(desk.folder / "platforms/b.toml", replaced("kind = \"files\"", "kind = \"filed\""));
    desk.session().openProject(desk.folder / "bench.zestloom");
    REQUIRE(desk.idle());
    const QString problems = desk.session().sheetProblems().join("\n");
    CHECK(problems.contains("\"reduce-triangles\" perhaps"));
    CHECK(problems.contains("\"files\" perhaps"));
    CHECK(problems.contains("a.toml:"));
    CHECK(desk.session().sheet("hearthboard")); // the one that ships stands in
}

TEST_CASE("work on a project that was never saved is kept, and taken up later") {
    QSettings().clear();
    for (const auto& left : Session::unsavedWork()) std::filesystem::remove(left);
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), formats::writeObj(shapes::box({0, 0, 0}, {1, 1, 1}), {"cube"}, nullptr));
    std::filesystem::path kept;
    {
        Session session;
        session.newProject();
        session.bringIn({QString::fromStdString((folder / "cube.obj").string())});
        const auto unsaved =
            std::filesystem::path(
                QStandardPaths::writableLocation(QStandardPaths::AppDataLocation).toStdString()) /
            "unsaved";
        REQUIRE(waitFor(
            [&] {
                std::error_code error;
                for (const auto& entry : std::filesystem::directory_iterator(unsaved, error))
                    if (entry.path().extension() == ".autosave") kept = entry.path();
                return !kept.empty();
            },
            10000));
        // As a program that was killed would leave it.
        const auto left = kept.parent_path() / "unsaved-left.zestloom.autosave";
        std::filesystem::copy_file(kept, left);
        session.close();
        CHECK_FALSE(std::filesystem::exists(kept)); // closed on purpose: nothing to take up
        kept = left;
    }
    REQUIRE(Session::unsavedWork() == std::vector{kept});
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    QPushButton* take = nullptr;
    REQUIRE(waitFor([&] { return (take = window.findChild<QPushButton*>("takeUp")) && take->isVisible(); },
                    5000));
    QTest::mouseClick(take, Qt::LeftButton);
    REQUIRE(window.session().project().pieces.size() == 1);
    CHECK(window.session().project().pieces[0].name == "Cube");
    CHECK_FALSE(window.session().isSaved());
    window.session().saveAs(folder / "cube.zestloom");
    CHECK_FALSE(std::filesystem::exists(kept));
    CHECK(Session::unsavedWork().empty());
    waitFor([&] { return window.session().jobs().running().isEmpty(); });
    window.session().close();
}

TEST_CASE(
    "saving elsewhere takes the yardsticks' paths along, and a new project knows nothing of what was built") {
    Desk desk(40, true);
    writeAllOrNone(desk.folder.path(),
                   formats::writeObj(shapes::box({0, 0, 0}, {1, 2, 1}), {"gate"}, nullptr));
    desk.session().addYardstick(QString::fromStdString((desk.folder / "gate.obj").string()));
    REQUIRE(desk.session().project().yardsticks[0].path == "gate.obj");
    std::filesystem::create_directories(desk.folder / "deep");
    desk.session().saveAs(desk.folder / "deep/bench.zestloom");
    REQUIRE(desk.idle());
    const auto& yardstick = desk.session().project().yardsticks[0];
    CHECK(std::filesystem::exists(project::wholePath(desk.session().project(), yardstick.path)));
}

TEST_CASE("what was built counts until something it rests on changes, and not beyond its project") {
    Desk desk(40, true);
    desk.open();
    desk.session().editCrossing("unit", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"unit-and-up", true, {{"unit", "m"}, {"up", "y"}}});
    });
    REQUIRE(desk.idle());
    desk.window->build();
    REQUIRE(desk.idle());
    DeliverPanel& deliver = desk.window->workbench().deliver();
    INFO(desk.state().report.brokenMusts());
    REQUIRE(deliver.wasBuilt());
    desk.session().editCrossing("finish", "Ball", "hearthboard",
                                [](project::Crossing& c) { c.deliver["finish"] = "gloss"; });
    REQUIRE(desk.idle());
    CHECK_FALSE(deliver.wasBuilt()); // another finish is another delivery
    desk.session().undo().undo();
    REQUIRE(desk.idle());
    CHECK(deliver.wasBuilt());
    desk.session().undo().setClean();
    desk.session().openProject(desk.folder / "bench.zestloom");
    REQUIRE(desk.idle());
    CHECK_FALSE(deliver.wasBuilt());
}
