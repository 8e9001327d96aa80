#include "standins/files/formats/readers.h"
#include "standins/world/packed_files.h"

#include "core/base/letters.h"

#include <fmt/format.h>
#include <stb_image.h>

#include <fstream>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

using Kind = Message::Kind;

constexpr std::size_t mostFiles = 5000;
constexpr std::uintmax_t mostTextBytes = 1u << 20;
constexpr std::size_t mostArchiveBytes = std::size_t(1) << 30; ///< packed, and unpacked

std::string startOf(const fs::path& file, std::size_t bytes) {
    std::ifstream in(file, std::ios::binary);
    std::string out(bytes, '\0');
    in.read(out.data(), std::streamsize(bytes));
    out.resize(std::size_t(std::max<std::streamsize>(0, in.gcount())));
    return out;
}

bool isText(const std::string& bytes) {
    return std::ranges::none_of(
        bytes, [](unsigned char c) { return c == 0 || (c < 0x20 && c != '\n' && c != '\r' && c != '\t'); });
}

/// Sides out of a picture's header; zero for one that cannot be read.
std::pair<int, int> sidesOf(const fs::path& file) {
    const std::string ending = lowerCase(file.extension().string());
    if (ending == ".dds") {
        const std::string head = startOf(file, 128);
        if (head.size() < 128 || !head.starts_with("DDS ")) return {0, 0};
        const auto number = [&](std::size_t at) {
            int value = 0;
            for (std::size_t k = 0; k < 4; ++k)
                value |= int(static_cast<unsigned char>(head[at + k])) << (8 * k);
            return value;
        };
        return {number(16), number(12)};
    }
    int width = 0, height = 0, channels = 0;
    if (!stbi_info(file.c_str(), &width, &height, &channels)) return {0, 0};
    // A header alone is no picture.
    unsigned char* pixels =
        double(width) * height < 70e6 ? stbi_load(file.c_str(), &width, &height, &channels, 1) : nullptr;
    if (!pixels) return {0, 0};
    stbi_image_free(pixels);
    return {width, height};
}

/// `within` an archive no other is opened: one may hold itself.
Delivered readAll(const fs::path& folder, bool within, TryReport& report) {
    Delivered out{folder};
    const auto refuse = [&](std::string file, std::string text, std::string detail) {
        report.messages.push_back({Kind::Refused, std::move(file), std::move(text), std::move(detail)});
    };
    std::error_code problem;
    if (!fs::is_directory(folder, problem)) {
        refuse(folder.string(), "There is no such folder", "Build for the platform first");
        return out;
    }
    for (auto entry = fs::recursive_directory_iterator(folder, problem); !problem && entry != fs::end(entry);
         entry.increment(problem)) {
        if (!entry->is_regular_file(problem) || entry->is_symlink(problem)) continue;
        const std::string path = entry->path().lexically_relative(folder).generic_string();
        if (fs::path(path).filename().string().starts_with('.')) continue;
        out.files[path] = entry->file_size(problem);
        if (out.files.size() > mostFiles) {
            refuse("", "There are too many files", fmt::format("Takes up to {}", mostFiles));
            return out;
        }
    }
    if (out.files.empty()) refuse("", "There are no files in the folder", "Build for the platform first");
    if (!within && out.files.size() == 1 && world::isPacked(out.files.begin()->first)) {
        auto inside = opened(folder / out.files.begin()->first, report);
        if (!inside) return out;
        Delivered held = readAll(inside->path(), true, report);
        held.passing = std::move(inside);
        held.archive = out.files.begin()->first;
        return held;
    }
    out = readFiles(folder, std::move(out.files), readModelFile);
    if (!out.files.empty() && out.models.empty() && out.unreadable.empty())
        refuse("", "There is no model among the files", "Build for the platform first");
    return out;
}

} // namespace

std::shared_ptr<const PassingFolder> opened(const fs::path& archive, TryReport& report) {
    const auto refuse = [&](std::string why) {
        report.messages.push_back(
            {Kind::Refused, archive.filename().string(), "The archive is not readable", std::move(why)});
        return nullptr;
    };
    std::error_code problem;
    if (const auto bytes = fs::file_size(archive, problem); problem || bytes > mostArchiveBytes)
        return refuse(problem ? "It cannot be opened" : "It is larger than is taken");
    const world::PackedFiles packed = world::readPacked(wholeOf(archive), mostArchiveBytes);
    if (!packed.problem.empty()) return refuse(packed.problem);
    auto folder = std::make_shared<const PassingFolder>("trial");
    if (folder->path().empty()) return refuse("There is no room in the folder for temporary files");
    for (const auto& [path, content] : packed.entries) {
        const fs::path file = folder->path() / path;
        std::error_code ignored;
        fs::create_directories(file.parent_path(), ignored);
        std::ofstream(file, std::ios::binary) << content;
    }
    return folder;
}

Delivered readFiles(const fs::path& folder, std::map<std::string, std::uint64_t> files, ModelReader reader) {
    static const std::set<std::string> pictures{".png", ".jpg", ".jpeg", ".tga", ".bmp", ".dds"},
        others{".fbx", ".gltf", ".off", ".amf", ".rowmesh"};
    Delivered out{folder, std::move(files)};
    for (const auto& [path, bytes] : out.files) {
        const std::string ending = lowerCase(fs::path(path).extension().string());
        if (auto model = reader(folder, path))
            out.models.push_back(std::move(*model));
        else if (pictures.contains(ending))
            out.pictures[path] = sidesOf(folder / path);
        else if (others.contains(ending))
            out.unreadable.push_back(path);
        else if (bytes <= mostTextBytes && isText(startOf(folder / path, 4096)))
            out.texts[path] = wholeOf(folder / path);
    }
    return out;
}

Delivered readDelivered(const fs::path& folder, TryReport& report) {
    return readAll(folder, false, report);
}

std::pair<glm::vec3, glm::vec3> shownBox(const Delivered& delivered, const platform::FileTerms& terms) {
    glm::vec3 low(1e30f), high(-1e30f);
    for (const Read& model : delivered.models) {
        const glm::mat4 shown = toShown(model, terms);
        for (const Read::Object& object : model.objects)
            for (const glm::vec3& p : object.shape.positions) {
                const glm::vec3 at = shown * glm::vec4(p, 1);
                low = glm::min(low, at), high = glm::max(high, at);
            }
    }
    return {low, high};
}

} // namespace zl::standins::files
