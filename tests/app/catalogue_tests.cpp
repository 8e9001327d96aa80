// A game's catalogue, as people find items in it and take them out.
#include "desk.h"
#include "support/quickest.h"
#include "support/row_packages.h"

#include "app/pages/catalogue_list.h"

#include "core/catalogue/catalogue.h"
#include "core/figure/figure.h"

#include <QCheckBox>
#include <QListView>
#include <QPushButton>

using namespace zl;
using namespace zl::app;
using namespace desk;

namespace {

/// Four entries that all show the apple box, and `more` of others' making.
QString catalogueIn(const Desk& desk, int more = 0) {
    std::vector<catalogue::Entry> entries;
    const auto add = [&](const std::string& code, const std::string& title, const std::string& pack,
                         const std::string& kind) {
        catalogue::Entry entry;
        entry.number = std::int64_t(entries.size()) + 1;
        entry.code = code, entry.title = title, entry.pack = pack, entry.kind = kind;
        entry.thumbnail = 0x1111, entry.resource = 0x6666, entry.added = entry.number;
        entries.push_back(entry);
    };
    add("kid-appleBox", "Apple box", "Harvest fair", "loose");
    add("quay-bollard", "Bollard", "Quay set", "loose");
    add("grown-a-net", "Shoulder net", "Quay set", "worn");
    entries[2].bone = "chest", entries[2].place = "shoulder, left";
    add("elder-belt", "Belt", "Others' work", "worn");
    entries[3].maker = "Tamsin Reed", entries[3].licence = "CC BY-NC 4.0", entries[3].link = "berth 4";
    for (int i = 0; i < more; ++i)
        add("quay-more" + std::to_string(i), "Keg " + std::to_string(i), "Quay set", "loose");
    writeFile(desk.folder / "fair.rowcatalogue", catalogue::bytesOf(entries, rows::appleBox()));
    return QString::fromStdString((desk.folder / "fair.rowcatalogue").string());
}

QListView& items(Desk& desk) {
    return *desk.find<QListView>("catalogueItems");
}

QStringList titles(Desk& desk) {
    QStringList out;
    const auto& model = *items(desk).model();
    for (int row = 0; row < model.rowCount(); ++row) out << model.index(row, 0).data().toString();
    return out;
}

bool openCatalogue(Desk& desk, int more = 0) {
    drop(*desk.window, {catalogueIn(desk, more)});
    return waitFor([&] { return desk.window->catalogue().isVisible() && !titles(desk).isEmpty(); }) &&
           waitFor([&] { return desk.window->catalogue().isSettled(); });
}

void clickItem(Desk& desk, int row, Qt::KeyboardModifiers keys = {}) {
    QTest::mouseClick(items(desk).viewport(), Qt::LeftButton, keys,
                      items(desk).visualRect(items(desk).model()->index(row, 0)).center());
}

} // namespace

TEST_CASE("a dropped catalogue shows its items with pictures, and finds them while somebody types") {
    Desk desk;
    REQUIRE(openCatalogue(desk));
    CHECK(titles(desk) == QStringList{"Apple box", "Belt", "Bollard", "Shoulder net"});
    CHECK_FALSE(items(desk).model()->index(0, 0).data(Qt::DecorationRole).isNull());
    CHECK(items(desk).model()->index(3, 0).data(CatalogueList::Meaning).toString() == "grown-up, build A");
    QTest::keyClicks(desk.find<QLineEdit>("catalogueWords"), "quay");
    REQUIRE(waitFor([&] { return titles(desk) == QStringList{"Bollard", "Shoulder net"}; }));
    CHECK(desk.find<QLabel>("catalogueCount")->text().startsWith("2 of 4, in "));
    QTest::keyClicks(desk.find<QLineEdit>("catalogueWords"), " nothing");
    REQUIRE(waitFor([&] { return titles(desk).isEmpty(); }));
    CHECK(desk.find<QLabel>("catalogueState")->text().startsWith("No item is called"));
    desk.find<QLineEdit>("catalogueWords")->clear();
    REQUIRE(waitFor([&] { return titles(desk).size() == 4; }));
    desk.click("orderNewest");
    CHECK(titles(desk) == QStringList{"Belt", "Shoulder net", "Bollard", "Apple box"});
    QTest::mouseClick(desk.find<QCheckBox>("only-loose"), Qt::LeftButton, {}, {8, 8});
    CHECK(titles(desk) == QStringList{"Belt", "Shoulder net"});
    desk.click("for-elder-");
    CHECK(titles(desk) == QStringList{"Belt"});
    desk.click("for-elder-");
    desk.click("catalogueRows");
    CHECK(items(desk).visualRect(items(desk).model()->index(1, 0)).top() >
          items(desk).visualRect(items(desk).model()->index(0, 0)).top());
    QTest::keyClick(desk.window->focusWidget(), Qt::Key_Escape);
    CHECK(desk.window->loom().isVisible());
}

