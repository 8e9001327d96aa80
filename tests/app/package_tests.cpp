// A package of a game's item, as people look through it and make a copy of their own.
#include "desk.h"
#include "support/row_packages.h"

#include "app/pages/package_rows.h"

#include "core/package/group_pictures.h"

#include <QComboBox>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTreeView>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

QTreeView& rowsOf(Desk& desk) {
    return *desk.find<QTreeView>("packageRows");
}

bool openPackage(Desk& desk) {
    rows::write(desk.folder / "apple.rowpackage", rows::appleBox());
    drop(*desk.window, {QString::fromStdString((desk.folder / "apple.rowpackage").string())});
    return waitFor(
               [&] { return desk.window->package().isVisible() && desk.window->package().isSettled(); }) &&
           waitFor([&] { return rowsOf(desk).model()->rowCount() == 7; });
}

void clickResource(Desk& desk, const QString& name) {
    auto& view = rowsOf(desk);
    const auto found =
        view.model()->match(view.model()->index(0, 0), Qt::DisplayRole, name, 1, Qt::MatchExactly);
    REQUIRE_FALSE(found.isEmpty());
    view.scrollTo(found[0]);
    QTest::mouseClick(view.viewport(), Qt::LeftButton, {}, view.visualRect(found[0]).center());
}

} // namespace

TEST_CASE("a dropped package shows its resources and what refers to what, and links are followed") {
    Desk desk;
    REQUIRE(openPackage(desk));
    CHECK(desk.find<QLabel>("packageVerdict")->text() == "7 references checked, none leads astray.");
    clickResource(desk, "appleBox-wood");
    CHECK(desk.find<QLabel>("resourceFacts")->text().startsWith("material, "));
    CHECK(desk.find<QPlainTextEdit>("resourceText")->toPlainText().contains("\"roughness\""));
    CHECK_FALSE(desk.window->findChild<QPushButton*>("resourcePiece")->isVisible());
    auto* links = desk.find<QLabel>("resourceLinks");
    CHECK(links->text().contains("appleBox-red"));
    Q_EMIT links->linkActivated("3"); // the geometry refers to it
    CHECK(desk.find<QLabel>("resourceName")->text() == "appleBox");
    QTest::keyClicks(desk.find<QLineEdit>("packageWords"), "entry");
    REQUIRE(waitFor([&] { return rowsOf(desk).model()->rowCount() == 1; }));
    CHECK(desk.find<QLabel>("packageCount")->text() == "1 of 7");
    QTest::keyClick(desk.window->focusWidget(), Qt::Key_Escape);
    CHECK(desk.window->loom().isVisible());
}

TEST_CASE("a copy of one's own is made beside the original, opened, and its geometry becomes a piece") {
    Desk desk;
    REQUIRE(openPackage(desk));
    CHECK_FALSE(desk.find<QPushButton>("makeMine")->isEnabled());
    QTest::keyClicks(desk.find<QLineEdit>("mineCalled"), "pear box");
    QTest::keyClicks(desk.find<QLineEdit>("mineMaker"), "Mira Quill");
    desk.click("makeMine");
    REQUIRE(waitFor([&] { return showsText(*desk.window, "cannot be the name"); }));
    desk.find<QLineEdit>("mineCalled")->setText("pearBox");
    desk.click("makeMine");
    REQUIRE(waitFor([&] { return desk.window->package().file().endsWith("pearBox.rowpackage"); }));
    REQUIRE(waitFor([&] { return rowsOf(desk).model()->rowCount() == 7; }));
    CHECK(showsText(*desk.window, "7 resources, by Mira Quill"));
    CHECK(desk.find<QLabel>("packageVerdict")->text() == "7 references checked, none leads astray.");
    clickResource(desk, "pearBox");
    desk.click("resourcePiece");
    REQUIRE(waitFor([&] { return desk.session().project().pieces.size() == 2; }));
    CHECK(desk.session().project().pieces[1].sources[0].path ==
          "pearBox.rowpackage/geometry/pearBox.rowmesh");
}

