#include "standins/world/files.h"

#include "core/base/json_text.h"
#include "core/base/units.h"

#include <fmt/format.h>
#include <stb_image.h>

#include <algorithm>
#include <bit>
#include <fstream>
#include <sstream>

namespace fs = std::filesystem;

namespace zl::standins::world {

using Kind = Message::Kind;

std::string over(double value, double limit) {
    return fmt::format("takes up to {}, this is {} too many", showNumber(limit, 0),
                       showNumber(value - limit, 0));
}

Files::Files(fs::path folder, TryReport& report) : folder_(std::move(folder)), report_(report) {
    std::error_code error;
    if (!fs::is_directory(folder_, error))
        say(Kind::Refused, folder_.string(), "There is no such folder", "Build for the platform first");
}

void Files::say(Kind kind, std::string file, std::string text, std::string detail) const {
    report_.messages.push_back({kind, std::move(file), std::move(text), std::move(detail)});
}

void Files::sayLimit(const std::string& file, const std::string& text, double value, double limit) const {
    if (value > limit) return refuseOver(file, text, value, limit);
    say(Kind::Fine, file, text, "takes up to " + showNumber(limit, 0));
}

void Files::sayBytes(const std::string& file, const std::string& text, double bytes, double limit) const {
    say(bytes > limit ? Kind::Refused : Kind::Fine, file, text,
        "takes up to " + showBytes(limit) +
            (bytes > limit ? fmt::format(", this is {} too much", showBytes(bytes - limit)) : ""));
}

void Files::refuseOver(const std::string& file, const std::string& text, double value, double limit) const {
    if (value > limit) say(Kind::Refused, file, text, over(value, limit));
}

bool Files::refused() const {
    return std::ranges::any_of(report_.messages, [](const Message& m) { return m.kind == Kind::Refused; });
}

nlohmann::json Files::description(const std::string& ending, const std::string& format,
                                  const std::vector<std::string>& keys) {
    std::vector<fs::path> found;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder_, error))
        if (entry.path().filename().string().ends_with(ending)) found.push_back(entry.path());
    const auto refuse = [&](const std::string& file, const std::string& text, const std::string& detail) {
        say(Kind::Refused, file, text, detail);
        return nlohmann::json();
    };
    if (found.empty())
        return refuse("",
                      fmt::format("There is no description ({}) in the folder",
                                  ending[0] == '.' ? "NAME" + ending : ending),
                      "Build for the platform first");
    if (found.size() > 1)
        return refuse("", fmt::format("{} descriptions lie in one folder", found.size()),
                      "Give each delivery a folder of its own");
    const std::string name = found[0].filename().string();
    const auto text = bytes(name);
    if (!text) return {};
    nlohmann::json about = parsedJson(*text);
    if (about.is_discarded() || !about.is_object())
        return refuse(name, "The description is not readable", "It must be JSON");
    if (about.value("format", nlohmann::json()) != format)
        return refuse(name, "It describes something else", fmt::format("\"format\" must be \"{}\"", format));
    if (!about.contains("version") || about["version"] != 1)
        return refuse(name, "It is of a version that is not known here", "Version 1 is");
    for (const std::string& key : keys)
        if (!about.contains(key) || !about[key].is_string())
            return refuse(name, fmt::format("\"{}\" is missing", key), "It must be a text");
    return about;
}

fs::path Files::path(const std::string& name, bool subfolders) {
    const fs::path plain = fs::path(name).lexically_normal();
    if (name.empty() || plain.is_absolute() || *plain.begin() == ".." ||
        (plain.has_parent_path() && !subfolders)) {
        say(Kind::Refused, name, "The name leads out of the folder", "Names are plain file names");
        return {};
    }
    std::error_code error;
    if (!fs::is_regular_file(folder_ / plain, error)) {
        say(Kind::Refused, name, "The file is missing", "Another file names it");
        return {};
    }
    const auto size = fs::file_size(folder_ / plain, error);
    if (!error) bytes_ += size, ++count_;
    return folder_ / plain;
}

std::optional<std::string> Files::bytes(const std::string& name, bool subfolders) {
    const fs::path file = path(name, subfolders);
    if (file.empty()) return std::nullopt;
    std::ifstream in(file, std::ios::binary);
    std::ostringstream whole;
    whole << in.rdbuf();
    if (!in) {
        say(Kind::Refused, name, "The file cannot be read", "Check your rights");
        return std::nullopt;
    }
    return whole.str();
}

std::optional<Picture> Files::picture(const std::string& name, int mostEdge, bool powerOfTwo,
                                      bool subfolders) {
    const auto [known, fresh] = pictures_.try_emplace(name);
    if (fresh) known->second = readPicture(name, mostEdge, powerOfTwo, subfolders);
    return known->second;
}

std::optional<Picture> Files::readPicture(const std::string& name, int mostEdge, bool powerOfTwo,
                                          bool subfolders) {
    const auto encoded = bytes(name, subfolders);
    if (!encoded) return std::nullopt;
    Judged judged = judgedPicture(*encoded, mostEdge, powerOfTwo);
    say(judged.picture ? Kind::Fine : Kind::Refused, name, judged.text, judged.detail);
    return std::move(judged.picture);
}

Judged judgedPicture(std::string_view encoded, int mostEdge, bool powerOfTwo) {
    const auto* data = reinterpret_cast<const unsigned char*>(encoded.data());
    int width = 0, height = 0, channels = 0;
    if (!stbi_info_from_memory(data, int(encoded.size()), &width, &height, &channels))
        return {{}, "The picture is not readable", "Takes PNG and JPEG"};
    const std::string sides = fmt::format("{} by {} px", width, height);
    if (const int edge = std::max(width, height); edge > mostEdge)
        return {{}, sides, over(edge, mostEdge) + " along an edge"};
    if (powerOfTwo && (!std::has_single_bit(unsigned(width)) || !std::has_single_bit(unsigned(height))))
        return {{}, sides, "takes sides of 2, 4, 8 … pixels only"};
    unsigned char* pixels = stbi_load_from_memory(data, int(encoded.size()), &width, &height, &channels, 4);
    if (!pixels) return {{}, "The picture is broken", "Export it again"};
    Picture picture{width, height, {pixels, pixels + std::size_t(4) * width * height}};
    stbi_image_free(pixels);
    return {std::move(picture), sides, fmt::format("takes up to {} px along an edge", mostEdge)};
}

} // namespace zl::standins::world
