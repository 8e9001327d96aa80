#include "core/platform/sheet_pictures.h"

#include "core/platform/table_reader.h"
#include "core/platform/vocabulary.h"

namespace zl::platform {

namespace {

constexpr std::string_view channelKeys[] = {"red", "green", "blue", "alpha"};

std::string filled(const std::string& pattern, std::string_view placeholder, const std::string& with) {
    std::string out = pattern;
    for (std::size_t at = 0; (at = out.find(placeholder, at)) != std::string::npos; at += with.size())
        out.replace(at, placeholder.size(), with);
    return out;
}

ChannelSource readChannel(TableReader& section, const std::string& key, const toml::node& node) {
    ChannelSource out;
    if (node.is_number()) {
        out.constant = section.number(&node, key);
        if (out.constant < 0 || out.constant > 1)
            section.fail(&node, fmt::format("\"{}\" is {}", key, out.constant), "a number from 0 to 1");
        return out;
    }
    std::string text = section.text(key);
    if (text.starts_with("1 - ")) out.turnedOver = true, text.erase(0, 4);
    const std::size_t point = text.find('.');
    const std::string roleText = text.substr(0, point),
                      part = point == std::string::npos ? "" : text.substr(point + 1);
    std::vector<std::string_view> known;
    for (const PictureRole role : allPictureRoles) known.push_back(roleName(role));
    section.demandWord(&node, "role of pictures", roleText, known);
    for (const PictureRole role : allPictureRoles)
        if (roleName(role) == roleText) out.role = role;
    if (isScalar(*out.role) || part.empty()) {
        if (!part.empty())
            section.fail(&node, fmt::format("\"{}\" is one number", roleText),
                         fmt::format("\"{}\" alone", roleText));
        if (*out.role == PictureRole::Normal)
            section.fail(&node, "a direction has no mean",
                         "\"normal.red\", \"normal.green\" or \"normal.blue\"");
        return out;
    }
    section.demandWord(&node, "part of a colour", part, {"red", "green", "blue"});
    out.part = part == "red"     ? PictureChannel::Red
               : part == "green" ? PictureChannel::Green
                                 : PictureChannel::Blue;
    return out;
}

MaterialSettings readFlags(TableReader& section, const toml::table& table) {
    MaterialSettings out;
    for (const auto& [key, node] : table) {
        const std::string name(key.str());
        if (const auto* flag = node.as_boolean())
            out[name] = flag->get();
        else if (const auto* text = node.as_string())
            out[name] = text->get();
        else
            out[name] = section.number(&node, name);
    }
    return out;
}

} // namespace

std::string SheetPicture::nameFor(const std::string& material) const {
    return filled(name, "{material}", material);
}

std::vector<PictureRole> SheetPicture::roles() const {
    std::vector<PictureRole> out;
    for (const auto& channel : channels)
        if (channel && channel->role && std::ranges::find(out, *channel->role) == out.end())
            out.push_back(*channel->role);
    return out;
}

std::string SheetSurface::materialFor(const std::string& name) const {
    return filled(materialName, "{name}", name);
}

std::string textOf(const ChannelSource& channel) {
    if (!channel.role) return fmt::format("{}", channel.constant);
    std::string out(roleName(*channel.role));
    if (channel.part != PictureChannel::Colour)
        out += fmt::format(".{}", channelKeys[std::size_t(channel.part) - std::size_t(PictureChannel::Red)]);
    return channel.turnedOver ? "1 - " + out : out;
}

SheetPicture readPicture(TableReader& section, const Vocabulary& words) {
    SheetPicture out;
    out.name = section.text("name");
    if (out.name.find("{material") == std::string::npos && out.name.find("{name") == std::string::npos)
        section.fail(section.get("name", true),
                     fmt::format("\"{}\" is the same for every material", out.name),
                     "a name with {material} in it");
    bool any = false;
    for (std::size_t k = 0; k < 4; ++k)
        if (const toml::node* node = section.get(std::string(channelKeys[k]), false))
            out.channels[k] = readChannel(section, std::string(channelKeys[k]), *node), any = true;
    if (!any) section.fail(nullptr, "the picture holds nothing", "a channel such as `red = \"roughness\"`");
    out.format = section.text("format", false, "png");
    section.demandWord(section.get("format", false), "kind of picture", out.format, words.pictureFormats);
    if (const toml::node* most = section.get("most", false)) {
        const double edge = section.number(most, "most");
        if (edge < 1 || edge > 32768 || edge != std::floor(edge))
            section.fail(most, fmt::format("\"most\" is {}", edge), "pixels along an edge, 1 to 32768");
        out.mostEdge = int(edge);
    }
    if (const toml::table* flags = section.table("flags", false)) out.flags = readFlags(section, *flags);
    section.refuseOthers();
    return out;
}

} // namespace zl::platform
