// Archives on the command line: what they hold, what is taken out of them, keys that fit and keys that did.
#include "core/base/file_set.h"
#include "endtoend/command_line.h"
#include "support/containers.h"

using namespace zl;
using containers::writeArchive;

namespace {

constexpr const char* triangle = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";

/// The same with what goes before the command, such as variables.
Ran cliWith(const std::string& before, const std::string& arguments) {
    return run(before + " " + std::string(ZEST_LOOM_CLI) + " " + arguments);
}

} // namespace

TEST_CASE("contents says what is in an archive, and take-out writes it") {
    TemporaryFolder folder;
    const auto& zip = containers::archives()[0];
    writeArchive(folder / "inner.7z", containers::archives()[2], {{"lamp.obj", triangle}});
    writeArchive(folder / "kit.zip", zip,
                 {{"more/inner.7z", readText(folder / "inner.7z")},
                  {"more/net.obj", triangle},
                  {"../out.obj", triangle},
                  {"pictures/net.png", "png"}});
    const auto listed = cli("contents " + quoted(folder / "kit.zip") + " --json");
    CHECK(listed.code == 0);
    const auto entries = listed.json()["entries"];
    REQUIRE(entries.size() == 4);
    CHECK(entries[0] == nlohmann::json{{"path", "more/inner.7z"},
                                       {"kind", "archive"},
                                       {"bytes", std::filesystem::file_size(folder / "inner.7z")},
                                       {"encrypted", false},
                                       {"depth", 1}});
    CHECK(entries[1]["path"] == "more/inner.7z/lamp.obj");
    CHECK(entries[1]["kind"] == "model");
    CHECK(entries[1]["depth"] == 2);
    CHECK(entries[3]["kind"] == "picture");
    REQUIRE(listed.json()["refused"].size() == 1);
    CHECK(listed.json()["refused"][0]["path"] == "../out.obj");

    const auto taken =
        cli("take-out " + quoted(folder / "kit.zip") + " more --out " + quoted(folder / "out") + " --json");
    CHECK(taken.code == 0);
    CHECK(taken.json()["files"].size() == 2);
    CHECK(readText(folder / "out/inner.7z") == readText(folder / "inner.7z"));
    CHECK(std::filesystem::exists(folder / "out/net.obj"));
    CHECK(cli("take-out " + quoted(folder / "kit.zip") + " nothing --out " + quoted(folder / "out")).code ==
          2);
    CHECK(cli("contents " + quoted(folder / "out/net.obj")).code == 2);
    // What lies in an archive within is a model like any other.
    CHECK(
        cli("inspect " + quoted(folder / "kit.zip/more/inner.7z/lamp.obj") + " --json").json()["triangles"] ==
        1);
}

TEST_CASE("a locked archive asks for its key, and a stale key is told from a wrong one") {
    TemporaryFolder folder;
    const auto& zip = containers::archives()[0];
    const auto archive = folder / "locked.zip";
    writeArchive(archive, zip, {{"lamp.obj", triangle}}, "low tide");
    const std::string model = "inspect " + quoted(archive / "lamp.obj");
    const std::string home = "XDG_DATA_HOME=" + quoted(folder / "data");
    CHECK(cli("contents " + quoted(archive) + " --json").json()["entries"][0]["encrypted"] == true);
    CHECK(cliWith(home, model).code == 2);
    CHECK(cliWith(home + " TIDE='low tide'", model + " --key-env TIDE").code == 0);
    folder.write("key.txt", "low tide\n");
    CHECK(cliWith(home, model + " --key-file " + quoted(folder / "key.txt")).code == 0);
    CHECK(cliWith(home + " TIDE=ebb", model + " --key-env TIDE").code == 2);
    CHECK(cliWith(home, model + " --key-env NO_SUCH_VARIABLE").code == 2);

    // The archive is updated, and its key with it.
    writeArchive(archive, zip, {{"lamp.obj", triangle}}, "high tide");
    const auto said = [&](const std::string& key) {
        folder.write("key.txt", key);
        std::string command = "XDG_DATA_HOME=" + (folder / "data").string() + " " + ZEST_LOOM_CLI +
                              " inspect " + (archive / "lamp.obj").string() + " --key-file " +
                              (folder / "key.txt").string();
        return run("sh -c '" + command + " 2>&1 >/dev/null'").out;
    };
    CHECK(said("low tide").find("it was last right on") != std::string::npos);
    const std::string wrong = said("neap tide");
    CHECK(wrong.find("not opened by that key") != std::string::npos);
    CHECK(wrong.find("last right") == std::string::npos);
    CHECK(said("high tide").empty());
    // The key stands nowhere.
    const std::string kept = readText(folder / "data/zest-loom/keys-that-opened.json");
    CHECK(kept.find("tide") == std::string::npos);
}
