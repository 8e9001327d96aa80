// What lies in archives, as people find it and take it out: dropped, filtered, unlocked, made into pieces.
#include "desk.h"
#include "support/containers.h"

#include "app/pages/contents_tree.h"

#include "core/texture/picture_format.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeView>

using namespace zl;
using namespace zl::app;
using namespace desk;
using containers::writeArchive;

namespace {

const containers::Kind& zipKind = containers::archives().front();

std::string boxOf(double tall) {
    const Model box = shapes::box({-0.01, 0, -0.01}, {0.01, tall, 0.01});
    return formats::writeObj(box, {"box"}, nullptr)[0].bytes;
}

/// A kit with two lamps, a picture, a note and a net in an archive within.
QString kit(const Desk& desk, const std::string& key = {}) {
    writeArchive(desk.folder / "inner.zip", zipKind, {{"net.obj", boxOf(0.02)}});
    const Pixels red{2, 2, {255, 0, 0, 255, 255, 0, 0, 255, 255, 0, 0, 255, 255, 0, 0, 255}};
    writeArchive(desk.folder / "kit.zip", zipKind,
                 {{"quay/lamp.obj", boxOf(0.03)},
                  {"quay/tall lamp.obj", boxOf(0.05)},
                  {"quay/lamp.png", texture::writePng(red, true)},
                  {"quay/broken.glb", "glTF, cut short"},
                  {"note.txt", "mind the tide"},
                  {"../out.obj", "v"},
                  {"more.zip", readText(desk.folder / "inner.zip")}},
                 key);
    return QString::fromStdString((desk.folder / "kit.zip").string());
}

QTreeView& treeOf(Desk& desk) {
    return *desk.find<QTreeView>("contentsTree");
}

/// The row of this name; not valid when it is not shown.
QModelIndex rowOf(Desk& desk, const QString& name) {
    const auto& model = *treeOf(desk).model();
    const auto found =
        model.match(model.index(0, 0), Qt::DisplayRole, name, 1, Qt::MatchExactly | Qt::MatchRecursive);
    return found.isEmpty() ? QModelIndex() : found[0];
}

void clickRow(Desk& desk, const QString& name, Qt::KeyboardModifiers keys = {}) {
    auto& tree = treeOf(desk);
    const QModelIndex row = rowOf(desk, name);
    REQUIRE(row.isValid());
    tree.scrollTo(row);
    QTest::mouseClick(tree.viewport(), Qt::LeftButton, keys, tree.visualRect(row).center());
}

bool openKit(Desk& desk, const std::string& key = {}) {
    drop(*desk.window, {kit(desk, key)});
    return waitFor(
               [&] { return desk.window->contents().isVisible() && desk.window->contents().isSettled(); }) &&
           waitFor([&] { return rowOf(desk, "note.txt").isValid(); });
}

} // namespace

TEST_CASE("a dropped archive shows what it holds, through archives within, with triangles and pictures") {
    Desk desk;
    REQUIRE(openKit(desk));
    CHECK(desk.find<QLabel>("contentsCount")->text() == "7 files");
    CHECK(rowOf(desk, "net.obj").parent() == rowOf(desk, "more.zip"));
    INFO(desk.find<QLabel>("contentsRefused")->text().toStdString());
    CHECK(desk.find<QLabel>("contentsRefused")->text().contains("leads out of the archive"));
    CHECK(desk.find<QCheckBox>("kind-model")->text() == "Models  4");
    CHECK_FALSE(desk.window->findChild<QLineEdit*>("archiveKey")->isVisible());
    // Models are looked at without being asked, and what cannot be read says so.
    const auto text = [&](const char* name, int column) {
        return rowOf(desk, name).siblingAtColumn(column).data().toString();
    };
    CHECK(waitFor([&] { return text("net.obj", ContentsTree::Triangles) == "12"; }));
    clickRow(desk, "lamp.png");
    CHECK(waitFor([&] { return desk.find<QLabel>("chosenPicture")->isVisible(); }));
    CHECK_FALSE(desk.find<QPushButton>("makePieces")->isEnabled());
    clickRow(desk, "broken.glb");
    CHECK(waitFor([&] { return desk.find<QLabel>("chosenFacts")->text().contains("Problem"); }));
    // Another program writes it anew: what is shown is what is there.
    writeArchive(desk.folder / "new.zip", zipKind, {{"first.obj", boxOf(0.03)}, {"lamp.png", "no picture"}});
    std::filesystem::rename(desk.folder / "new.zip", desk.folder / "kit.zip");
    REQUIRE(waitFor([&] { return rowOf(desk, "first.obj").isValid(); }));
    CHECK_FALSE(rowOf(desk, "net.obj").isValid());
    CHECK(waitFor([&] { return text("first.obj", ContentsTree::Triangles) == "12"; }));
    QTest::keyClick(&treeOf(desk), Qt::Key_Escape);
    CHECK(waitFor([&] { return desk.window->loom().isVisible(); }));
}

