// The ground that everything stands on: units, numbers for people, files, patterns, progress.
#include "core/base/archive.h"
#include "core/base/child_process.h"
#include "core/base/deep_stack.h"
#include "core/base/error.h"
#include "core/base/file_bytes.h"
#include "core/base/file_set.h"
#include "core/base/hash.h"
#include "core/base/letters.h"
#include "core/base/lines.h"
#include "core/base/name_styles.h"
#include "core/base/pattern.h"
#include "core/base/progress.h"
#include "core/base/units.h"
#include "core/base/words.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <zip.h>

#include <csignal>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace zl;

TEST_CASE("names are written in the style of a game, and what has the style already keeps it") {
    const auto in = [](const char* name, NameStyle style) { return styledName(name, style); };
    CHECK(in("Tide bell", NameStyle::Hyphens) == "tide-bell");
    CHECK(in("Tide bell", NameStyle::Underscores) == "tide_bell");
    CHECK(in("Tide bell", NameStyle::Joined) == "tidebell");
    CHECK(in("Tide bell", NameStyle::Capitals) == "TideBell");
    CHECK(in("Tide bell", NameStyle::AsItIs) == "Tide_bell");
    // Joined by another program before, whose capitals are all that tells the words apart.
    CHECK(in("TideBell", NameStyle::Capitals) == "TideBell");
    CHECK(in("tideBell_v2 UVMap", NameStyle::Capitals) == "TideBellV2UVMap");
    CHECK(in("NPC guard", NameStyle::Capitals) == "NPCGuard");
    CHECK(in("  -- ", NameStyle::Capitals) == "Piece");
    CHECK(in("", NameStyle::Hyphens) == "piece");
    CHECK(in("\xc3\x96lkanne", NameStyle::Capitals) == "Lkanne"); // letters beyond ASCII part words
    CHECK(in(std::string(300, 'a').c_str(), NameStyle::Capitals).size() == 80);
    for (const char* name :
         {"Tide bell", "TideBell", "tide-bell_02", "A b C", "3 crates", "_x", "wx_oak door", ".hid",
          "Kork\xe2\x80\x94gang 7b", "UVMap", "x\xff\xfey", "a/b\\c", "-", "zZ"})
        for (std::size_t style = 0; style < nameStyleWords().size(); ++style) {
            INFO(name << " in " << nameStyleWords()[style]);
            const std::string once = styledName(name, NameStyle(style));
            CHECK(styledName(once, NameStyle(style)) == once);
            CHECK_FALSE(once.empty());
        }
}

TEST_CASE("lines that all end in CR and LF are known, and no line gets a second CR") {
    CHECK(hasWindowsLines("a\r\nb\r\n"));
    CHECK(hasWindowsLines("\r\n\r\nlast"));
    for (const char* none : {"", "a", "a\r", "a\n", "\na\r\n", "a\r\nb\n"})
        CHECK_FALSE(hasWindowsLines(none));
    CHECK(withWindowsLines("a\nb\r\n\n\rc") == "a\r\nb\r\n\r\n\rc");
    CHECK(withWindowsLines("") == "");
}

TEST_CASE("units are known by their ids and names, in any case, at their exact lengths") {
    const auto [name, metres] = GENERATE(table<std::string, double>(
        {{"mm", 0.001}, {"cm", 0.01}, {"m", 1.0}, {"in", 0.0254}, {"ft", 0.3048}, {"dm", 0.1}}));
    CHECK(unitNamed(name).metres == Approx(metres).epsilon(1e-12));
    CHECK(unitNamed(unitNamed(name).name).id == unitNamed(name).id);
    CHECK(unitOfMetres(metres).id == unitNamed(name).id);
}

TEST_CASE("a unit that does not exist is refused with those that do") {
    try {
        unitNamed("furlong");
        FAIL("a furlong was taken");
    } catch (const Error& error) {
        CHECK(error.whole().find("furlong") != std::string::npos);
        CHECK(error.whole().find("mm") != std::string::npos);
        CHECK(error.whole().find("ft") != std::string::npos);
    }
    CHECK_THROWS_AS(upNamed("x"), Error);
    CHECK_THROWS_AS(upNamed(""), Error);
    CHECK(upNamed("Z") == Up::Z);
    CHECK(upNamed("y") == Up::Y);
}

