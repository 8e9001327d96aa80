// What the real game said, in the window: answers, what sets a refused piece apart, and the game's log.
#include "app/desk.h"
#include "app/game/log_panel.h"
#include "app/sheets/sheet_places.h"
#include "app/widgets/file_look.h"

#include "core/platform/own_sheet.h"
#include "core/platform/sheet_known.h"

#include <QBuffer>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QDialog>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTextEdit>

using namespace desk;

namespace game_page_tests {

/// The ball of the desk, delivered, and the page of what the game said of it.
GamePage& delivered(Desk& desk) {
    desk.window->showWorkbench("Ball", "hearthboard");
    REQUIRE(desk.idle());
    REQUIRE(desk.state().report.fits());
    desk.window->build();
    REQUIRE(desk.idle());
    desk.window->workbench().setStage(steps::Stage::Deliver);
    desk.click("gameSaid");
    GamePage& page = desk.window->gamePage();
    REQUIRE(waitFor([&] { return page.isVisible() && page.isSettled(); }));
    return page;
}

/// Whether it is to be read there in a moment: forms are made anew.
bool comes(const QWidget& within, const QString& text) {
    return waitFor([&] { return showsText(within, text); }, 3000);
}

std::shared_ptr<const platform::Sheet> hearthboard(Desk& desk) {
    return desk.session().sheet("hearthboard");
}

TEST_CASE("a refusal that no limit foresaw becomes one, and the piece is seen to break it") {
    Desk desk(40, true);
    const auto shipped = hearthboard(desk)->file;
    const std::string before = readText(shipped);
    platform::GameAnswer taken;
    taken.piece = "Bell", taken.when = "2026-11-01", taken.accepted = true;
    taken.numbers = {{"triangles", 500}, {"objects", 1}, {"materials", 1}};
    changeSheet(desk.session(), *hearthboard(desk),
                [&](platform::SheetText& text) { text.add("answer", platform::answerSection(taken)); });
    REQUIRE(desk.idle());
    CHECK(ownerOf(*hearthboard(desk), desk.session()) == SheetOwner::Project);
    CHECK(readText(shipped) == before);
    GamePage& page = delivered(desk);
    CHECK(comes(page, "Bell was taken"));
    desk.click("gameRefused");
    CHECK(comes(page, "No limit foresaw it"));
    auto* apart = desk.find<QWidget>("apart-triangles");
    REQUIRE(apart);
    QTest::keyClicks(desk.find<QLineEdit>("gameBecause"), "mesh too heavy");
    auto* take = desk.find<QCheckBox>("take-triangles");
    REQUIRE(take);
    QTest::mouseClick(take, Qt::LeftButton, {}, QPoint(8, take->height() / 2));
    CHECK(take->isChecked());
    desk.click("keepAnswer");
    REQUIRE(desk.idle());
    const auto sheet = hearthboard(desk);
    REQUIRE(sheet->answers.size() == 2);
    CHECK(sheet->answers[1].because == "mesh too heavy");
    CHECK(sheet->answers[1].piece == "Ball");
    const auto* rule = sheet->rule(sheet->answers[1].limit);
    REQUIRE(rule);
    CHECK(rule->check == "triangles");
    CHECK(rule->limit("most", 0) >= 500);
    CHECK(rule->limit("most", 0) < sheet->answers[1].numbers.at("triangles"));
    CHECK_FALSE(desk.state().report.fits());
    CHECK(comes(page, "Ball was refused"));
    CHECK(comes(page, "led to the limit"));
    // At the gauge: how do we know this limit?
    desk.click("leaveGame");
    desk.window->workbench().chooseRule(QString::fromStdString(rule->id));
    CHECK(comes(*desk.window, "the game refused Ball"));
    // The answer goes again, the limit stays. The page finds the files from any stage.
    desk.window->workbench().setStage(steps::Stage::Gather);
    desk.window->showGame("Ball", "hearthboard");
    REQUIRE(desk.idle());
    CHECK(comes(page, "As it was delivered"));
    desk.click("takeBack-1");
    REQUIRE(desk.idle());
    CHECK(hearthboard(desk)->answers.size() == 1);
    CHECK_FALSE(desk.state().report.fits());
    // Escape goes back, as everywhere.
    QTest::keyClick(&page, Qt::Key_Escape);
    CHECK(waitFor([&] { return desk.window->workbench().isVisible(); }));
}

TEST_CASE("with nothing delivered, and nothing known, the page says what to do") {
    Desk desk(40, true);
    desk.window->showWorkbench("Ball", "hearthboard");
    REQUIRE(desk.idle());
    desk.window->showGame("Ball", "hearthboard");
    REQUIRE(desk.idle());
    GamePage& page = desk.window->gamePage();
    CHECK(comes(page, "Build the piece first"));
    CHECK_FALSE(desk.find<QAbstractButton>("keepAnswer")->isEnabled());
    desk.click("gameAccepted");
    QTest::keyClicks(desk.find<QLineEdit>("gameNote"), "at dusk");
    desk.click("keepAnswer");
    REQUIRE(desk.idle());
    REQUIRE(hearthboard(desk)->answers.size() == 1);
    CHECK(hearthboard(desk)->answers[0].accepted);
    CHECK(hearthboard(desk)->answers[0].note == "at dusk");
    CHECK(comes(page, "at dusk"));
}

TEST_CASE("a log is watched while the game writes it, and an unknown line is made known") {
    Desk desk(40, true);
    GamePage& page = delivered(desk);
    const auto log = desk.folder / "game.log";
    writeFile(log,
              "loading board\n[9:01] ERR mesh \"Ball\" refused: 1520 tris\n[9:02] ERR mesh \"Oak\" refused: "
              "77 tris\n");
    CHECK(comes(page, "Paste what the game wrote"));
    page.log().watch(QString::fromStdString(log.string()));
    REQUIRE(waitFor([&] { return page.log().isSettled() && showsText(page, "loading board"); }));
    CHECK(comes(page, "(2 times)")); // alike but for what changes
    desk.click("makeKnown-3");
    auto* keep = desk.find<QAbstractButton>("keepPattern");
    REQUIRE(keep);
    CHECK_FALSE(keep->isEnabled());
    CHECK(comes(page, "2 of 3 lines"));
    // A part that is no number: it is selected, and changes from then on.
    auto* line = desk.find<QTextEdit>("logLine");
    QTextCursor cursor = line->textCursor();
    cursor.setPosition(7), cursor.setPosition(10, QTextCursor::KeepAnchor); // ERR
    line->setTextCursor(cursor);
    desk.click("turnSelected");
    desk.click("turnSelected"); // and once more takes it back
    QTest::keyClicks(desk.find<QLineEdit>("patternSays"), "{2} has {3} triangles");
    desk.find<QComboBox>("patternRule")
        ->setCurrentIndex(desk.find<QComboBox>("patternRule")->findData("triangles"));
    REQUIRE(keep->isEnabled());
    desk.click("keepPattern");
    REQUIRE(desk.idle());
    REQUIRE(waitFor([&] { return page.log().isSettled() && showsText(page, "Oak has 77 triangles"); }));
    CHECK(comes(page, "Ball has 1520 triangles"));
    CHECK(hearthboard(desk)->log.size() == 1);
    CHECK(hearthboard(desk)->log[0].rule == "triangles");
    CHECK(comes(page, "mended by"));
    // The game goes on writing.
    writeFile(log, readText(log) + "[9:05] ERR mesh \"Elm\" refused: 5 tris\n");
    CHECK(waitFor([&] { return showsText(page, "Elm has 5 triangles"); }));
    desk.click("logRule-triangles");
    CHECK(waitFor([&] { return desk.window->workbench().isVisible(); }));
    CHECK(desk.find<QWidget>("gauge-triangles"));
    // It is watched again the next time; pasted lines take its place.
    desk.window->showGame("Ball", "hearthboard");
    REQUIRE(waitFor([&] { return page.log().isSettled() && showsText(page, "Elm has 5 triangles"); }));
    QGuiApplication::clipboard()->setText("[1:00] ERR mesh \"Bud\" refused: 8 tris\n");
    desk.click("pasteLog");
    REQUIRE(waitFor([&] { return page.log().isSettled() && showsText(page, "Bud has 8 triangles"); }));
    CHECK_FALSE(showsText(page, "Elm"));
    // A file that goes is said, and nothing falls over.
    page.log().watch(QString::fromStdString((desk.folder / "none.log").string()));
    CHECK(waitFor([&] { return showsText(page, "cannot be read"); }));
}

TEST_CASE("every file is looked into before it is written") {
    Desk desk(40, true);
    desk.window->showWorkbench("Ball", "hearthboard");
    REQUIRE(desk.idle());
    desk.window->workbench().setStage(steps::Stage::Deliver);
    REQUIRE(desk.idle());
    desk.click("lookIntoFiles");
    REQUIRE(desk.idle());
    auto* list = desk.find<QListWidget>("filesList");
    REQUIRE(list);
    REQUIRE(list->count() >= 2);
    const auto delivered = desk.window->workbench().deliver().folder().toStdString();
    CHECK_FALSE(std::filesystem::exists(delivered));
    bool text = false, model = false;
    for (int row = 0; row < list->count(); ++row) {
        list->setCurrentRow(row);
        REQUIRE(desk.idle());
        const QString words = desk.find<QLabel>("lookWords")->text();
        INFO(words.toStdString());
        const bool shown =
            desk.find<QDialog>("filesDialog")->findChild<QPlainTextEdit*>("lookText")->isVisible();
        if (list->item(row)->text().contains(".json")) text |= shown;
        if (list->item(row)->text().contains(".glb") || list->item(row)->text().contains(".obj"))
            model |= words.contains("triangles");
    }
    CHECK(text);
    CHECK(model);
    desk.click("filesClose");
}

TEST_CASE("a look into a file shows pictures, texts, models, and says of others what they are") {
    Desk desk(40, true);
    FileLook look(desk.session().jobs());
    look.resize(500, 400);
    look.QWidget::show();
    QImage picture(300, 200, QImage::Format_RGB32);
    picture.fill(Qt::darkGreen);
    QByteArray bytes;
    QBuffer buffer(&bytes);
    picture.save(&buffer, "PNG");
    const auto ball =
        formats::writeGlb(shapes::modelOf(shapes::sphere(12, 7, 0.5), "ball"), {"ball"}, nullptr);
    const auto files = std::make_shared<const std::vector<OutFile>>(
        std::vector<OutFile>{{"a.png", bytes.toStdString()},
                             {"b.json", "{}"},
                             ball[0],
                             {"broken.glb", "glTF\x02" + std::string(40, '\0')},
                             {"own.bin", std::string("\0\1\2", 3)},
                             {"empty.txt", ""}});
    const auto words = [&](std::size_t which) {
        look.show(files, which);
        REQUIRE(waitFor([&] { return look.isSettled(); }));
        return look.findChild<QLabel*>("lookWords")->text();
    };
    CHECK(words(0).contains("300 × 200"));
    CHECK_FALSE(look.findChild<QLabel*>("lookPicture")->pixmap().isNull());
    words(1);
    CHECK(look.findChild<QPlainTextEdit*>("lookText")->toPlainText() == "{}");
    CHECK(words(2).contains("triangles"));
    CHECK_FALSE(look.findChild<QLabel*>("lookPicture")->pixmap().isNull());
    CHECK_FALSE(words(3).isEmpty());
    CHECK(look.findChild<QLabel*>("lookPicture")->pixmap().isNull());
    CHECK(words(4).contains("only the game"));
    words(5);
    CHECK(look.findChild<QPlainTextEdit*>("lookText")->isVisible());
}

} // namespace game_page_tests