TEST_CASE("files of an archive are found while typing and by kind, and an empty list says what helps") {
    Desk desk;
    REQUIRE(openKit(desk));
    auto* filter = desk.find<QLineEdit>("contentsWords");
    CHECK(filter->hasFocus());
    QTest::keyClicks(filter, "tall LAMP");
    REQUIRE(waitFor([&] { return desk.find<QLabel>("contentsCount")->text() == "1 of 7"; }));
    CHECK(rowOf(desk, "tall lamp.obj").isValid());
    CHECK_FALSE(rowOf(desk, "note.txt").isValid());
    filter->setText("net");
    REQUIRE(waitFor([&] { return rowOf(desk, "net.obj").isValid(); }));
    CHECK(rowOf(desk, "more.zip").isValid()); // it is shown for what lies in it
    desk.find<QCheckBox>("kind-model")->click();
    REQUIRE(waitFor([&] { return showsText(*desk.window, "Clear the field or tick more kinds"); }));
    filter->clear();
    REQUIRE(waitFor([&] { return desk.find<QLabel>("contentsCount")->text() == "3 of 7"; }));
}

TEST_CASE("models in an archive become pieces that follow it when it is replaced") {
    Desk desk;
    REQUIRE(openKit(desk));
    clickRow(desk, "lamp.obj");
    clickRow(desk, "more.zip", Qt::ControlModifier); // and what lies in it
    auto* make = desk.find<QPushButton>("makePieces");
    CHECK(make->text().contains("Make 2 pieces"));
    QTest::mouseClick(make, Qt::LeftButton);
    REQUIRE(waitFor([&] { return desk.window->loom().isVisible(); }));
    REQUIRE(desk.idle());
    const auto& project = desk.session().project();
    REQUIRE(project.piece("Lamp"));
    REQUIRE(project.piece("Net"));
    CHECK(project.piece("Net")->sources[0].path.string().ends_with("kit.zip/more.zip/net.obj"));
    const auto tall = [&] {
        const auto& state = desk.session().state("Lamp", "hearthboard");
        return state.kind == CrossingState::Kind::Ready
                   ? geometry::worldBounds(state.evaluation.model).size().y
                   : 0.0;
    };
    CHECK(tall() == Approx(0.03).epsilon(1e-5));
    // Another program puts a new archive in its place.
    writeArchive(desk.folder / "new.zip", zipKind, {{"quay/lamp.obj", boxOf(0.04)}});
    std::filesystem::rename(desk.folder / "new.zip", desk.folder / "kit.zip");
    CHECK(waitFor([&] { return tall() == Approx(0.04).epsilon(1e-5); }));
    // The net is gone from it: what was worked out stays, and it is said.
    CHECK(waitFor(
        [&] { return desk.session().state("Net", "hearthboard").kind == CrossingState::Kind::Failed; }));
    CHECK(desk.session().state("Net", "hearthboard").hasResult());
    CHECK(desk.session().undo().undoText().contains("2 items"));
}

TEST_CASE("files are taken out into a folder that is chosen, and it is said what became of them") {
    Desk desk;
    REQUIRE(openKit(desk));
    std::filesystem::create_directories(desk.folder / "mine");
    desk.folder.write("mine/lamp.obj", "was there");
    clickRow(desk, "quay");
    auto* take = desk.find<QPushButton>("takeOut");
    CHECK(take->text().contains("4 files"));
    answerDialog(QString::fromStdString((desk.folder / "mine").string()));
    QTest::mouseClick(take, Qt::LeftButton);
    REQUIRE(waitFor([&] { return std::filesystem::exists(desk.folder / "mine/tall lamp.obj"); }));
    REQUIRE(desk.idle());
    CHECK(readText(desk.folder / "mine/lamp.obj") == "was there");
    CHECK(readText(desk.folder / "mine/lamp-2.obj") == boxOf(0.03));
    CHECK(desk.find<QLabel>("statusText")->text().contains("Took 4 files out"));
}