TEST_CASE("items become pieces under names by a pattern, with maker, licence and permission") {
    Desk desk;
    REQUIRE(openCatalogue(desk));
    clickItem(desk, 0);
    REQUIRE(waitFor([&] { return desk.find<QLabel>("itemFacts")->text().contains("12 triangles"); }));
    CHECK(desk.find<QLabel>("itemFacts")->text().contains("kid-appleBox"));
    CHECK(desk.find<QLabel>("itemFacts")->text().contains("child"));
    clickItem(desk, 1, Qt::ControlModifier);
    REQUIRE(waitFor([&] { return desk.find<QLabel>("itemName")->text() == "2 items chosen"; }));
    CHECK(desk.find<QLabel>("itemAskFirst")->text().startsWith("Ask Tamsin Reed before"));
    auto* called = desk.find<QLineEdit>("itemCalled");
    called->setText("fair {item}");
    CHECK(desk.find<QLabel>("itemPreview")->text() == "fair appleBox\nfair belt");
    desk.click("itemPieces");
    REQUIRE(waitFor([&] { return desk.session().project().pieces.size() == 3; }));
    CHECK(desk.window->loom().isVisible());
    const auto& pieces = desk.session().project().pieces;
    CHECK(pieces[1].name == "fair appleBox");
    CHECK(pieces[1].sources[0].path == "fair.rowcatalogue/geometry/appleBox.rowmesh");
    CHECK(pieces[1].sources[0].permission == project::Permission::Allowed);
    CHECK(pieces[2].name == "fair belt");
    CHECK(pieces[2].sources[0].author == "Tamsin Reed");
    CHECK(pieces[2].sources[0].licence == "CC BY-NC 4.0");
    CHECK(pieces[2].sources[0].link == "Others' work, berth 4");
    CHECK(pieces[2].sources[0].permission == project::Permission::AskFirst);
    REQUIRE(desk.idle());
    CHECK(desk.session().state("fair belt", "hearthboard").kind == CrossingState::Kind::Ready);
    desk.session().undo().undo();
    CHECK(desk.session().project().pieces.size() == 1);
}

TEST_CASE("items are taken out into a folder as packages of their own") {
    Desk desk;
    REQUIRE(openCatalogue(desk));
    clickItem(desk, 0);
    REQUIRE(waitFor([&] {
        return desk.find<QPushButton>("itemFolder")->isVisible() &&
               desk.window->findChild<QPushButton*>("itemFolder")->isEnabled();
    }));
    desk.find<QLineEdit>("itemCalled")->setText("my box");
    answerDialog(QString::fromStdString(desk.folder.path().string()));
    desk.click("itemFolder");
    REQUIRE(waitFor([&] { return std::filesystem::exists(desk.folder / "my box.rowpackage"); }));
    REQUIRE(desk.idle());
    CHECK(package::readPackage(desk.folder / "my box.rowpackage", {}).resources.size() == 6);
}

TEST_CASE("twenty thousand items do not keep the window waiting") {
    Desk desk;
    REQUIRE(openCatalogue(desk, 20'000));
    const WorkWatch typing;
    desk.find<QLineEdit>("catalogueWords")->setText("keg 1999");
    CHECK(typing.seconds() < 0.05);
    REQUIRE(waitFor([&] { return titles(desk).size() == 11; }));
    desk.find<QLineEdit>("catalogueWords")->clear();
    REQUIRE(waitFor([&] { return items(desk).model()->rowCount() == 20'004; }));
    const QString words = desk.find<QLabel>("catalogueCount")->text();
    CHECK(words.section("in ", 1).section(QChar(0x202f), 0, 0).toInt() <= 50);
    std::vector<double> times; // milliseconds; and scrolls on at once
    for (int key = 0; key < 30; ++key) {
        const WorkWatch watch;
        QTest::keyClick(&items(desk), Qt::Key_PageDown);
        QApplication::processEvents();
        times.push_back(1000 * watch.seconds());
    }
    std::ranges::sort(times);
    WARN("a page further down in 20 000 items: " << times[15] << " ms, at most " << times.back() << " ms");
    CHECK(times[15] < 150); // with other programs on both cores
    CHECK(items(desk).currentIndex().row() > 150);
}

TEST_CASE("a catalogue that is none says so") {
    Desk desk;
    rows::writeSql(desk.folder / "x.rowcatalogue", "CREATE TABLE entries(a)");
    desk.window->showCatalogue(QString::fromStdString((desk.folder / "x.rowcatalogue").string()));
    REQUIRE(waitFor([&] { return desk.find<QLabel>("catalogueState")->text().contains("is no catalogue"); }));
}

TEST_CASE("items go onto a figure of the project: worn ones on their entry's bone, loose ones beside, undone "
          "at once") {
    Desk desk;
    REQUIRE(openCatalogue(desk));
    CHECK_FALSE(desk.window->findChild<QPushButton*>("itemPutOn")->isVisible()); // there is no figure yet
    writeAllOrNone(desk.folder.path(),
                   formats::writeGlb(figure::figureOf(figure::kindNamed("grown-a")), {"figure"}, nullptr));
    desk.session().bringIn(QStringList{QString::fromStdString((desk.folder / "figure.glb").string())});
    REQUIRE(desk.idle());
    REQUIRE(openCatalogue(desk));
    auto* put = desk.find<QPushButton>("itemPutOn");
    CHECK(put->text() == "Put on Figure");
    clickItem(desk, int(titles(desk).indexOf("Shoulder net")));
    clickItem(desk, int(titles(desk).indexOf("Bollard")), Qt::ControlModifier);
    REQUIRE(waitFor([&] { return desk.find<QPushButton>("itemPieces")->text() == "Make 2 pieces"; }));
    QTest::mouseClick(put, Qt::LeftButton);
    REQUIRE(waitFor([&] { return desk.session().project().piece("Shoulder net") != nullptr; }));
    const auto& recipe = desk.session().project().piece("Figure")->recipe;
    REQUIRE(recipe.size() == 2); // places come before motion
    CHECK(recipe[0].step == "set-beside");
    CHECK(recipe[0].params["items"][0]["item"]["piece"] == "Bollard");
    CHECK(recipe[1].params["items"][0]["bone"] == "chest");
    CHECK(recipe[1].params["items"][0]["place"] == "shoulder, left");
    REQUIRE(desk.idle());
    CHECK(objectCount(desk.session().state("Figure", "hearthboard").evaluation.model) == 3);
    desk.session().undo().undo();
    CHECK(desk.session().project().piece("Figure")->recipe.empty());
}