TEST_CASE("lengths near a known unit are it, others are named after their number") {
    CHECK(unitOfMetres(0.02540001).id == "in");
    CHECK(unitOfMetres(0.0253).id != "in");
    const Unit odd = unitOfMetres(0.37);
    CHECK(odd.metres == Approx(0.37));
    CHECK(odd.name.find("0.37") != std::string::npos);
}

TEST_CASE("numbers for people: no needless zeros, thin gaps, the right number of places") {
    const std::string gap = "\u202f";
    CHECK(showNumber(0) == "0");
    CHECK(showNumber(-0.0) == "0");
    CHECK(showNumber(1.5) == "1.5");
    CHECK(showNumber(1.005, 1) == "1");
    CHECK(showNumber(12.3456, 3) == "12.346");
    CHECK(showNumber(999) == "999");
    CHECK(showNumber(1234567.5) == "1" + gap + "234" + gap + "567.5");
    CHECK(showNumber(-10000) == "-10" + gap + "000");
    CHECK(showNumber(-1000) == "-1000"); // four figures read well enough
    setThousandsGap(false);
    CHECK(showNumber(1234567) == "1234567");
    setThousandsGap(true);
    CHECK(showNumber(1234567, 0) == "1" + gap + "234" + gap + "567");
    CHECK(showCount(1, "object", "objects") == "1 object");
    CHECK(showCount(0, "object", "objects").ends_with("objects"));
}

TEST_CASE("measures show three to four figures at every size") {
    // Whatever the size, what is shown is within half a percent of it.
    for (double value = 1.2345e-4; value < 1e6; value *= 7.77) {
        std::string shown;
        for (const char c : showMeasure(value))
            if ((c >= '0' && c <= '9') || c == '.') shown += c;
        INFO(value << " is shown as " << showMeasure(value));
        CHECK(std::stod(shown) == Approx(value).epsilon(0.005));
    }
}

TEST_CASE("bytes and seconds are shown in the unit that reads best") {
    CHECK(showBytes(999).find("999") == 0);
    CHECK(showBytes(4.1e6).find("4.1") == 0);
    CHECK(showBytes(4.1e6).find("MB") != std::string::npos);
    CHECK(showBytes(2.5e9).find("GB") != std::string::npos);
    CHECK(showSeconds(1.24).find("1.2") == 0);
    CHECK(showSeconds(180).find("3") == 0);
    CHECK(showSeconds(180).find("min") != std::string::npos);
}

TEST_CASE("patterns: stars and question marks stand for what lies between") {
    using Captured = std::vector<std::string>;
    CHECK(matchPattern("*", "anything") == Captured{"anything"});
    CHECK(matchPattern("*", "") == Captured{""});
    CHECK(matchPattern("wheel_*_?", "wheel_front_l") == Captured{"front", "l"});
    CHECK(matchPattern("*_*", "a_b_c")->size() == 2);
    CHECK(matchPattern("a?c", "abc") == Captured{"b"});
    CHECK_FALSE(matchPattern("a?c", "ac"));
    CHECK_FALSE(matchPattern("", "a"));
    CHECK(matchPattern("", "")->empty());
    CHECK_FALSE(matchPattern("Lamp", "lamp"));
    // A pattern that makes a careless matcher try every way to share the letters out.
    const std::string many(2000, 'a');
    CHECK_FALSE(matchPattern("*a*a*a*a*a*a*a*a*b", many));
}

