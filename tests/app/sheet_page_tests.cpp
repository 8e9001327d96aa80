// Sheets in the window: looked at, changed, given away and taken in.
#include "app/desk.h"
#include "app/sheets/sheet_places.h"
#include "support/sheet_text.h"

#include "core/deliver/deliver.h"
#include "core/platform/sheet_package.h"

#include <QComboBox>
#include <QListWidget>
#include <QPlainTextEdit>

using namespace desk;

namespace sheet_page_tests {

void type(QWidget& within, const char* card, const char* field, const QString& text) {
    INFO(card << " " << field);
    auto* frame = seenIn<QWidget>(within, card);
    auto* box = frame->findChild<QLineEdit*>(field);
    REQUIRE(box);
    box->setFocus();
    box->selectAll();
    QTest::keyClicks(box, text);
    QTest::keyClick(box, Qt::Key_Return);
}

TEST_CASE(
    "a sheet that ships is changed in a copy, seen on the pieces at once, and written when it is saved") {
    Desk desk(40);
    MainWindow& window = *desk.window;
    const auto shipped = desk.session().sheet("hearthboard")->file;
    const std::string before = readText(shipped);
    window.showPlatforms();
    press(window, "open-hearthboard");
    SheetPage& page = window.sheetPage();
    REQUIRE(waitFor([&] { return page.isSettled() && desk.session().jobs().running().isEmpty(); }));
    const auto standing = [&](const char* card) {
        return page.findChild<QWidget*>(card)->findChild<QLabel*>("standing")->text();
    };
    CHECK(standing("rule-triangles").contains("all 1 piece"));
    type(page, "rule-triangles", "most", "100");
    REQUIRE(waitFor([&] { return standing("rule-triangles").contains("0 of 1"); }));
    CHECK(page.draft().isChanged());
    CHECK(showsText(page, "a copy of your own"));
    CHECK(page.draft().sheet()->rule("triangles")->limit("most", 0) == 100);
    CHECK_FALSE(std::filesystem::exists(desk.folder / "platforms"));
    // A limit is added by typing what it is about, and one is left out.
    auto* add = page.findChild<QLineEdit*>("addLimit");
    add->setFocus();
    QTest::keyClicks(add, "bones");
    press(page, "add-bones");
    REQUIRE(page.draft().sheet()->rule("bones"));
    press(*page.findChild<QWidget*>("rule-bones"), "away");
    CHECK_FALSE(page.draft().sheet()->rule("bones"));
    press(page, "sheetUndo");
    CHECK(page.draft().sheet()->rule("bones"));
    press(page, "saveSheet");
    REQUIRE(desk.idle());
    const auto own = desk.session().sheet("hearthboard-of-mine");
    REQUIRE(own);
    CHECK(own->name == "Hearthboard of mine");
    CHECK(own->rule("triangles")->limit("most", 0) == 100);
    CHECK(readText(shipped) == before);
    CHECK_FALSE(page.draft().isChanged());
    const auto& columns = desk.session().project().platforms;
    CHECK(std::ranges::find(columns, "hearthboard-of-mine") != columns.end());
}

TEST_CASE("a copy that could not be written is tried again as a copy, and what ships stays as it is") {
    Desk desk(40);
    MainWindow& window = *desk.window;
    const auto shipped = desk.session().sheet("hearthboard")->file;
    const std::string before = readText(shipped);
    window.showSheet("hearthboard");
    SheetPage& page = window.sheetPage();
    page.draft().edit("note", [](platform::SheetText& text) { text.set("", "notes", "\"mine\""); });
    const auto folder = newSheetFolder(desk.session());
    std::filesystem::remove_all(folder);
    writeFile(folder, "a file where the folder of sheets is to be");
    press(page, "saveSheet");
    CHECK(page.draft().isChanged());
    CHECK(readText(shipped) == before);
    std::filesystem::remove(folder);
    press(page, "saveSheet");
    REQUIRE(desk.idle());
    CHECK(readText(shipped) == before);
    CHECK_FALSE(page.draft().isChanged());
    const auto own = desk.session().sheet("hearthboard-of-mine");
    REQUIRE(own);
    CHECK(own->notes == "mine");
}

TEST_CASE("the sheet's text and its form are one, and a wrong word is said with its line") {
    Desk desk(40);
    MainWindow& window = *desk.window;
    window.showSheet("");
    SheetPage& page = window.sheetPage();
    press(page, "sheetText");
    auto* text = page.findChild<QPlainTextEdit*>("sheetTextEdit");
    REQUIRE(text->isVisible());
    QString own = text->toPlainText();
    text->setPlainText(QString(own).replace("My game", "Weir"));
    REQUIRE(waitFor([&] { return page.draft().sheet()->name == "Weir"; }));
    CHECK(page.findChild<QLineEdit*>("name")->text() == "Weir");
    auto* kind = page.findChild<QLineEdit*>("kind");
    kind->setFocus();
    kind->selectAll();
    QTest::keyClicks(kind, "a garden");
    QTest::keyClick(kind, Qt::Key_Return);
    CHECK(text->toPlainText().contains("kind = \"a garden\""));
    text->setPlainText(text->toPlainText().replace("check", "").replace("\"unit-known\"", "\"unit-knwon\""));
    REQUIRE(waitFor([&] { return !page.draft().problem().isEmpty(); }));
    CHECK(showsText(page, "\"unit-known\" perhaps"));
    CHECK(page.draft().problemLine() > 10);
    CHECK_FALSE(page.findChild<QAbstractButton*>("saveSheet")->isEnabled());
    press(page, "sheetUndo");
    CHECK(page.draft().problem().isEmpty());
    press(page, "part-frame");
    auto* up = page.findChild<QComboBox*>("up");
    REQUIRE(up);
    page.draft().edit("front", [](platform::SheetText& t) { t.set("axes", "front", "\"+X\""); });
    up = page.findChild<QComboBox*>("up");
    up->setCurrentIndex(1);
    Q_EMIT up->activated(1);
    CHECK(page.draft().sheet()->up == Up::Z);
    press(page, "saveSheet");
    CHECK(desk.session().sheet("weir"));
}

TEST_CASE("a template is seen with what comes of it, and what is wrong with it by its line") {
    Desk desk(40, true);
    MainWindow& window = *desk.window;
    window.showSheet("hearthboard");
    SheetPage& page = window.sheetPage();
    press(page, "part-files");
    const auto settled = [&] { return page.isSettled() && desk.session().jobs().running().isEmpty(); };
    REQUIRE(waitFor(settled));
    const auto card = [&] { return desk.find<QFrame>("text-0"); };
    const auto outcome = [&] { return card()->findChild<QPlainTextEdit*>("outcome")->toPlainText(); };
    CHECK(outcome().contains("Ball"));
    CHECK(showsText(page, "ball.obj"));
    auto* edit = card()->findChild<QPlainTextEdit*>("template");
    const auto typed = [&](const QString& text) {
        edit->setFocus();
        edit->selectAll();
        QTest::keyClick(edit, Qt::Key_Delete);
        QTest::keyClicks(edit, text);
        QTest::qWait(400); // typing has ended
        REQUIRE(waitFor(settled));
    };
    typed("all of {{name}}");
    CHECK(outcome() == "all of Ball");
    CHECK_FALSE(page.draft().isChanged());
    typed("{{#objects}}");
    CHECK(showsText(page, "line 1"));
    CHECK_FALSE(card()->findChild<QAbstractButton*>("keepTemplate")->isEnabled());
    CHECK(outcome().isEmpty());
    typed("once {{name}}");
    press(*card(), "keepTemplate");
    CHECK(page.draft().isChanged());
    REQUIRE(page.draft().sheet()->files.texts[0].text == "once {{name}}");
    REQUIRE(waitFor(settled));
    CHECK(outcome() == "once Ball");
    page.draft().undo().undo();
    CHECK_FALSE(page.draft().isChanged());
}

TEST_CASE("templates of tables, and of files beside the sheet, are changed like the others") {
    Desk desk(40, true);
    desk.folder.write(
        "platforms/weir.toml",
        sheetText("[deliver]\nkind = \"files\"\n[[table]]\npath = \"data/things.csv\"\n"
                  "header = \"id,name\"\nkey = \"name\"\nentry = \",{{name}}\"\nnumber = \"id\"\n"
                  "numbers = [7000, 7999]\n[[text]]\npath = \"{name}.cfg\"\nfrom = \"t/a.mustache\"\n"
                  "[[text]]\npath = \"{name}.txt\"\ntext = \"x\"\n"));
    desk.folder.write("platforms/t/a.mustache", "mesh={{name}}");
    desk.session().reloadSheets();
    REQUIRE(desk.session().sheet("weir"));
    desk.window->showSheet("weir");
    SheetPage& page = desk.window->sheetPage();
    press(page, "part-files");
    const auto settled = [&] { return page.isSettled() && desk.session().jobs().running().isEmpty(); };
    REQUIRE(waitFor(settled));
    CHECK(showsText(page, "a number that is free, from 7000 to 7999"));
    const auto outcome = [&](const char* card) {
        return desk.find<QFrame>(card)->findChild<QPlainTextEdit*>("outcome")->toPlainText();
    };
    CHECK(outcome("table-0") == "id,name\n7000,Ball\n");
    CHECK(outcome("text-0") == "mesh=Ball");
    const auto change = [&](const char* card, const QString& text) {
        auto* edit = desk.find<QFrame>(card)->findChild<QPlainTextEdit*>("template");
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, text);
        QTest::qWait(400); // typing has ended
        REQUIRE(waitFor(settled));
        press(*desk.find<QFrame>(card), "keepTemplate");
        REQUIRE(waitFor(settled));
    };
    change("table-0", ",my {{name}}");
    CHECK(outcome("table-0") == "id,name\n7000,my Ball\n");
    change("text-0", "model={{name}}");
    CHECK(outcome("text-0") == "model=Ball");
    press(page, "saveSheet");
    REQUIRE(desk.idle());
    const auto sheet = desk.session().sheet("weir");
    REQUIRE(sheet);
    CHECK(sheet->files.tables[0].entry == ",my {{name}}");
    CHECK(sheet->files.texts[0].text == "model={{name}}");
    CHECK(sheet->files.texts[0].from.empty());
    CHECK(sheet->files.texts[1].text == "x");
    CHECK(readText(desk.folder / "platforms/t/a.mustache") == "mesh={{name}}");
}

