// What was written lies in an archive or a package, among names that nobody would choose; then the container
// is damaged.
#include "answered.h"

#include "core/files/take_out.h"
#include "core/formats/format.h"
#include "core/model/model_bytes.h"
#include "support/containers.h"

#include <fmt/format.h>

using namespace zl;

namespace torture {

void roundOfContainer(const std::vector<OutFile>& files, const Model& outside, Dice& dice,
                      const std::filesystem::path& folder) {
    const std::string below = dice.chance(0.5) ? "" : "kit, größer/v 2/";
    std::vector<OutFile> held;
    for (const OutFile& file : files) held.push_back({below + file.name, file.bytes});
    const std::size_t which = dice.below(containers::archives().size() + 1);
    const std::size_t more = dice.below(4);
    for (std::size_t i = 0; i < more; ++i) {
        const char* names[] = {"../up.obj", "/root.mtl", "caf\xe9.png", "a\\b.txt",
                               "link",      "CON",       "x/../../y"};
        const std::string name = dice.of(names);
        held.insert(held.begin() + std::ptrdiff_t(dice.below(held.size() + 1)),
                    {name, name == "link" ? "link:/etc/passwd" : std::string(dice.below(4000), 'x')});
    }
    std::filesystem::path path = folder / "held.sqlar";
    if (which < containers::archives().size()) {
        const auto& kind = containers::archives()[which];
        path = folder / ("held." + kind.extension);
        containers::writeArchive(path, kind, held);
    } else {
        containers::writePackage(path, held);
    }
    const std::string what = "reading out of " + path.filename().string();
    const auto address = path / below / files[0].name;
    Model inside;
    if (!answered(what, [&] { inside = formats::readModel(address); }))
        throw Failure(what + ": cannot be read, and could be beside it");
    Model plain = outside;
    plain.files.clear(), inside.files.clear();
    if (toBytes(plain) != toBytes(inside)) throw Failure(what + ": comes out otherwise than beside it");

    const auto contents = files::contentsOf(path, {});
    const auto chosen = files::chosenOf(contents, {"*"});
    const auto taken = files::takeOut(path, chosen, folder / "taken", {});
    if (taken.files.size() != chosen.size()) throw Failure(what + ": not all of it was taken out");
    const auto whole = files::filesIn(path);
    for (const auto& file : taken.files)
        if (readText(file.file, std::size_t(1) << 30) != whole->open(file.inside).text())
            throw Failure(what + ": " + file.inside + " was taken out otherwise than it is");
    std::size_t written = 0;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder / "taken"))
        written += !entry.is_directory();
    if (written != chosen.size()) throw Failure(what + ": files were written over one another, or elsewhere");
    std::filesystem::remove_all(folder / "taken");

    std::string bytes = readText(path, std::size_t(1) << 30);
    for (std::size_t i = 0, hits = 1 + dice.below(5); i < hits && !bytes.empty(); ++i)
        bytes[dice.below(bytes.size())] = char(dice.below(256));
    if (dice.chance(0.3)) bytes.resize(dice.below(bytes.size() + 1));
    std::filesystem::remove(path);
    writeFile(path, bytes);
    Model damaged;
    if (answered(what + ", damaged", [&] { damaged = formats::readModel(address); }))
        demandPromises(damaged, what + ", damaged");
}

} // namespace torture