TEST_CASE("a locked archive asks for its key once; a piece that could not be read then can") {
    Desk desk;
    ::setenv("XDG_DATA_HOME", (desk.folder / "data").c_str(), 1);
    REQUIRE(openKit(desk, "low tide"));
    auto* key = desk.find<QLineEdit>("archiveKey");
    CHECK(key->isVisible());
    CHECK(rowOf(desk, "lamp.obj").siblingAtColumn(ContentsTree::Triangles).data() == "locked");
    CHECK_FALSE(rowOf(desk, "net.obj").isValid()); // its archive is locked too
    clickRow(desk, "lamp.obj");
    desk.click("makePieces");
    REQUIRE(desk.idle());
    REQUIRE(desk.session().state("Lamp", "hearthboard").kind == CrossingState::Kind::Failed);
    CHECK(desk.session().state("Lamp", "hearthboard").problem.find("under a key") != std::string::npos);

    desk.window->showContents(QString::fromStdString((desk.folder / "kit.zip").string()));
    REQUIRE(waitFor([&] { return desk.find<QLineEdit>("archiveKey")->isVisible(); }));
    QTest::keyClicks(key, "high tide");
    QTest::keyClick(key, Qt::Key_Return);
    CHECK(waitFor([&] { return showsText(*desk.window, "The key does not open this archive."); }));
    CHECK(key->text().isEmpty());
    QTest::keyClicks(key, "low tide");
    desk.click("unlockArchive");
    REQUIRE(waitFor([&] { return rowOf(desk, "net.obj").isValid(); }));
    CHECK_FALSE(key->isVisible());
    CHECK(treeOf(desk).hasFocus());
    CHECK(rowOf(desk, "note.txt").siblingAtColumn(ContentsTree::Triangles).data().toString().isEmpty());
    CHECK(waitFor(
        [&] { return desk.session().state("Lamp", "hearthboard").kind == CrossingState::Kind::Ready; }));
    // The key stands nowhere in the project, nor beside it.
    desk.session().saveAs(desk.folder / "fair.zestloom");
    CHECK(readText(desk.folder / "fair.zestloom").find("tide") == std::string::npos);
    CHECK(readText(desk.folder / "data/zest-loom/keys-that-opened.json").find("tide") == std::string::npos);
    files::giveKey(desk.folder / "kit.zip", nullptr);
    ::unsetenv("XDG_DATA_HOME");
}