TEST_CASE("names, pictures, contact, motion and notes of a sheet have forms") {
    Desk desk(40, true);
    SheetPage& page = desk.window->sheetPage();
    desk.window->showSheet("hearthboard");
    const auto change = [&](const char* card, const char* key, const char* words) {
        type(page, card, key, words);
        REQUIRE(page.draft().problem().isEmpty());
    };
    press(page, "part-names");
    press(page, "add-prefix");
    change("section-prefix-0", "code", "old-");
    change("section-prefix-0", "means", "of the first year");
    press(page, "part-pictures");
    const auto before = page.draft().sheet()->surface.pictures.size();
    press(page, "add-picture");
    REQUIRE(page.draft().sheet()->surface.pictures.size() == before + 1);
    const std::string last = "section-picture-" + std::to_string(before);
    change(last.c_str(), "alpha", "1 - roughness");
    change(last.c_str(), "most", "512");
    press(page, "part-contact");
    press(page, "add-surface");
    change("section-surface-0", "name", "gravel");
    change("section-surface-0", "hints", "stone, pebble");
    press(page, "part-motion");
    press(page, "add-motion");
    change("section-motion", "slots", "rest, wave");
    const auto& sheet = *page.draft().sheet();
    CHECK(sheet.prefixes.at(0).means == "of the first year");
    CHECK(sheet.surface.pictures.back().mostEdge == 512);
    CHECK(platform::textOf(*sheet.surface.pictures.back().channels[3]) == "1 - roughness");
    CHECK(sheet.touch.surfaces.at(0).hints == std::vector<std::string>{"stone", "pebble"});
    CHECK(sheet.slots == std::vector<std::string>{"rest", "wave"});
    // A value that cannot be is said, and what was right stays beside the form.
    type(page, "section-motion", "slots", "rest, rest");
    CHECK(page.draft().problem().contains("twice"));
    page.draft().undo().undo();
    CHECK(page.draft().problem().isEmpty());
    // One that a section must have does not go.
    press(page, "part-contact");
    type(page, "section-surface-0", "name", "");
    CHECK(page.draft().sheet()->touch.surfaces.at(0).name == "gravel");
    press(*page.findChild<QWidget*>("section-surface-0"), "takeAway");
    CHECK(page.draft().sheet()->touch.surfaces.empty());
    press(page, "part-notes");
    auto* notes = desk.find<QPlainTextEdit>("notes");
    notes->setFocus();
    QTest::keyClicks(notes, "read off the quay; ask again");
    press(page, "saveSheet");
    REQUIRE(desk.idle());
    const auto saved = desk.session().sheet("hearthboard-of-mine");
    REQUIRE(saved);
    CHECK(saved->notes.starts_with("read off the quay"));
    CHECK(saved->slots.size() == 2);
}

