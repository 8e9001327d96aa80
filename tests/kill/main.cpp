// The kill test: saving, building and building all are ended with SIGKILL at random moments. Whenever that
// is, the project opens and is the old one or the new one, a delivery is the old set or the new set, and no
// half file is anywhere.
//   zest-loom-kill-tests [--kills N] [--seed S]
#include "core/base/file_set.h"
#include "core/base/plain_number.h"
#include "core/formats/format.h"
#include "core/install/install.h"
#include "core/project/build_all.h"
#include "core/project/project.h"
#include "support/city_folder.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <fmt/format.h>

#include <chrono>
#include <csignal>
#include <fcntl.h>
#include <iostream>
#include <map>
#include <random>
#include <set>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace zl;
namespace fs = std::filesystem;

namespace {

using Contents = std::map<std::string, std::string>; ///< bytes by path below a folder

Contents contentsOf(const fs::path& folder) {
    Contents out;
    std::error_code error;
    for (const auto& entry : fs::recursive_directory_iterator(folder, error))
        if (entry.is_regular_file())
            out[entry.path().lexically_relative(folder).string()] = readText(entry.path(), 1u << 30);
    return out;
}

project::Project fair(const fs::path& folder, int version) {
    project::Project project;
    project.name = fmt::format("Fair, version {}", version);
    project.file = folder / "fair.zestloom";
    project.platforms = {"hearthboard", "playmeadow"};
    for (int i = 0; i < 6; ++i) {
        project::Piece piece;
        piece.name = fmt::format("Ball {}", i);
        piece.sources = {
            {"ball.obj", fmt::format("Odd Fennel {}", version), "own", project::Permission::OwnWork}};
        project::Crossing table{
            "hearthboard",
            recipe::fromJson({{{"step", "unit-and-up"}, {"params", {{"unit", "m"}, {"up", "y"}}}},
                              {{"step", "turn"}, {"params", {{"y", 10.0 * version}}}}})};
        piece.crossings = {table};
        table.platform = "playmeadow";
        piece.crossings.push_back(table);
        project.pieces.push_back(piece);
    }
    return project;
}

/// Starts `run` in a process of its own, kills it after `microseconds`; true when it had not ended by itself.
template <class Run>
bool killed(const Run& run, long microseconds) {
    std::cout.flush();
    const pid_t child = ::fork();
    if (child == 0) {
        run();
        ::_exit(0);
    }
    std::this_thread::sleep_for(std::chrono::microseconds(microseconds));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    return WIFSIGNALED(status);
}

[[noreturn]] void runProgram(std::vector<std::string> arguments) {
    const int nowhere = ::open("/dev/null", O_WRONLY);
    ::dup2(nowhere, STDOUT_FILENO), ::dup2(nowhere, STDERR_FILENO);
    std::vector<char*> raw;
    for (std::string& argument : arguments) raw.push_back(argument.data());
    raw.push_back(nullptr);
    ::execv(raw[0], raw.data());
    ::_exit(127);
}

int failures = 0;
void demand(bool holds, const std::string& what) {
    if (holds) return;
    ++failures;
    std::cout << "FAILED: " << what << std::endl;
}

/// Every file is one of those that are meant to be; passing files are whole ones too.
void demandWhole(const Contents& now, const std::vector<Contents>& meant, const std::string& what) {
    for (const auto& [name, bytes] : now) {
        bool whole =
            name.find(".zest-writing-") != std::string::npos; // a list of moves, checked by finishing
        for (const Contents& set : meant)
            for (const auto& [known, right] : set) whole |= bytes == right;
        demand(whole, fmt::format("{}: \"{}\" is half a file ({} bytes)", what, name, bytes.size()));
    }
}

std::string textOf(const project::Project& project) {
    return project::toJson(project).dump(2) + "\n";
}

void killSaves(int kills, std::mt19937_64& random) {
    TemporaryFolder folder;
    const Contents meant{{"1", textOf(fair(folder.path(), 1))}, {"2", textOf(fair(folder.path(), 2))}};
    project::save(fair(folder.path(), 1));
    int cut = 0;
    for (int i = 0; i < kills; ++i) {
        cut += killed(
            [&] {
                for (int n = 0;; ++n) project::save(fair(folder.path(), 1 + n % 2));
            },
            long(random() % 30000));
        const std::string what = fmt::format("save {}", i);
        demandWhole(contentsOf(folder.path()), {meant}, what);
        try {
            const std::string text = textOf(project::load(folder / "fair.zestloom"));
            demand(text == meant.at("1") || text == meant.at("2"),
                   what + ": the project is neither old nor new");
        } catch (const Error& error) {
            demand(false, what + ": the project does not open: " + error.whole());
        }
    }
    project::save(fair(folder.path(), 1));
    for (const auto& [name, bytes] : contentsOf(folder.path()))
        demand(name == "fair.zestloom" || name == "fair.zestloom.before",
               "after the next save \"" + name + "\" is still there");
    std::cout << fmt::format("save: {} kills, {} in the middle of it\n", kills, cut);
}

/// `all`: the whole project at once; else one crossing.
void killBuilds(int kills, bool all, std::mt19937_64& random) {
    TemporaryFolder folder;
    Model ball = moved(shapes::modelOf(shapes::sphere(60, 31, 0.016), "ball"),
                       glm::translate(glm::dmat4(1.0), glm::dvec3(0, 0.016, 0)));
    writeAllOrNone(folder.path(), formats::writeObj(ball, {"ball"}, nullptr));
    const fs::path out = folder / "out";
    std::vector<std::string> arguments{ZEST_LOOM_CLI, "build", (folder / "fair.zestloom").string(), "--out",
                                       out.string()};
    if (all)
        arguments.emplace_back("--all");
    else
        arguments.insert(arguments.end(), {"--platform", "hearthboard", "--piece", "Ball 0"});
    std::vector<Contents> meant;
    long longest = 0;
    for (int version : {1, 2}) {
        project::save(fair(folder.path(), version));
        const auto start = std::chrono::steady_clock::now();
        const pid_t child = ::fork();
        if (child == 0) runProgram(arguments);
        int status = 0;
        ::waitpid(child, &status, 0);
        demand(WIFEXITED(status) && WEXITSTATUS(status) == 0, "the build itself does not work");
        longest = std::max(longest, long(std::chrono::duration_cast<std::chrono::microseconds>(
                                             std::chrono::steady_clock::now() - start)
                                             .count()));
        meant.push_back(contentsOf(out));
        for (const auto& record : contentsOf(out / ".zest-loom"))
            meant.back().erase(".zest-loom/" + record.first);
    }
    demand(meant[0] != meant[1] && meant[0].size() == meant[1].size(), "the two versions are told apart");
    int cut = 0;
    for (int i = 0; i < kills; ++i) {
        project::save(fair(folder.path(), 1 + i % 2));
        cut += killed([&] { runProgram(arguments); }, long(random() % std::uint64_t(longest + longest / 5)));
        const std::string what = fmt::format("{} {}", all ? "build --all" : "build", i);
        Contents now = contentsOf(out);
        std::erase_if(now, [](const auto& file) { return file.first.starts_with(".zest-loom/"); });
        demandWhole(now, meant, what);
        // What a later run begins with: then every folder is one set or the other.
        std::set<fs::path> folders;
        for (const auto& file : meant[0]) folders.insert((out / file.first).parent_path());
        if (folders.contains(out)) folders = {out};
        for (const fs::path& one : folders)
            if (one.filename() != "pictures") finishWriting(one);
        std::map<std::string, int> versionOf; // of each delivery
        for (const auto& [name, bytes] : contentsOf(out)) {
            if (name.starts_with(".zest-loom/")) continue;
            demand(meant[0].contains(name), what + ": \"" + name + "\" was left behind");
            if (!meant[0].contains(name) || meant[0].at(name) == meant[1].at(name)) continue;
            const int version = bytes == meant[0].at(name) ? 1 : bytes == meant[1].at(name) ? 2 : 0;
            const auto [entry, first] = versionOf.try_emplace(fs::path(name).parent_path().string(), version);
            demand(version != 0 && entry->second == version,
                   what + ": \"" + name + "\" is of another version than its neighbours");
        }
    }
    std::cout << fmt::format("{}: {} kills, {} in the middle of it\n", all ? "build --all" : "build", kills,
                             cut);
}

/// A set of many files, killed as soon as the first of them is at its place.
void killSets(int kills) {
    TemporaryFolder folder;
    std::vector<OutFile> sets[2];
    for (int i = 0; i < 100; ++i)
        for (int version : {0, 1})
            sets[version].push_back({fmt::format("{}.txt", i), std::to_string(version)});
    writeAllOrNone(folder.path(), sets[0]);
    int between = 0;
    for (int i = 0; i < kills; ++i) {
        const std::string before = readText(folder / "0.txt");
        const pid_t child = ::fork();
        if (child == 0) {
            writeAllOrNone(folder.path(), sets[before == "0"]);
            ::_exit(0);
        }
        int status = 0;
        while (readText(folder / "0.txt") == before && ::waitpid(child, &status, WNOHANG) == 0) {
        }
        ::kill(child, SIGKILL);
        ::waitpid(child, &status, 0);
        between += readText(folder / "99.txt") == before;
        finishWriting(folder.path());
        std::set<std::string> versions;
        const Contents now = contentsOf(folder.path());
        for (const auto& file : now) versions.insert(file.second);
        demand(now.size() == sets[0].size() && versions.size() == 1,
               fmt::format("set {}: {} files of {} versions", i, now.size(), versions.size()));
    }
    demand(between > 0, "no kill came between the first file and the last");
    std::cout << fmt::format("set of files: {} kills, {} between the first and the last\n", kills, between);
}

/// A delivery put into a game and taken out again, over and over: whenever the end comes, the game has all of
/// one or all of the other.
void killInstalls(const char* what, const fs::path& game, const fs::path& delivered, const std::string& name,
                  int kills, std::mt19937_64& random) {
    const Contents before = contentsOf(game);
    const auto start = std::chrono::steady_clock::now();
    install::install(delivered, game);
    const Contents after = contentsOf(game);
    install::takeOut(game, name);
    const auto both =
        long(std::chrono::duration_cast<std::chrono::microseconds>(std::chrono::steady_clock::now() - start)
                 .count());
    demand(contentsOf(game) == before, fmt::format("{}: taken out, the game is not as it was", what));
    int cut = 0, out = 0;
    for (int i = 0; i < kills; ++i) {
        cut += killed(
            [&] {
                for (;;) {
                    if (install::installed(game).empty())
                        install::install(delivered, game);
                    else
                        install::takeOut(game, name);
                }
            },
            long(random() % std::uint64_t(2 * both)));
        const bool in = !install::installed(game).empty();
        out += !in;
        demand(contentsOf(game) == (in ? after : before),
               fmt::format("{} {}: the game is neither as it was nor as it should be", what, i));
    }
    demand(out > 0 && out < kills, fmt::format("{}: the kills came on one side only", what));
    std::cout << fmt::format("{}: {} kills, {} in the middle of it\n", what, kills, cut);
}

void killCarInstalls(int kills, std::mt19937_64& random) {
    TemporaryFolder folder;
    const fs::path game = folder / "game", delivered = folder / "delivered";
    std::vector<OutFile> original, car;
    for (int i = 0; i < 30; ++i) {
        original.push_back({fmt::format("cars/quick/{}.bin", i), std::string(20'000, 'o')});
        car.push_back({fmt::format("skins/{}.bin", i), std::string(20'000, 'n')});
    }
    car.push_back({"quick.car.json", R"({"format":"race-car","version":1})"});
    writeAllOrNone(game, original);
    writeAllOrNone(delivered, car);
    killInstalls("install", game, delivered, "quick", kills, random);
}

/// The same into tables and an archive that others use too.
void killCityInstalls(int kills, std::mt19937_64& random) {
    CityFolder city;
    TemporaryFolder delivered;
    writeAllOrNone(
        delivered.path(),
        {{"objects.zip",
          zipped({{"clock.mesh", std::string(60'000, 'm')}, {"clock.contact", "contact 1\n"}})},
         {"definitions.csv", "name,number,pictures,view,traits\nclock,40500,clock,90,\n"},
         {"placements.csv", "name,x,y,z,qx,qy,qz,qw\nclock,20,20,0,0,0,0,1\nclock,-20,20,0,0,0,0,1\n"},
         {"clock.object.json", R"({"format":"city-object","version":1,"name":"clock","collisionFiles":5})"}});
    killInstalls("install into a city", city.path(), delivered.path(), "clock", kills, random);
}

} // namespace

int main(int argc, char** argv) {
    int kills = 200;
    std::uint64_t seed = 1;
    for (int i = 1; i + 1 < argc; i += 2) {
        if (std::string_view(argv[i]) == "--kills") kills = onlyNumber<int>(argv[i + 1]).value_or(0);
        if (std::string_view(argv[i]) == "--seed") seed = onlyNumber<std::uint64_t>(argv[i + 1]).value_or(0);
    }
    std::mt19937_64 random(seed);
    killSaves(kills - 3 * (kills / 4), random);
    killSets(kills / 4);
    killCarInstalls(kills / 2, random);
    killCityInstalls(kills + kills / 2, random);
    killBuilds(kills / 4, false, random);
    killBuilds(kills / 4, true, random);
    std::cout << (failures ? "something was lost or halved\n" : "nothing was lost or halved\n");
    return failures ? 1 : 0;
}