TEST_CASE("lists of patterns: any of them, blanks aside, none means all") {
    CHECK(NamePatterns({}).match("lamp"));
    CHECK(NamePatterns(patternsFrom("crate*, lamp")).match("lamp"));
    CHECK(NamePatterns(patternsFrom("crate*,lamp*")).match("crate-2"));
    CHECK_FALSE(NamePatterns(patternsFrom("crate*, lamp")).match("lamps"));
    // A name with signs in it is meant as it is.
    for (const std::string name : {"a,b", "a*b", "what?", "back\\slash", " lead", "trail ", ",", "*"}) {
        INFO(name);
        CHECK(NamePatterns({patternFor(name)}).match(name));
        CHECK(patternsFrom(patternsText({patternFor(name), "x"})) ==
              std::vector{patternFor(name), std::string("x")});
    }
    CHECK_FALSE(NamePatterns({patternFor("a*b")}).match("axb"));
    CHECK_FALSE(NamePatterns({patternFor("what?")}).match("whats"));
    CHECK(patternsFrom(patternsText({"a,b", "c"})) == std::vector<std::string>{"a\\,b", "c"});
}

TEST_CASE("templates: captured parts, numbers and the old name are put in, the rest stays") {
    const std::vector<std::string> captured{"front", "l"};
    CHECK(filledTemplate("{2}_{1}_{n}", captured, "wheel", 7) == "l_front_7");
    CHECK(filledTemplate("{name}-copy", captured, "wheel", 1) == "wheel-copy");
    CHECK(filledTemplate("{colour} {0}", captured, "wheel", 1) == "{colour} {0}");
    CHECK(filledTemplate("{", captured, "wheel", 1) == "{");
    CHECK(filledTemplate("", captured, "wheel", 1).empty());
}

TEST_CASE("file names are safe on every system and never empty") {
    CHECK(fileNameFrom("Tide Bell") == "tide-bell");
    CHECK(fileNameFrom("../../etc/passwd").find('/') == std::string::npos);
    CHECK(fileNameFrom("../../etc/passwd").find("..") == std::string::npos);
    CHECK_FALSE(fileNameFrom("").empty());
    CHECK_FALSE(fileNameFrom("///").empty());
    CHECK_FALSE(fileNameFrom("\U0001F514").empty());
    CHECK(fileNameFrom(std::string(300, 'x')).size() <= 80);
    CHECK(lowerCase("PrESS-Ä") == "press-Ä"); // only A–Z
}

TEST_CASE("a set of files is written as a whole, in folders, and replaces what was there") {
    TemporaryFolder folder;
    writeAllOrNone(folder / "out", {{"a.txt", "one"}, {"deep/er/b.txt", "two"}});
    CHECK(readText(folder / "out/a.txt") == "one");
    CHECK(readText(folder / "out/deep/er/b.txt") == "two");
    writeAllOrNone(folder / "out", {{"a.txt", "three"}});
    CHECK(readText(folder / "out/a.txt") == "three");
    std::size_t files = 0;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder.path()))
        files += entry.is_regular_file();
    CHECK(files == 2); // no temporary file stays
}

TEST_CASE("what a killed program left is cleared away, and nothing that is only named a little alike") {
    TemporaryFolder folder;
    const std::string ours = ".zest-old-" + std::to_string(::getpid()) + "-0";
    const std::string dead = ".zest-part-" + std::to_string(1 << 30) + "-0"; // no process has such a number
    for (const std::string& name : std::vector<std::string>{".zest-part-notes", ".zest-part-12",
                                                            ".zest-part--5-0", ".zest-part-", ours, dead})
        folder.write(name, "x");
    writeAllOrNone(folder.path(), {{"a.txt", "one"}});
    CHECK_FALSE(std::filesystem::exists(folder / dead));
    std::size_t files = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
        files += entry.is_regular_file();
    CHECK(files == 6);
}

TEST_CASE("a set with one bad name writes nothing at all") {
    TemporaryFolder folder;
    const std::string bad = GENERATE("../out.txt", "/tmp/out.txt", "a/../../out.txt", "", ".", "a.txt");
    CHECK_THROWS_AS(writeAllOrNone(folder / "out", {{"a.txt", "one"}, {bad, "two"}}), Refused);
    CHECK_FALSE(std::filesystem::exists(folder / "out/a.txt"));
}