TEST_CASE(
    "a file put in a resource's place is marked in words until it is saved, and what it breaks is said") {
    Desk desk;
    REQUIRE(openPackage(desk));
    writeFile(desk.folder / "words.txt", "see 04:00000000:000000000000dead");
    clickResource(desk, "appleBox-words");
    answerDialog(QString::fromStdString((desk.folder / "words.txt").string()));
    desk.click("resourceBack");
    REQUIRE(waitFor([&] { return desk.find<QPushButton>("savePackage")->isEnabled(); }));
    CHECK(rowsOf(desk).model()->index(4, 0).data().toString() == "appleBox-words (not saved)");
    CHECK(desk.find<QLabel>("packageFindings")->text().contains("which nothing here has"));
    const auto before = package::readPackage(desk.folder / "apple.rowpackage", {});
    CHECK(*before.resources[4].bytes == *rows::appleBox().resources[4].bytes);
    desk.click("savePackage");
    REQUIRE(waitFor([&] { return !desk.window->findChild<QPushButton*>("savePackage")->isEnabled(); }));
    const auto after = package::readPackage(desk.folder / "apple.rowpackage", {});
    CHECK(*after.resources[4].bytes == "see 04:00000000:000000000000dead");
    CHECK(*after.resources[3].bytes == *before.resources[3].bytes);
    CHECK(rowsOf(desk).model()->index(4, 0).data().toString() == "appleBox-words");
}

TEST_CASE("a package that is none says so") {
    Desk desk;
    writeFile(desk.folder / "x.rowpackage", "nothing of the kind");
    drop(*desk.window, {QString::fromStdString((desk.folder / "x.rowpackage").string())});
    REQUIRE(waitFor([&] { return desk.find<QLabel>("packageState")->text().contains("cannot be read"); }));
}

TEST_CASE("another picture is tried on group by group, and assigned and saved only when that is said") {
    Desk desk;
    auto box = rows::appleBox();
    const Pixels green{2, 2, {0, 200, 0, 255, 0, 200, 0, 255, 0, 200, 0, 255, 0, 200, 0, 255}};
    rows::add(box, rows::key(rows::ResourceKind::Picture, 0x9999), "appleBox-green",
              texture::encodePng(green));
    rows::write(desk.folder / "apple.rowpackage", box);
    const std::string before = readText(desk.folder / "apple.rowpackage");
    drop(*desk.window, {QString::fromStdString((desk.folder / "apple.rowpackage").string())});
    REQUIRE(waitFor([&] { return rowsOf(desk).model()->rowCount() == 8; }));
    clickResource(desk, "appleBox");
    auto* look = desk.find<QLabel>("tryOnLook");
    const auto greens = [&] {
        const QImage image = look->pixmap().toImage();
        int count = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                count += image.pixelColor(x, y).green() > image.pixelColor(x, y).red() + 40;
        return image.isNull() ? -1 : count;
    };
    REQUIRE(waitFor([&] { return greens() >= 0; }));
    CHECK(greens() == 0);
    auto* wood = desk.find<QComboBox>("tryOn-0");
    CHECK(wood->currentText() == "appleBox-red");
    CHECK_FALSE(desk.find<QPushButton>("tryOnAssign")->isEnabled());
    wood->setCurrentIndex(wood->findText("appleBox-green"));
    Q_EMIT wood->activated(wood->currentIndex());
    REQUIRE(waitFor([&] { return greens() > 500; }));
    desk.click("tryOnAssign");
    REQUIRE(desk.idle());
    CHECK(showsText(*desk.window, "none leads astray"));
    CHECK(desk.find<QComboBox>("tryOn-0")->currentText() == "appleBox-green");
    CHECK(desk.find<QPushButton>("savePackage")->isEnabled());
    CHECK(readText(desk.folder / "apple.rowpackage") == before);
    // Leaving asks; staying stays, leaving without saving leaves the file as it was.
    const auto answer = [&](const char* words) {
        QTimer::singleShot(200, qApp, [words] {
            auto* asked = QApplication::activeModalWidget();
            REQUIRE(asked);
            for (auto* made : asked->findChildren<QPushButton*>())
                if (made->text() == words) return made->click();
            FAIL("no such answer");
        });
    };
    answer("Stay");
    desk.click("leavePackage");
    CHECK(desk.window->package().isVisible());
    answer("Save");
    desk.click("leavePackage");
    REQUIRE(waitFor([&] { return desk.window->loom().isVisible(); }));
    const auto saved = package::readPackage(desk.folder / "apple.rowpackage", files::Limits{});
    CHECK(wornGroups(saved, *saved.first(rows::ResourceKind::Geometry))[0].colour == 7u);
}
