// The session behind the window: every change undone and redone, several changes at once, files that come,
// change and go, and keys without a mouse.
#include "desk.h"
#include "support/crates.h"

#include "app/theme.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>
#include <QSignalSpy>
#include <QToolButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

nlohmann::ordered_json now(Desk& desk) {
    return project::toJson(desk.session().project());
}

/// Writes a box of 30 mm as OBJ beside the project.
QString boxFile(const Desk& desk, const std::string& name, double tall = 0.03) {
    const Model box = shapes::box({-0.01, 0, -0.01}, {0.01, tall, 0.01});
    writeAllOrNone(desk.folder.path(), formats::writeObj(box, {name}, nullptr));
    return QString::fromStdString((desk.folder / (name + ".obj")).string());
}

} // namespace

TEST_CASE("every kind of change is taken back and made again, to the letter") {
    Desk desk;
    auto& session = desk.session();
    const auto before = now(desk);
    session.edit("name", [](project::Project& p) { p.name = "Other fair"; });
    session.editPiece("author", "Ball", [](project::Piece& p) { p.sources[0].author = "Tam Orrel"; });
    session.editCrossing("finish", "Ball", "hearthboard",
                         [](project::Crossing& c) { c.deliver["finish"] = "gloss"; });
    session.editCrossing("set up", "Ball", "playmeadow", [](project::Crossing&) {});
    session.edit("platforms", [](project::Project& p) { p.platforms = {"mudhaul"}; });
    session.bringIn({boxFile(desk, "crate")});
    session.addYardstick(boxFile(desk, "gate", 2));
    const auto after = now(desk);
    const int count = session.undo().count();
    CHECK(count == 7);
    for (int i = 0; i < count; ++i) {
        CHECK_FALSE(session.undo().undoText().isEmpty()); // each says what it was
        session.undo().undo();
    }
    CHECK(now(desk) == before);
    for (int i = 0; i < count; ++i) session.undo().redo();
    CHECK(now(desk) == after);
    session.undo().setClean();
}

TEST_CASE("changes with one key in a row are one step, others are not") {
    Desk desk;
    const auto author = [&](const char* name, const char* key) {
        desk.session().editPiece(
            "author", "Ball", [&](project::Piece& p) { p.sources[0].author = name; }, key);
    };
    author("T", "author"), author("Ta", "author"), author("Tam", "author");
    CHECK(desk.session().undo().count() == 1);
    author("Tam O", "other");
    CHECK(desk.session().undo().count() == 2);
    author("Tam Or", ""), author("Tam Orr", "");
    CHECK(desk.session().undo().count() == 4);
    for (int i = 0; i < 4; ++i) desk.session().undo().undo();
    CHECK(desk.piece().sources[0].author == "Odd Fennel");
}

TEST_CASE("editing what is not there changes nothing") {
    Desk desk;
    const auto before = now(desk);
    desk.session().editPiece("x", "No such piece", [](project::Piece& p) { p.name = "y"; });
    desk.session().editCrossing("x", "No such piece", "hearthboard",
                                [](project::Crossing& c) { c.deliver["finish"] = "y"; });
    CHECK(now(desk) == before);
    CHECK(desk.session().undo().count() == 0);
    CHECK(desk.session().sheet("nowhere") == nullptr);
    CHECK(desk.session().state("No such piece", "hearthboard").kind == CrossingState::Kind::Waiting);
}

TEST_CASE("a change works out again what depends on it and leaves the rest alone") {
    Desk desk;
    desk.session().editCrossing("set up", "Ball", "playmeadow", [](project::Crossing&) {});
    REQUIRE(desk.idle());
    QSignalSpy changed(&desk.session(), &Session::crossingChanged);
    desk.session().editCrossing("turn", "Ball", "hearthboard", [](project::Crossing& c) {
        c.recipe.push_back({"turn", true, {{"y", 90}}});
    });
    REQUIRE(waitFor([&] {
        return desk.state().kind == CrossingState::Kind::Ready &&
               desk.state().evaluation.outcomes.size() == 1;
    }));
    REQUIRE(desk.idle());
    for (const auto& call : changed) CHECK(call.at(1).toString() == "hearthboard");
}

TEST_CASE("several files at once become a piece each, names stay apart, other files are named") {
    Desk desk;
    const QString first = boxFile(desk, "crate"), second = boxFile(desk, "lamp");
    writeFile(desk.folder / "notes.txt", "not a model");
    const QString notes = QString::fromStdString((desk.folder / "notes.txt").string());
    drop(*desk.window, {first, second, notes});
    REQUIRE(waitFor([&] { return desk.session().project().pieces.size() == 3; }));
    CHECK(desk.session().project().pieces[1].name == "Crate");
    CHECK(desk.session().project().pieces[2].name == "Lamp");
    CHECK(waitFor([&] { return showsText(*desk.window, "notes.txt"); })); // said, not swallowed
    drop(*desk.window, {first});
    REQUIRE(waitFor([&] { return desk.session().project().pieces.size() == 4; }));
    CHECK(desk.session().project().pieces[3].name != "Crate");
    // Brought in from beside the project: the path is kept relative, so that the folder can move.
    CHECK(desk.session().project().pieces[1].sources[0].path == "crate.obj");
    for (const auto& piece : desk.session().project().pieces) CHECK(piece.crossings.size() >= 1);
    REQUIRE(desk.idle());
}

