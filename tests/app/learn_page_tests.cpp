// Sheets learnt from files in the window: a newcomer's whole way, and what is shown on it.
#include "app/desk.h"
#include "app/sheets/sheet_places.h"
#include "support/example_sets.h"

#include "core/base/archive.h"

#include <QListWidget>

#include <ctime>
#include <fstream>

using namespace desk;

namespace learn_page_tests {

TEST_CASE("a newcomer comes from example files to files that are accepted, in twelve clicks at most") {
    Desk desk;
    const HiddenGame game{.metres = 1,
                          .front = "+Z",
                          .format = "glb",
                          .triangles = 4096,
                          .names = "hyphens",
                          .layout = 1,
                          .text = 1};
    const auto examples = desk.folder / "Weir Gardens";
    writeAccepted(game, 3, examples);
    MainWindow& window = *desk.window;
    int clicks = 0;
    press(window, "platformChooser", &clicks);
    press(window, "learnFromFiles", &clicks);
    answerDialog(QString::fromStdString(examples.string()));
    press(window, "acceptedFilesChoose", &clicks);
    REQUIRE(waitFor([&] { return window.learnPage().evidence() != nullptr; }));
    REQUIRE(desk.idle());
    CHECK(window.findChild<QLineEdit*>("gameName")->text() == "Weir Gardens");
    press(window, "makeSheet", &clicks);
    REQUIRE(desk.idle());
    const auto sheet = desk.session().sheet("weir-gardens");
    REQUIRE(sheet);
    CHECK(sheet->standIn == "files");
    CHECK(ownerOf(*sheet, desk.session()) == SheetOwner::Project);
    // A model of one's own, dropped on the window: far too fine, and off the floor.
    Model own = shapes::modelOf(shapes::sphere(120, 90, 0.5), "gate-knob");
    own.headingKnown = true;
    writeAllOrNone(desk.folder.path(),
                   formats::writeGlb(moved(own, glm::translate(glm::dmat4(1.0), glm::dvec3(0, 0.9, 0))),
                                     {"gate-knob"}, nullptr));
    drop(window, {QString::fromStdString((desk.folder / "gate-knob.glb").string())});
    REQUIRE(desk.idle());
    QTest::mouseDClick(desk.find<CrossingButton>("crossing-Gate knob-weir-gardens"), Qt::LeftButton);
    clicks += 2;
    REQUIRE(waitFor([&] { return window.workbench().isVisible(); }));
    REQUIRE(desk.idle());
    CHECK_FALSE(desk.session().state("Gate knob", "weir-gardens").report.fits());
    press(window, "suggest", &clicks);
    REQUIRE(waitFor([&] { return window.workbench().isOffering(); }));
    press(window, "planApply", &clicks);
    REQUIRE(desk.idle());
    for (const auto& rule : desk.session().state("Gate knob", "weir-gardens").report.rules)
        if (rule.severity == platform::Severity::Must) {
            INFO(rule.label << ": " << rule.finding.note);
            CHECK(rule.finding.holds);
        }
    press(window, "try", &clicks);
    REQUIRE(waitFor([&] { return window.tryout().isVisible() && window.tryout().isReady(); }));
    CHECK(waitFor([&] { return showsText(window, "Like the one that works"); }, 5000));
    CHECK(clicks <= 12);
    const auto folder = desk.folder / "delivered/weir-gardens/gate-knob";
    INFO(folder);
    const bool accepted = waitFor([&] { return showsText(window, "ccepted"); }, 5000);
    QString said;
    for (auto* label : window.tryout().findChildren<QLabel*>()) said += label->text() + "\n";
    INFO(said.toStdString());
    CHECK(accepted);
}

TEST_CASE("what was learnt is shown with the files behind it, and what could not be read is listed") {
    Desk desk(40);
    MainWindow& window = *desk.window;
    writeAccepted(hiddenGame(5), 5, desk.folder / "taken");
    desk.folder.write("taken/broken.glb", "glTF and no more");
    writeRefused(hiddenGame(5), 5, desk.folder / "refused");
    window.showPlatforms();
    drop(window, {QString::fromStdString((desk.folder / "taken").string())});
    REQUIRE(waitFor([&] { return window.learnPage().evidence() != nullptr; }));
    LearnPage& page = window.learnPage();
    CHECK(page.isVisible());
    page.choose("triangles");
    CHECK(showsText(page, "files have at most"));
    CHECK(page.findChild<QListWidget*>("propertyFiles")->count() == 12);
    press(page, "unreadable");
    CHECK(page.findChild<QListWidget*>("propertyFiles")->item(0)->text().contains("broken.glb"));
    answerDialog(QString::fromStdString((desk.folder / "refused").string()));
    press(page, "refusedFilesChoose");
    REQUIRE(waitFor([&] { return page.evidence() != nullptr && page.isSettled(); }));
    page.choose("triangles");
    CHECK(showsText(page, "was refused"));
    QTest::keyClick(&page, Qt::Key_Escape);
    CHECK_FALSE(page.isVisible());
}

TEST_CASE("files in an archive say as much as those in a folder, and are looked into in the same way") {
    Desk desk(40);
    MainWindow& window = *desk.window;
    writeAccepted(hiddenGame(5), 5, desk.folder / "taken");
    std::vector<OutFile> files;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(desk.folder / "taken"))
        if (entry.is_regular_file())
            files.push_back({entry.path().lexically_relative(desk.folder / "taken").generic_string(),
                             readText(entry.path())});
    const QString archive =
        QString::fromStdString(desk.folder.write("Weir Gardens.zip", zipped(files)).string());
    window.showPlatforms();
    press(window, "learnFromFiles");
    LearnPage& page = window.learnPage();
    answerDialog(archive);
    press(page, "acceptedFilesArchive");
    REQUIRE(waitFor([&] { return page.evidence() != nullptr; }));
    REQUIRE(desk.idle());
    CHECK(page.findChild<QLineEdit*>("gameName")->text() == "Weir Gardens");
    CHECK(page.evidence()->files.size() == files.size());
    page.choose("triangles");
    auto* list = page.findChild<QListWidget*>("propertyFiles");
    REQUIRE(list->count() == 12);
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    REQUIRE(waitFor([&] { return !page.findChild<QLabel*>("lookPicture")->pixmap().isNull(); }, 10000));
    CHECK(page.findChild<QLabel*>("lookWords")->text().contains("triangles"));
    const auto taken = page.evidence()->root;
    CHECK(std::filesystem::exists(taken));
    press(page, "makeSheet");
    REQUIRE(desk.idle());
    CHECK(desk.session().sheet("weir-gardens"));
    CHECK(examplesOf("weir-gardens") == archive);
    window.showLearn(QString::fromStdString((desk.folder / "taken").string()));
    REQUIRE(waitFor([&] { return page.evidence() != nullptr; }));
    REQUIRE(desk.idle());
    CHECK_FALSE(std::filesystem::exists(taken)); // nobody looks at it any more
}