TEST_CASE("a sheet that changed since the project was saved is shown, taken, or left") {
    Desk desk(40, true);
    MainWindow& window = *desk.window;
    const auto file = desk.session().project().file;
    desk.session().saveAs(file);
    CHECK(std::filesystem::exists(desk.folder / "sheets-used/hearthboard.zestsheet"));
    const auto other = [&](const char* most) { // as a newer program, or somebody else, would have it
        std::string text = readText(platform::sheetNamed(platform::loadSheets(), "hearthboard")->file);
        text.replace(text.find("most = 40000"), 12, most);
        desk.folder.write("platforms/hearthboard.toml", text);
        REQUIRE(window.openProject(QString::fromStdString(file.string())));
        REQUIRE(desk.idle());
    };
    other("most = 500  ");
    REQUIRE(desk.session().changedSheets().size() == 1);
    window.showPlatforms();
    press(window, "changed-hearthboard");
    REQUIRE(waitFor([&] { return showsText(window, "Triangles: most 40"); }, 3000));
    REQUIRE(waitFor([&] { return showsText(window, "Ball would fit no longer"); }, 5000));
    press(window, "takeNewSheet");
    CHECK(desk.session().changedSheets().empty());
    CHECK(desk.session().sheet("hearthboard")->rule("triangles")->limit("most", 0) == 500);
    other("most = 600  ");
    REQUIRE(desk.session().changedSheets().size() == 1);
    desk.session().saveAs(file); // which is no answer
    other("most = 600  ");
    REQUIRE(desk.session().changedSheets().size() == 1);
    window.showPlatforms();
    press(window, "changed-hearthboard");
    press(window, "stayWithSheet");
    REQUIRE(desk.idle());
    CHECK(desk.session().changedSheets().empty());
    CHECK(desk.session().sheet("hearthboard")->rule("triangles")->limit("most", 0) == 500);
    CHECK_FALSE(std::filesystem::exists(desk.folder / "platforms/hearthboard.toml"));
}