TEST_CASE("a file that cannot be read is a piece that says why, and mends itself when the file does") {
    Desk desk;
    writeFile(desk.folder / "bell.obj", "v 0 0 0\nv nonsense\n");
    desk.session().bringIn({QString::fromStdString((desk.folder / "bell.obj").string())});
    const auto& state = [&]() -> const CrossingState& { return desk.session().state("Bell", "hearthboard"); };
    REQUIRE(waitFor([&] {
        return state().kind == CrossingState::Kind::Failed ||
               (state().kind == CrossingState::Kind::Ready && !state().report.fits());
    }));
    boxFile(desk, "bell");
    CHECK(waitFor([&] {
        return state().kind == CrossingState::Kind::Ready && triangleCount(state().evaluation.model) == 12;
    }));
    REQUIRE(desk.idle());
}

TEST_CASE("a piece that cannot be read is soon open: there is nothing to wait for") {
    Desk desk;
    desk.session().bringIn({QString::fromStdString((desk.folder / "gone.obj").string())});
    REQUIRE(desk.idle());
    REQUIRE(desk.session().state("Gone", "hearthboard").kind == CrossingState::Kind::Failed);
    desk.window->showWorkbench("Gone", "hearthboard");
    CHECK(waitFor([&] { return desk.window->workbench().isSettled(); }));
    CHECK(showsText(*desk.window, "cannot be opened"));
}

TEST_CASE("a source that is deleted while it is open keeps the last shape and says so") {
    Desk desk;
    REQUIRE(desk.state().kind == CrossingState::Kind::Ready);
    desk.open();
    const auto before = triangleCount(desk.state().evaluation.model);
    REQUIRE(before > 0);
    const QImage picture = desk.window->workbench().view().grabFramebuffer();
    std::filesystem::remove(desk.folder / "ball.obj");
    CHECK(waitFor([&] { return desk.state().kind == CrossingState::Kind::Failed; }));
    CHECK(desk.state().problem.find("ball.obj") != std::string::npos);
    CHECK(triangleCount(desk.state().evaluation.model) == before);
    CHECK(desk.window->workbench().view().grabFramebuffer() == picture); // the very same picture
    CHECK(showsText(*desk.window, "The last result stays"));
    desk.session().undo().undo(); // nothing to undo, nothing to fall over
    REQUIRE(desk.idle());
}

TEST_CASE("a project from the future is refused in the window and the open one stays") {
    Desk desk;
    writeFile(desk.folder / "future.zestloom", R"({"format": "zest-loom-project", "version": 99})");
    bool said = false;
    QTimer::singleShot(300, [&] {
        for (QWidget* widget : QApplication::topLevelWidgets())
            if (auto* box = qobject_cast<QMessageBox*>(widget); box && box->isVisible()) {
                said = box->text().contains("newer") || box->text().contains("99");
                box->accept();
            }
    });
    CHECK_FALSE(desk.window->openProject(QString::fromStdString((desk.folder / "future.zestloom").string())));
    desk.window->setUnattended(); // there is nobody to close a dialog
    QElapsedTimer time;
    time.start();
    CHECK_FALSE(desk.window->openProject(QString::fromStdString((desk.folder / "future.zestloom").string())));
    CHECK(time.elapsed() < 1000);
    CHECK(said);
    CHECK(desk.session().project().name == "Bench");
}

TEST_CASE("the Loom is worked by keys alone") {
    Desk desk;
    auto* crossing = desk.find<CrossingButton>("crossing-Ball-hearthboard");
    crossing->setFocus();
    CHECK(crossing->hasFocus());
    QTest::keyClick(crossing, Qt::Key_Space);
    CHECK(desk.find<QPushButton>("loomOpen")->isEnabled());
    // Tab reaches the panel's buttons from there.
    bool reached = false;
    for (int i = 0; i < 40 && !reached; ++i) {
        QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : desk.window.get(),
                        Qt::Key_Tab);
        reached = QApplication::focusWidget() && QApplication::focusWidget()->objectName() == "loomOpen";
    }
    REQUIRE(reached);
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Space);
    CHECK(waitFor([&] { return desk.window->workbench().isVisible(); }));
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    QTest::keyClick(desk.window.get(), Qt::Key_0, Qt::ControlModifier);
    CHECK(waitFor([&] { return desk.window->loom().isVisible(); }));
}