TEST_CASE("what a rename replaced comes back when a later one fails") {
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), {{"a.txt", "before"}});
    std::filesystem::create_directory(folder / "b.txt"); // a folder where a file is to go
    CHECK_THROWS_AS(writeAllOrNone(folder.path(), {{"a.txt", "after"}, {"b.txt", "x"}}), Refused);
    CHECK(readText(folder / "a.txt") == "before");
}

TEST_CASE("texts that are too long or not there are errors that name the file") {
    TemporaryFolder folder;
    const auto path = folder.write("long.txt", std::string(100, 'x'));
    CHECK(readText(path, 100).size() == 100);
    CHECK_THROWS_AS(readText(path, 99), Error);
    try {
        readText(folder / "missing.txt");
        FAIL("a missing file was read");
    } catch (const Error& error) {
        CHECK(error.whole().find("missing.txt") != std::string::npos);
    }
    CHECK_THROWS_AS(FileBytes(folder.path()), Error);
    CHECK(FileBytes(folder.write("none.txt", "")).text().empty());
}

TEST_CASE("hashes follow content and nothing else") {
    TemporaryFolder folder;
    const auto a = folder.write("a", "same"), b = folder.write("b", "same"), c = folder.write("c", "Same");
    CHECK(hashFile(a) == hashFile(b));
    CHECK(hashFile(a) != hashFile(c));
    CHECK(hashFile(a) == hashText("same"));
    CHECK(hashText("same", 1) != hashText("same", 2));
    CHECK_THROWS_AS(hashFile(folder / "missing"), Error);
}

TEST_CASE("an archive holds its files in order, and another reader finds them") {
    TemporaryFolder folder;
    const std::string bytes = zipped({{"b.txt", "second"}, {"a/a.txt", std::string(10000, 'z')}});
    const auto path = folder.write("set.zip", bytes);
    int problem = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_RDONLY, &problem);
    REQUIRE(zip);
    CHECK(zip_get_num_entries(zip, 0) == 2);
    CHECK(std::string(zip_get_name(zip, 0, 0)) == "b.txt");
    zip_file_t* file = zip_fopen(zip, "a/a.txt", 0);
    REQUIRE(file);
    std::string held(20000, '\0');
    held.resize(std::size_t(zip_fread(file, held.data(), held.size())));
    CHECK(held == std::string(10000, 'z'));
    zip_fclose(file);
    zip_close(zip);
}

TEST_CASE("progress of a part is a share of the whole, and stops when asked") {
    std::vector<std::pair<double, std::string>> heard;
    std::atomic<bool> cancel{false};
    const Progress whole([&](double f, std::string_view what) { heard.emplace_back(f, what); }, &cancel);
    const Progress half = whole.between(0.5, 1, "reducing");
    half.report(0);
    half.report(0.5, "measuring");
    half.between(0.5, 1).report(1);
    REQUIRE(heard.size() == 3);
    CHECK(heard[0].first == Approx(0.5));
    CHECK(heard[0].second == "reducing");
    CHECK(heard[1].first == Approx(0.75));
    CHECK(heard[1].second == "measuring");
    CHECK(heard[2].first == Approx(1));
    CHECK_NOTHROW(half.checkCancel());
    cancel = true;
    CHECK(half.isCancelled());
    CHECK_THROWS_AS(half.report(0.6), Cancelled);
    CHECK_THROWS_AS(whole.checkCancel(), Cancelled);
    CHECK_NOTHROW(Progress().report(0.5)); // nobody listens, nobody stops
}

TEST_CASE("a deep stack carries what a usual one cannot, and exceptions out of it") {
    const std::function<int(int)> deep = [&](int n) -> int {
        volatile char room[4096];
        room[0] = static_cast<char>(n);
        return n == 0 ? 0 : deep(n - 1) + (room[0] == static_cast<char>(n));
    };
    int result = 0;
    onDeepStack([&] { result = deep(20000); }); // over 80 MB
    CHECK(result == 20000);
    CHECK_THROWS_AS(onDeepStack([] { throw Error("came through"); }), Error);
}