TEST_CASE("a sheet is given away as one file, and taken in with what changed said before") {
    Desk desk(40, true);
    MainWindow& window = *desk.window;
    const auto own = desk.session().sheet("hearthboard");
    std::string text = readText(own->file);
    text.replace(text.find("most = 40000"), 12, "most = 500  ");
    const auto file = desk.folder.write("later/hearthboard.toml", text);
    desk.folder.write("table.zestsheet",
                      platform::packedSheet(platform::readSheet(file, deliver::sheetWords({})), {}));
    CHECK(desk.session().state("Ball", "hearthboard").report.rule("triangles")->finding.holds);
    window.showPlatforms();
    drop(window, {QString::fromStdString((desk.folder / "table.zestsheet").string())});
    REQUIRE(waitFor([&] { return window.findChild<QLabel*>("sheetChanges") != nullptr; }));
    CHECK(window.findChild<QLabel*>("sheetChanges")->text().contains("Triangles: most 40"));
    auto* touches = window.findChild<QLabel*>("sheetTouches");
    REQUIRE(waitFor([&] { return touches->isVisible(); }, 5000));
    CHECK(touches->text() == "Ball would fit no longer");
    CHECK_FALSE(std::filesystem::exists(desk.folder / "platforms"));
    press(window, "takeSheet");
    REQUIRE(desk.idle());
    CHECK(desk.session().sheet("hearthboard")->rule("triangles")->limit("most", 0) == 500);
    CHECK(ownerOf(*desk.session().sheet("hearthboard"), desk.session()) == SheetOwner::Project);
    window.showSheet("hearthboard");
    answerDialog(QString::fromStdString((desk.folder / "again.zestsheet").string()));
    press(window.sheetPage(), "exportSheet");
    CHECK(waitFor([&] { return std::filesystem::exists(desk.folder / "again.zestsheet"); }, 5000));
    CHECK(platform::unpackedSheet(desk.folder / "again.zestsheet").size() == 1);
}

} // namespace sheet_page_tests