TEST_CASE("the find box narrows by typing, moves by arrows, and closes without doing anything") {
    Desk desk;
    const auto before = now(desk);
    QTest::keyClick(desk.window.get(), Qt::Key_K, Qt::ControlModifier);
    auto* edit = desk.find<QLineEdit>("findEdit");
    auto* list = desk.find<QListWidget>("findList");
    const auto visible = [&] {
        int count = 0;
        for (int i = 0; i < list->count(); ++i) count += list->item(i)->data(Qt::UserRole).isValid();
        return count;
    };
    const int all = visible();
    QTest::keyClicks(edit, "mudhaul");
    CHECK(visible() < all);
    CHECK(visible() >= 1);
    QTest::keyClicks(edit, "zzzz");
    CHECK(visible() == 0);
    QTest::keyClick(edit, Qt::Key_Escape);
    CHECK(waitFor([&] { return desk.window->findChild<FindBox*>() == nullptr; }));
    CHECK(now(desk) == before);
}

TEST_CASE("a number that is out of range is brought back into it, and text is not taken for one") {
    Desk desk;
    desk.open();
    desk.window->workbench().addStep("reduce-triangles");
    REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
    auto* goal = desk.find<QComboBox>("field-goal");
    const int number = goal->findData("number") >= 0 ? goal->findData("number") : 1;
    goal->setFocus();
    goal->setCurrentIndex(number);
    Q_EMIT goal->activated(number);
    QWidget* field = nullptr;
    REQUIRE(waitFor([&] {
        for (auto* found : desk.window->findChildren<QWidget*>("field-number"))
            if (found->isVisible()) field = found;
        return field != nullptr;
    }));
    field->setFocus();
    QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(field, "abc");
    QTest::keyClick(field, Qt::Key_Return);
    const auto params = [&] { return desk.piece().on("hearthboard")->recipe.back().params; };
    CHECK(params()["number"].get<double>() > 0);
    const double was = params()["number"].get<double>();
    QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(field, "1234");
    QTest::keyClick(field, Qt::Key_Return);
    CHECK(waitFor([&] { return params()["number"].get<double>() != was; }));
    CHECK(params()["number"].get<double>() == 1234);
    REQUIRE(desk.idle());
}

TEST_CASE("a platform is added to the Loom and taken away again by undo") {
    Desk desk;
    CHECK(desk.window->findChild<CrossingButton*>("crossing-Ball-mudhaul") == nullptr);
    desk.session().edit("add Mudhaul", [](project::Project& p) { p.platforms.push_back("mudhaul"); });
    CHECK(
        waitFor([&] { return desk.window->findChild<CrossingButton*>("crossing-Ball-mudhaul") != nullptr; }));
    desk.session().undo().undo();
    CHECK(waitFor([&] {
        auto* found = desk.window->findChild<CrossingButton*>("crossing-Ball-mudhaul");
        return !found || !found->isVisible();
    }));
}

TEST_CASE("the front is looked for once for a shape, and again when the shape changes") {
    Desk desk;
    desk.open();
    const auto started = [&](const auto& change) {
        int count = 0;
        const auto connection = QObject::connect(&desk.session().jobs(), &Jobs::changed, [&] {
            for (const auto* job : desk.session().jobs().running())
                if (job->title().contains("front")) ++count;
        });
        change();
        REQUIRE(waitFor([&] { return desk.window->workbench().isSettled(); }));
        REQUIRE(desk.idle());
        QObject::disconnect(connection);
        return count;
    };
    CHECK(started([&] {
              desk.session().editCrossing("collider", "Ball", "hearthboard", [](project::Crossing& c) {
                  c.recipe.push_back({"collider-box", true, nlohmann::ordered_json::object()});
              });
          }) == 0);
    CHECK(started([&] {
              desk.session().editCrossing("turn", "Ball", "hearthboard", [](project::Crossing& c) {
                  c.recipe.push_back({"turn", true, {{"y", 30}}});
              });
          }) > 0);
}

