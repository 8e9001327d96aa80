#include "core/formats/gltf_container.h"

#include "core/base/error.h"
#include "core/base/file_bytes.h"
#include "core/base/json_text.h"
#include "core/base/utf8.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cstring>
#include <string_view>

namespace zl::formats {

namespace {

/// Keeps the encoded bytes; nothing is decoded here.
bool keepEncoded(tinygltf::Image* image, const int, std::string*, std::string*, int, int,
                 const unsigned char* bytes, int size, void*) {
    image->image.assign(bytes, bytes + size);
    image->as_is = true;
    return true;
}

/// How the library gets at files beside the model; its own way is not compiled into every build of it.
tinygltf::FsCallbacks filesBeside(files::SourceFile& source) {
    tinygltf::FsCallbacks files{};
    files.user_data = &source;
    files.FileExists = [](const std::string& name, void* data) {
        if (name.starts_with("./")) return false; // it would look where the program was started, too
        return static_cast<files::SourceFile*>(data)->beside(name).has_value();
    };
    files.ExpandFilePath = [](const std::string& name, void*) { return name; };
    files.ReadWholeFile = [](std::vector<unsigned char>* out, std::string* problem, const std::string& name,
                             void* data) {
        try {
            auto& source = *static_cast<files::SourceFile*>(data);
            const auto beside = source.beside(name);
            if (!beside) return false;
            const FileBytes bytes = source.bytes(*beside);
            out->assign(bytes.text().begin(), bytes.text().end());
            return true;
        } catch (const Error& error) {
            if (problem) *problem += error.whole() + "\n";
            return false;
        }
    };
    return files;
}

[[noreturn]] void refuseVersion(const std::string& version, const std::string& where) {
    throw Error(fmt::format("is written in version {} of glTF", version), where, "Export it as glTF 2.0.");
}

/// Extensions whose files can be read without harm though what they say is not understood.
constexpr std::array<std::string_view, 6> harmless{"KHR_materials_unlit",
                                                   "KHR_materials_emissive_strength",
                                                   "VRMC_vrm",
                                                   "VRMC_springBone",
                                                   "VRMC_node_constraint",
                                                   "VRMC_materials_mtoon"};

/// Deepest that lists and objects may lie in one another. Whoever nests deeper means harm: both libraries
/// that read JSON here go down as deep as it does.
constexpr int mostDepth = 200;

void refuseDeep(std::string_view json, const std::string& where) {
    int depth = 0;
    bool quoted = false;
    for (std::size_t k = 0; k < json.size(); ++k) {
        const char c = json[k];
        if (quoted && c == '\\')
            ++k;
        else if (c == '"')
            quoted = !quoted;
        else if (!quoted && (c == '[' || c == '{') && ++depth > mostDepth)
            throw Error(fmt::format("nests its lists more than {} deep", mostDepth), where,
                        "Export the file again.");
        else if (!quoted && (c == ']' || c == '}'))
            --depth;
    }
}

void refuseUnknownExtensions(const std::vector<std::string>& needed, const std::string& where) {
    for (const std::string& extension : needed)
        if (!keepsExtension(extension) && std::ranges::find(harmless, extension) == harmless.end())
            throw Error(fmt::format("needs the extension {}", extension), where,
                        "Export it without that extension.");
}

/// The four bytes of a GLB's version, and its JSON; what is no GLB is JSON itself.
std::pair<std::uint32_t, std::string_view> headOf(std::string_view bytes) {
    if (!bytes.starts_with("glTF")) return {2, bytes};
    std::uint32_t version = 0, length = 0;
    if (bytes.size() < 20) return {2, {}};
    std::memcpy(&version, bytes.data() + 4, 4);
    std::memcpy(&length, bytes.data() + 12, 4);
    return {version, bytes.substr(20, length)};
}

/// Says why the library refused a file. Its own words tell a programmer what failed; what people can do
/// something about is looked for first.
[[noreturn]] void refuse(std::string_view bytes, std::string words, const files::SourceFile& source) {
    const std::string& where = source.where();
    const auto [version, text] = headOf(bytes);
    if (version == 1) refuseVersion("1.0", where);
    const auto json = parsedJson(text);
    if (json.is_object()) {
        // glTF 1.0 has objects by name where 2.0 has lists, and need not say its version.
        for (const char* list : {"meshes", "accessors", "nodes"})
            if (json.contains(list) && json[list].is_object()) refuseVersion("1.0", where);
        if (json.contains("extensionsRequired") && json["extensionsRequired"].is_array()) {
            std::vector<std::string> needed;
            for (const auto& extension : json["extensionsRequired"])
                if (extension.is_string()) needed.push_back(extension.get<std::string>());
            refuseUnknownExtensions(needed, where);
        }
    }
    if (!source.missing().empty())
        throw Error(fmt::format("names the file \"{}\", which is missing", source.missing().front()), where,
                    "Put that file beside the model, where it names it.");
    while (!words.empty() && words.back() == '\n') words.pop_back();
    std::ranges::replace(words, '\n', ' ');
    if (words.starts_with("[json.")) words.erase(0, words.find(']') + 2); // the library's name for it
    throw Error(fmt::format("is not readable as glTF ({})", words.empty() ? "unknown reason" : words), where,
                "Export or copy the file again.");
}

} // namespace

GltfContainer openGltf(files::SourceFile& source) {
    const FileBytes file = source.bytes();
    const std::string& where = source.where();
    if (file.size() > 0xffffffffu) throw Error("is larger than GLB allows (4 GB)", where);
    refuseDeep(headOf(file.text()).second, where);
    GltfContainer out;
    tinygltf::TinyGLTF loader;
    loader.SetImageLoader(keepEncoded, nullptr);
    loader.SetFsCallbacks(filesBeside(source));
    std::string error;
    bool loaded = false;
    try {
        const std::string folder; // the source knows it
        const auto size = static_cast<unsigned>(file.size());
        loaded = file.text().starts_with("glTF")
                     ? loader.LoadBinaryFromMemory(&out.content, &error, &out.warning,
                                                   reinterpret_cast<const unsigned char*>(file.text().data()),
                                                   size, folder)
                     : loader.LoadASCIIFromString(&out.content, &error, &out.warning, file.text().data(),
                                                  size, folder);
    } catch (const std::exception& problem) {
        error = problem.what();
    }
    if (!loaded) refuse(file.text(), std::move(error), source);
    if (!out.content.asset.version.starts_with("2.")) refuseVersion(out.content.asset.version, where);
    refuseUnknownExtensions(out.content.extensionsRequired, where);
    while (!out.warning.empty() && out.warning.back() == '\n') out.warning.pop_back();
    return out;
}

bool keepsExtension(std::string_view name) {
    return name == "KHR_texture_transform" || name == "KHR_mesh_quantization";
}

} // namespace zl::formats