TEST_CASE("an archive past the limits says so, and opens for one who trusts it; what is none says that") {
    Desk desk;
    std::vector<OutFile> many;
    for (int i = 0; i < 200'050; ++i) many.push_back({"f" + std::to_string(i), ""});
    writeArchive(desk.folder / "many.tar", containers::archives()[3], many);
    desk.window->showContents(QString::fromStdString((desk.folder / "many.tar").string()));
    REQUIRE(waitFor([&] { return desk.find<QPushButton>("trustArchive")->isVisible(); }));
    CHECK(showsText(*desk.window, "200\u202f000 files"));
    desk.click("trustArchive");
    REQUIRE(waitFor([&] { return rowOf(desk, "f200049").isValid(); }));
    CHECK(desk.find<QLabel>("contentsCount")->text() == "200\u202f050 files");

    desk.folder.write("not.zip", "no archive at all");
    desk.window->showContents(QString::fromStdString((desk.folder / "not.zip").string()));
    REQUIRE(waitFor([&] { return desk.find<QLabel>("contentsProblem")->isVisible(); }));
    CHECK_FALSE(desk.window->findChild<QPushButton*>("trustArchive")->isVisible());
    desk.click("leaveContents");
    CHECK(desk.window->loom().isVisible());
}

TEST_CASE("pictures that share a model's name are offered by their endings, changed, and worn by the piece") {
    Desk desk;
    const std::string square = "v 0 0 0\nv 0.1 0 0\nv 0.1 0.1 0\nvt 0 0\nvt 1 0\nvt 1 1\nf 1/1 2/2 3/3\n";
    const Pixels red{2, 2, std::vector<std::uint8_t>(16, 200)};
    const std::string png = texture::writePng(red, true);
    writeArchive(desk.folder / "signs.zip", zipKind,
                 {{"note.txt", "x"},
                  {"board.obj", square},
                  {"tex/board_d.png", png},
                  {"tex/board_n.png", png},
                  {"board_orm.png", png},
                  {"board-draft.png", png},
                  {"post.obj", square},
                  {"post-dye.png", png}});
    desk.session().edit("platforms", [](project::Project& project) { project.platforms = {"thistledown"}; });
    drop(*desk.window, {QString::fromStdString((desk.folder / "signs.zip").string())});
    REQUIRE(waitFor([&] { return rowOf(desk, "note.txt").isValid(); }));
    clickRow(desk, "board.obj");
    REQUIRE(waitFor([&] { return desk.window->findChild<QComboBox*>("role-board_d.png") != nullptr; }));
    const auto role = [&](const QString& picture) { return desk.find<QComboBox>("role-" + picture); };
    CHECK(role("board_d.png")->currentText() == "colour");
    CHECK(role("board_n.png")->currentText() == "normal");
    CHECK(role("board_orm.png")->currentText() == "3 in one");
    CHECK(role("board_orm.png")->toolTip() ==
          "roughness (its green), metalness (its blue), occlusion (its red)");
    CHECK(role("board-draft.png")->currentText() == "not used");
    CHECK(showsText(*desk.window, "Left over"));
    // Changed by hand, and still so after another row was looked at.
    const auto choose = [&](const QString& picture, const QString& word) {
        auto* box = role(picture);
        box->setCurrentIndex(box->findText(word));
        Q_EMIT box->activated(box->currentIndex());
    };
    choose("board_n.png", "not used");
    choose("board-draft.png", "emission");
    clickRow(desk, "post.obj");
    REQUIRE(waitFor([&] { return desk.window->findChild<QComboBox*>("role-post-dye.png") != nullptr; }));
    CHECK(role("post-dye.png")->currentText() == "colour"); // by the platform's own table
    clickRow(desk, "board.obj");
    REQUIRE(waitFor([&] { return desk.window->findChild<QComboBox*>("role-board-draft.png") != nullptr; }));
    CHECK(role("board-draft.png")->currentText() == "emission");
    clickRow(desk, "post.obj", Qt::ControlModifier);
    desk.click("makePieces");
    REQUIRE(waitFor([&] { return desk.session().project().piece("Board") != nullptr; }));
    REQUIRE(desk.idle());
    const auto& board = desk.session().state("Board", "thistledown");
    REQUIRE(board.kind == CrossingState::Kind::Ready);
    REQUIRE(board.evaluation.model.materials.size() == 1);
    const Material& material = board.evaluation.model.materials[0];
    CHECK(material.picture(PictureRole::Colour));
    CHECK(material.picture(PictureRole::Emission));
    CHECK(material.picture(PictureRole::Roughness).channel == PictureChannel::Green);
    CHECK_FALSE(material.picture(PictureRole::Normal));
    CHECK(desk.session()
              .state("Post", "thistledown")
              .evaluation.model.materials[0]
              .picture(PictureRole::Colour));
    // Paths in the recipe go by the project's folder once it has one.
    desk.session().saveAs(desk.folder / "fair.zestloom");
    CHECK(readText(desk.folder / "fair.zestloom").find("\"signs.zip/tex/board_d.png\"") != std::string::npos);
}

TEST_CASE("what endings mean is read and changed in the settings") {
    Desk desk;
    ::setenv("XDG_DATA_HOME", (desk.folder / "data").c_str(), 1);
    desk.window->openSettings();
    QTest::mouseClick(desk.find<QPushButton>("settingsEndings"), Qt::LeftButton);
    auto* name = desk.find<QLineEdit>("endingsTry");
    QTest::keyClicks(name, "lamp_shine.png");
    CHECK(desk.find<QLabel>("endingsSay")->text().contains("says nothing"));
    auto* gloss = desk.find<QLineEdit>("endings-gloss-all");
    gloss->setText(gloss->text() + " -Shine");
    CHECK(desk.find<QLabel>("endingsSay")->text().contains("gloss; goes with lamp"));
    gloss->setText(gloss->text() + " x");
    CHECK(desk.find<QLabel>("endingsProblem")->text().contains("too short"));
    CHECK_FALSE(desk.find<QPushButton>("endingsKeep")->isEnabled());
    gloss->setText(gloss->text().chopped(2));
    QTest::mouseClick(desk.find<QPushButton>("endingsKeep"), Qt::LeftButton);
    CHECK(partsOfName("lamp_shine", platform::generalRoleEndings()).uses.size() == 1);
    QTest::mouseClick(desk.find<QPushButton>("settingsEndings"), Qt::LeftButton);
    desk.click("endingsShipped");
    desk.click("endingsKeep");
    CHECK(platform::generalRoleEndings() == platform::usualRoleEndings());
    ::unsetenv("XDG_DATA_HOME");
}