TEST_CASE("buttons of a page are there when the page is, and only then") {
    Desk desk;
    const auto shown = [&](const char* name) {
        for (auto* made : desk.window->findChildren<QAbstractButton*>(name))
            if (made->isVisible()) return true;
        return false;
    };
    CHECK(shown("bringIn"));
    CHECK(shown("buildAll"));
    CHECK_FALSE(shown("build"));
    CHECK_FALSE(shown("back"));
    desk.open();
    CHECK(shown("suggest"));
    CHECK(shown("build"));
    CHECK(shown("try"));
    CHECK_FALSE(shown("bringIn"));
    // A platform that nothing is delivered to has no such buttons.
    desk.folder.write("platforms/bare.toml", R"(id = "bare"
name = "Bare"
kind = "for tests"
[unit]
name = "m"
metres = 1.0
[axes]
up = "Y"
front = "+Z"
[figure]
height = 1.8
[[rule]]
id = "triangles"
label = "Triangles"
most = 100
message = "Few."
)");
    REQUIRE(desk.window->openProject(QString::fromStdString((desk.folder / "bench.zestloom").string())));
    desk.session().edit("add it", [](project::Project& p) { p.platforms.push_back("bare"); });
    desk.window->showWorkbench("Ball", "bare");
    REQUIRE(desk.idle());
    CHECK_FALSE(shown("build"));
    CHECK_FALSE(shown("try"));
    CHECK(shown("suggest"));
    desk.session().undo().setClean();
}

TEST_CASE("a piece made of a document is edited, undone, saved and opened again") {
    TemporaryFolder folder;
    const auto documents = [] { return std::make_shared<project::Documents>(std::span(&cratesKind(), 1)); };
    const std::string on = "playmeadow";
    const auto crates = [&](const Session& session) {
        const CrossingState& state = session.state("Pile", on);
        return state.kind == CrossingState::Kind::Ready ? int(state.source.nodes.size()) : -1;
    };
    const auto file = folder / "fair.zestloom", pile = folder / "Pile.crates";
    Session session(nullptr, documents());
    session.newProject();
    CHECK_THROWS_AS(session.addDocument(cratesKind(), "Pile"), Error); // there is no place beside the project
    session.choosePlatforms({on});
    session.saveAs(file);
    session.addDocument(cratesKind(), "Pile");
    REQUIRE(waitFor([&] { return crates(session) == 0; }));
    session.editDocument("put on", pile, std::make_unique<PutOn>(1));
    session.editDocument("put on", pile, std::make_unique<PutOn>(2), "drag");
    session.editDocument("put on", pile, std::make_unique<PutOn>(3), "drag");
    REQUIRE(waitFor([&] { return crates(session) == 3; }));
    CHECK_THROWS_AS(session.editDocument("put on", pile, std::make_unique<PutOn>(0)), Error);
    session.undo().undo(); // both of the drag
    REQUIRE(waitFor([&] { return crates(session) == 1; }));
    session.undo().redo();
    REQUIRE(waitFor([&] { return crates(session) == 3; }));
    session.undo().undo();
    CHECK_FALSE(std::filesystem::exists(pile));
    session.saveAs(file);
    CHECK(std::filesystem::exists(pile));
    CHECK(session.isSaved());
    session.undo().undo();
    CHECK_FALSE(session.isSaved());

    Session later(nullptr, documents());
    later.openProject(file);
    REQUIRE(waitFor([&] { return crates(later) == 1; }));
    later.undo().undo(); // nothing to take back in a project just opened
    CHECK(crates(later) == 1);
}

TEST_CASE("unsaved edits of a document come back with the autosave") {
    TemporaryFolder folder;
    const auto documents = [] { return std::make_shared<project::Documents>(std::span(&cratesKind(), 1)); };
    const auto file = folder / "fair.zestloom";
    {
        Session session(nullptr, documents());
        session.newProject();
        session.choosePlatforms({"playmeadow"});
        session.saveAs(file);
        session.addDocument(cratesKind(), "Pile");
        session.editDocument("put on", folder / "Pile.crates", std::make_unique<PutOn>(1));
        REQUIRE(waitFor([&] { return project::hasUnsavedWork(file); }));
    }
    Session later(nullptr, documents());
    later.openProject(file, true);
    REQUIRE(waitFor([&] { return later.state("Pile", "playmeadow").kind == CrossingState::Kind::Ready; }));
    CHECK(later.state("Pile", "playmeadow").source.nodes.size() == 1);
    CHECK_FALSE(later.isSaved());
}

TEST_CASE("a project that is saved beside platforms of its own knows them, and is called after its file") {
    const TemporaryFolder folder;
    std::filesystem::create_directories(folder / "platforms");
    writeFile(
        folder / "platforms/weir.toml",
        "id = \"weir\"\nname = \"Weir Gardens\"\nkind = \"garden world\"\n[unit]\nname = \"m\"\nmetres = 1\n"
        "[axes]\nup = \"Y\"\nfront = \"+Z\"\n[figure]\nheight = 1.7\n[[rule]]\nid = "
        "\"power-of-two\"\nmessage = \"So.\"\nlabel "
        "= \"Sides\"\n");
    Session session;
    session.newProject();
    CHECK_FALSE(session.sheet("weir"));
    session.saveAs(folder / "garden");
    CHECK(session.sheet("weir"));
    CHECK(session.project().name == "garden");
    CHECK(session.project().file.filename() == "garden.zestloom");
}