TEST_CASE("an error says what, where and how to mend it, in that order of reading") {
    const Error error("is empty", "bell.stl", "Export it again.");
    CHECK(error.whole().find("bell.stl") < error.whole().find("is empty"));
    CHECK(error.whole().find("is empty") < error.whole().find("Export it again."));
    CHECK(Error("only this").whole() == "only this");
}

constexpr std::size_t enough = std::size_t(1) << 30;

TEST_CASE("work in a process of its own gives its bytes, its reports and its errors") {
    std::vector<std::string> heard;
    const Progress progress([&](double, std::string_view what) { heard.emplace_back(what); }, nullptr);
    const std::string large(3'000'000, 'x'); // more than a pipe holds
    CHECK(inChildProcess(
              [&](const Progress& own) {
                  own.report(0.5, "half-way");
                  return large;
              },
              enough, progress, "bell.dae") == large);
    CHECK(heard == std::vector<std::string>{"half-way"});
    const auto thrown = [&](const auto& work) {
        try {
            inChildProcess(work, enough, {}, "bell.dae");
        } catch (const Error& error) {
            return error.whole();
        }
        return std::string("nothing");
    };
    CHECK(thrown([](const Progress&) -> std::string { throw Error("is empty", "bell.dae", "Export it."); }) ==
          Error("is empty", "bell.dae", "Export it.").whole());
    CHECK_THROWS_AS(
        inChildProcess([](const Progress&) -> std::string { throw Refused("no"); }, enough, {}, "x"),
        Refused);
    CHECK(thrown([](const Progress&) -> std::string {
              throw std::out_of_range("past the end");
          }).find("past the end") != std::string::npos);
}

TEST_CASE("a process of its own may crash, end or hang, and this one goes on") {
    for (const int signal : {SIGSEGV, SIGABRT, SIGFPE}) {
        INFO(signal);
        CHECK_THROWS_AS(inChildProcess(
                            [&](const Progress&) {
                                ::raise(signal);
                                return std::string();
                            },
                            enough, {}, "bell.dae"),
                        Error);
    }
    CHECK_THROWS_AS(
        inChildProcess([](const Progress&) -> std::string { ::_exit(0); }, enough, {}, "bell.dae"), Error);
    std::atomic<bool> cancel{false};
    const Progress progress(nullptr, &cancel);
    std::thread user([&] {
        std::this_thread::sleep_for(std::chrono::milliseconds(150));
        cancel = true;
    });
    CHECK_THROWS_AS(inChildProcess(
                        [](const Progress&) {
                            while (true) ::pause();
                            return std::string();
                        },
                        enough, progress, "bell.dae"),
                    Cancelled);
    user.join();
    CHECK(::waitpid(-1, nullptr, WNOHANG) <= 0); // no child is left behind
}

#ifndef ZEST_LOOM_SANITIZED
TEST_CASE("a process of its own that takes more memory than it may ends in an error") {
    const auto fill = [](std::size_t bytes) {
        return [bytes](const Progress&) {
            std::vector<std::string> taken;
            for (std::size_t i = 0; i < bytes; i += 1 << 20) taken.emplace_back(1 << 20, 'x');
            return std::to_string(taken.size());
        };
    };
    CHECK(inChildProcess(fill(100 << 20), 400 << 20, {}, "bell.dae") == "100");
    try {
        inChildProcess(fill(800 << 20), 400 << 20, {}, "bell.dae");
        FAIL("it was allowed");
    } catch (const Error& error) {
        CHECK(error.whole().find("bell.dae") != std::string::npos);
        CHECK(error.whole().find("more memory") != std::string::npos);
    }
}
#endif

TEST_CASE("the nearest word is named only when it is near") {
    const std::vector<std::string_view> known{"weld-and-clean", "reduce-triangles", "turn"};
    CHECK(nearestWord("weld-and-cleam", known) == "weld-and-clean");
    CHECK(nearestWord("reduce", known).empty()); // ten letters would be added to six
    CHECK(nearestWord("tunr", known) == "turn"); // two of four
    CHECK(nearestWord("trn", known) == "turn");
    CHECK(nearestWord("xyz", known).empty());
    CHECK(nearestWord("turn", {}).empty());
}
