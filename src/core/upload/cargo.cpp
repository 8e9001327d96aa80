#include "core/upload/cargo.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/formats/scene_file.h"
#include "core/formats/xml_text.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <sodium.h>

#include <algorithm>
#include <map>

namespace fs = std::filesystem;

namespace zl::upload {

namespace {

class Hasher {
public:
    Hasher() { crypto_hash_sha256_init(&state_); }
    void add(std::string_view bytes) {
        crypto_hash_sha256_update(&state_, reinterpret_cast<const unsigned char*>(bytes.data()),
                                  bytes.size());
    }
    std::string take() {
        unsigned char hash[crypto_hash_sha256_BYTES];
        crypto_hash_sha256_final(&state_, hash);
        std::string out;
        for (const unsigned char byte : hash) out += fmt::format("{:02x}", byte);
        return out;
    }

private:
    crypto_hash_sha256_state state_;
};

std::string hashOf(std::string_view bytes) {
    Hasher hasher;
    hasher.add(bytes);
    return hasher.take();
}

fs::path sceneIn(const fs::path& folder) {
    std::vector<fs::path> found;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder, error))
        if (entry.path().filename().string().ends_with(".scene.xml")) found.push_back(entry.path());
    if (found.empty())
        throw Error("holds no scene to upload", folder.string(), "Build the piece for the platform first.");
    if (found.size() > 1)
        throw Error("holds several scenes", folder.string(), "Upload a folder with one of them.");
    return found[0];
}

class Reader {
public:
    explicit Reader(const fs::path& folder) { out_.folder = folder; }

    Cargo take() {
        const fs::path file = sceneIn(out_.folder);
        const std::string text = readText(file);
        formats::readScene(text, file.string()); // refuses what is none, with the place
        pugi::xml_document document;
        document.load_buffer(text.data(), text.size());
        const pugi::xml_node scene = document.child("scene");
        out_.name = fileNameFrom(scene.attribute("name").value());
        addAll(scene, 0);
        Hasher all;
        for (const auto* parts : {&out_.groups, &out_.solids})
            for (const Cargo::Part& part : *parts) all.add(part.body), all.add("\n");
        out_.hash = all.take();
        return std::move(out_);
    }

private:
    void addAll(pugi::xml_node in, int group) {
        for (pugi::xml_node node : in.children()) {
            const std::string_view name = node.name();
            if (name == "group")
                addGroup(node, group);
            else if (name == "solid")
                addSolid(node, group);
        }
    }

    void addGroup(pugi::xml_node node, int within) {
        const int number = node.attribute("number").as_int();
        const std::string name = node.attribute("name").value();
        out_.groups.push_back(
            {number, name,
             jsonText(nlohmann::ordered_json{
                 {"name", name}, {"within", within}, {"lead", node.attribute("lead").as_int()}})});
        addAll(node, number);
    }

    void addSolid(pugi::xml_node node, int group) {
        node.append_attribute("group") = group;
        for (pugi::xml_node look : node.children())
            if (pugi::xml_attribute picture = look.attribute("picture"); picture && *picture.value())
                picture.set_value(hashFor(picture.value()).c_str());
        out_.solids.push_back(
            {node.attribute("number").as_int(), node.attribute("name").value(), formats::printedXml(node)});
    }

    const std::string& hashFor(const std::string& file) {
        std::string& hash = hashes_[file];
        if (!hash.empty()) return hash;
        const fs::path name = fs::path(file).lexically_normal();
        if (name.is_absolute() || name.empty() || *name.begin() == "..")
            throw Error("names a picture outside its folder: " + file, out_.folder.string());
        const std::string bytes = readText(out_.folder / name);
        hash = hashOf(bytes);
        if (std::ranges::find(out_.pictures, hash, &Cargo::Picture::hash) == out_.pictures.end())
            out_.pictures.push_back({file, hash, bytes.size()});
        return hash;
    }

    Cargo out_;
    std::map<std::string, std::string> hashes_;
};

} // namespace

std::size_t Cargo::bytes() const {
    std::size_t out = 0;
    for (const Picture& picture : pictures) out += picture.bytes;
    for (const auto* parts : {&groups, &solids})
        for (const Part& part : *parts) out += part.body.size();
    return out;
}

Cargo cargoIn(const fs::path& folder) {
    return Reader(folder).take();
}

} // namespace zl::upload
