#include "core/platform/sheet_contact.h"

#include "core/model/model.h"
#include "core/platform/table_reader.h"

namespace zl::platform {

namespace {

using contact::Hatch, contact::hatchNames, contact::MarkPlace, contact::SurfaceKind;

SurfaceKind readSurface(const toml::table& table, const std::filesystem::path& file) {
    TableReader section(table, file);
    SurfaceKind out;
    out.name = section.text("name");
    if (out.name.find_first_of(" \t\r\n") != std::string::npos)
        section.fail(table.get("name"), fmt::format("\"{}\" has a blank in it", out.name), "one word");
    out.colour = section.colour("colour");
    const std::string hatch = section.text("hatch", false, "plain");
    section.demandWord(table.get("hatch"), "hatch", hatch, {std::begin(hatchNames), std::end(hatchNames)});
    out.hatch = Hatch(std::ranges::find(hatchNames, hatch) - std::begin(hatchNames));
    out.word = section.text("word", false, out.name);
    out.sound = section.text("sound", false);
    out.throws = section.text("throws", false);
    if (section.get("grip", false)) out.grip = section.positive("grip");
    out.hints = section.texts("hints");
    section.refuseOthers();
    return out;
}

MarkPlace readMark(const toml::table& table, const std::filesystem::path& file) {
    TableReader section(table, file);
    const toml::node* node = section.get("place", true);
    const double place = section.number(node, "place");
    if (place != std::floor(place) || place < 0 || place > mostMarkPlace)
        section.fail(node, fmt::format("there is no place {}", place),
                     fmt::format("a whole number from 0 to {}", mostMarkPlace));
    MarkPlace out{int(place), section.text("name"), section.text("does", false)};
    section.refuseOthers();
    return out;
}

} // namespace

contact::Touch readContact(TableReader& root, const std::filesystem::path& file) {
    contact::Touch out;
    for (const toml::table* table : root.tables("surface", false)) {
        SurfaceKind kind = readSurface(*table, file);
        if (out.surface(kind.name))
            root.fail(table, fmt::format("the surface \"{}\" stands here twice", kind.name),
                      "each kind once");
        if (int(out.surfaces.size()) >= mostSurfaceKinds)
            root.fail(table, "these are too many surfaces", fmt::format("up to {}", mostSurfaceKinds));
        out.surfaces.push_back(std::move(kind));
    }
    for (const toml::table* table : root.tables("mark", false)) {
        MarkPlace mark = readMark(*table, file);
        for (const MarkPlace& known : out.marks)
            if (known.place == mark.place || known.name == mark.name)
                root.fail(table, fmt::format("place {} or \"{}\" stands here twice", mark.place, mark.name),
                          "each place and each name once");
        out.marks.push_back(std::move(mark));
    }
    if (const toml::table* table = root.table("engine", false)) {
        TableReader engine(*table, file);
        out.engine = engine.text("version");
        out.earlier = engine.texts("earlier");
        engine.refuseOthers();
    }
    if (const toml::table* table = root.table("holder", false)) {
        TableReader holder(*table, file);
        out.holderName = holder.text("name");
        if (out.holderName.find("{name}") == std::string::npos)
            holder.fail(table->get("name"), "every holder would be called the same",
                        "a name with {name} in it");
        holder.refuseOthers();
    }
    return out;
}

} // namespace zl::platform
