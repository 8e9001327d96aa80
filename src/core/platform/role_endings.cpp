#include "core/platform/role_endings.h"

#include "core/base/data_folder.h"
#include "core/base/letters.h"
#include "core/base/file_set.h"
#include "core/platform/table_reader.h"

namespace fs = std::filesystem;

namespace zl::platform {

namespace {

constexpr std::array<std::string_view, 5> channels{"all", "red", "green", "blue", "alpha"};

/// With one sign between words, so that "Lantern-Base Color" ends in "_base_color".
std::string evened(std::string_view name) {
    std::string out = lowerCase(name);
    for (char& c : out)
        if (c == '-' || c == '.' || c == ' ') c = '_';
    return out;
}

fs::path ownFile() {
    const fs::path folder = dataFolder();
    return folder.empty() ? fs::path() : folder / "endings.toml";
}

} // namespace

std::string_view channelName(PictureChannel channel) {
    return channels[std::size_t(channel)];
}

void RoleEndings::add(const RoleEndings& other) {
    const auto knows = [known = *this](const std::string& ending) {
        return std::ranges::find(known.empty, ending) != known.empty.end() ||
               std::ranges::find(known.pictures, ending, &Ending::ending) != known.pictures.end();
    };
    for (const Ending& more : other.pictures)
        if (!knows(more.ending)) pictures.push_back(more);
    for (const std::string& more : other.empty)
        if (!knows(more)) empty.push_back(more);
}

NameParts partsOfName(std::string_view name, const RoleEndings& endings) {
    NameParts out{evened(name), {}};
    const auto endsIn = [&](const std::string& ending) {
        return out.stem.size() > ending.size() && out.stem.ends_with(ending);
    };
    const auto cut = [&](std::size_t letters) {
        out.stem.resize(out.stem.size() - letters);
        while (out.stem.size() > 1 && out.stem.back() == '_') out.stem.pop_back();
    };
    while (true) {
        std::size_t longest = 0;
        bool says = false;
        for (const std::string& ending : endings.empty)
            if (endsIn(ending) && ending.size() > longest) longest = ending.size();
        if (out.uses.empty())
            for (const RoleEndings::Ending& known : endings.pictures)
                if (endsIn(known.ending) && known.ending.size() > longest)
                    longest = known.ending.size(), says = true;
        if (longest == 0) return out;
        if (says)
            for (const RoleEndings::Ending& known : endings.pictures)
                if (known.ending.size() == longest && out.stem.ends_with(known.ending))
                    out.uses.push_back(known);
        cut(longest);
    }
}

const RoleEndings& usualRoleEndings() {
    using enum PictureRole;
    using Channel = PictureChannel;
    struct Usual {
        PictureRole role;
        Channel channel;
        std::vector<std::string> endings;
    };
    static const RoleEndings table = [] {
        const std::vector<Usual> usual{
            {Colour,
             Channel::Colour,
             {"_d", "_c", "_col", "_color", "_colour", "_diff", "_diffuse", "_albedo", "_alb", "_base",
              "_basecolor", "_basecolour", "_base_color", "_base_colour"}},
            {Opacity, Channel::Colour, {"_o", "_opacity", "_alpha", "_mask", "_transparency"}},
            {Normal, Channel::Colour, {"_n", "_nm", "_nrm", "_nor", "_norm", "_normal", "_normals"}},
            {Height, Channel::Colour, {"_h", "_height", "_bump", "_b", "_disp", "_displacement"}},
            {Roughness, Channel::Colour, {"_r", "_rough", "_roughness"}},
            {Metalness, Channel::Colour, {"_m", "_metal", "_metallic", "_metalness"}},
            {Gloss, Channel::Colour, {"_g", "_gloss", "_glossiness", "_smoothness"}},
            {Specular, Channel::Colour, {"_s", "_spec", "_specular"}},
            {Occlusion, Channel::Colour, {"_ao", "_occ", "_occlusion", "_ambient_occlusion"}},
            {Emission, Channel::Colour, {"_e", "_em", "_emit", "_emissive", "_emission", "_glow"}},
            {Occlusion, Channel::Red, {"_orm", "_arm"}},
            {Roughness, Channel::Green, {"_orm", "_arm"}},
            {Metalness, Channel::Blue, {"_orm", "_arm"}}};
        RoleEndings out;
        for (const Usual& line : usual)
            for (const std::string& ending : line.endings)
                out.pictures.push_back({ending, line.role, line.channel});
        out.empty = {"_512",  "_1024", "_2048", "_4096",  "_8192",    "_1k",  "_2k",  "_4k",     "_8k",
                     "_lod0", "_mesh", "_geo",  "_model", "_lowpoly", "_low", "_tex", "_texture"};
        return out;
    }();
    return table;
}

void readEnding(TableReader& section, RoleEndings& into) {
    std::vector<std::string_view> words{"nothing"};
    for (const PictureRole role : allPictureRoles) words.push_back(roleName(role));
    const std::string means = section.text("means");
    section.demandWord(section.get("means", true), "role", means, words);
    const std::string channel = section.text("channel", false, std::string(channels[0]));
    section.demandWord(section.get("channel", false), "channel", channel, {channels.begin(), channels.end()});
    const auto names = section.texts("names");
    if (names.empty())
        section.fail(section.get("names", true), "\"names\" is empty", "endings like [\"_n\", \"_normal\"]");
    RoleEndings said;
    for (const std::string& name : names) {
        const std::string ending = evened(name);
        if (ending.size() < 2)
            section.fail(section.get("names", true),
                         fmt::format("the ending \"{}\" is too short to tell", name),
                         "at least two signs, like \"_n\"");
        if (means == "nothing")
            said.empty.push_back(ending);
        else
            said.pictures.push_back(
                {ending, allPictureRoles[std::size_t(std::ranges::find(words, means) - words.begin() - 1)],
                 PictureChannel(std::ranges::find(channels, channel) - channels.begin())});
    }
    section.refuseOthers();
    into.pictures.insert(into.pictures.end(), said.pictures.begin(), said.pictures.end());
    into.empty.insert(into.empty.end(), said.empty.begin(), said.empty.end());
}

RoleEndings generalRoleEndings() {
    const fs::path file = ownFile();
    if (file.empty() || !fs::exists(file)) return usualRoleEndings();
    const toml::table root = parsedTable(readText(file), file);
    TableReader reader(root, file);
    RoleEndings own;
    for (const toml::table* section : reader.tables("ending", false)) {
        TableReader ending(*section, file);
        readEnding(ending, own);
    }
    reader.refuseOthers();
    return own;
}

void keepGeneralRoleEndings(const RoleEndings& endings) {
    const fs::path file = ownFile();
    if (file.empty()) throw Error("there is no place for settings", {}, "Set HOME or XDG_DATA_HOME.");
    const auto sorted = [](RoleEndings table) {
        std::ranges::sort(table.pictures, {}, [](const RoleEndings::Ending& known) {
            return std::tuple(known.role, known.channel, known.ending);
        });
        std::ranges::sort(table.empty);
        return table;
    };
    if (sorted(endings) == sorted(usualRoleEndings())) {
        fs::remove(file);
        return;
    }
    std::string out = "# What endings of file names mean. A `_` stands for any of _ - . and a space.\n";
    const auto section = [&](std::string_view means, PictureChannel channel,
                             const std::vector<std::string>& names) {
        if (names.empty()) return;
        toml::array list;
        for (const std::string& name : names) list.push_back(name);
        toml::table table{{"means", std::string(means)}, {"names", list}};
        if (channel != PictureChannel::Colour) table.insert("channel", std::string(channelName(channel)));
        std::ostringstream text;
        text << toml::default_formatter(table);
        out += "\n[[ending]]\n" + text.str() + "\n";
    };
    for (const PictureRole role : allPictureRoles)
        for (std::size_t channel = 0; channel < channels.size(); ++channel) {
            std::vector<std::string> names;
            for (const RoleEndings::Ending& known : endings.pictures)
                if (known.role == role && known.channel == PictureChannel(channel))
                    names.push_back(known.ending);
            section(roleName(role), PictureChannel(channel), names);
        }
    section("nothing", PictureChannel::Colour, endings.empty);
    fs::create_directories(file.parent_path());
    writeFile(file, out);
}

} // namespace zl::platform