/// What this thread has worked by now.
qint64 ownMillis() {
    timespec now{};
    clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
    return now.tv_sec * 1000 + now.tv_nsec / 1'000'000;
}

/// Learns in the window from so many sets of files, and tells how long it did not answer at worst.
struct Learning {
    std::size_t files = 0;
    qint64 longest = 0, when = 0, whole = 0; ///< milliseconds
    qint64 worked = 0;                       ///< of the longest, what this thread did not stand and wait
};
Learning learnt(Desk& desk, unsigned sets) {
    const HiddenGame game{
        .metres = 1, .front = "+Z", .format = "glb", .names = "hyphens", .layout = 1, .text = 1};
    const auto folder = desk.folder / "many";
    for (unsigned i = 0; i < sets; ++i) writeAccepted(game, i, folder / ("set" + std::to_string(i)));
    MainWindow& window = *desk.window;
    Learning out;
    QElapsedTimer clock;
    clock.start();
    window.showLearn(QString::fromStdString(folder.string()));
    while (window.learnPage().evidence() == nullptr && clock.elapsed() < 600000) {
        const qint64 before = clock.elapsed(), worked = ownMillis();
        QApplication::processEvents(QEventLoop::AllEvents, 5);
        const qint64 waited = clock.elapsed() - before - 5;
        if (waited > out.longest) out.longest = waited, out.when = before, out.worked = ownMillis() - worked;
        QTest::qSleep(1);
    }
    REQUIRE(window.learnPage().evidence() != nullptr);
    out.whole = clock.elapsed();
    out.files = window.learnPage().evidence()->files.size();
    WARN("the longest wait of the window while it learnt from "
         << out.files << " files: " << out.longest << " ms (worked " << out.worked << "), after " << out.when
         << " of " << out.whole);
    return out;
}

TEST_CASE("the window answers while it learns from many files") {
    Desk desk;
    CHECK(learnt(desk, 12).longest < 500); // a machine may be busy with other things
}

TEST_CASE("the window answers while it learns from five thousand files", "[.][large]") {
    Desk desk;
    const Learning large = learnt(desk, 139);
    CHECK(large.files >= 5000);
    CHECK(large.longest <= 50);
    CHECK(large.whole < 60000);
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.starts_with("VmHWM")) WARN(line);
}

} // namespace learn_page_tests
