#include "core/project/solids_document.h"

#include "core/base/error.h"
#include "core/files/source_file.h"
#include "core/solids/scene_fields.h"
#include "core/solids/scene_model.h"
#include "core/texture/picture_file.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

using Json = nlohmann::ordered_json;
using namespace solids;

/// Puts fields into JSON, those that are as usual left out.
class Out {
public:
    template <class T, class Each>
    static Json of(const T& value, const T& usual, Each each) {
        std::map<std::string_view, Json> usually;
        each(usual, [&](std::string_view name, const auto& field) { usually[name] = json(field); });
        Json out = Json::object();
        each(value, [&](std::string_view name, const auto& field) {
            if (Json said = json(field); said != usually[name]) out[std::string(name)] = std::move(said);
        });
        return out;
    }

private:
    template <class T>
    static Json json(const T& value) {
        if constexpr (Named<T>)
            return nameOf(value);
        else if constexpr (requires { value.length(), value[0]; } && !std::is_same_v<T, std::string>) {
            Json out = Json::array();
            for (int k = 0; k < T::length(); ++k) out.push_back(value[k]);
            return out;
        } else
            return value;
    }
};

/// Takes fields from JSON; those that it does not say stay as they are.
class In {
public:
    explicit In(const nlohmann::json& from) : from_(from) {
        if (!from.is_object()) throw Error("holds a part that is none");
    }
    template <class T>
    void operator()(std::string_view name, T& value) const {
        const auto found = from_.find(name);
        if (found == from_.end()) return;
        if (!read(*found, value)) throw Error(fmt::format("does not say rightly what its \"{}\" is", name));
    }

private:
    template <class T>
    static bool read(const nlohmann::json& said, T& value) {
        if constexpr (Named<T>)
            return said.is_string() && readName(said.get<std::string>(), value);
        else if constexpr (std::is_same_v<T, std::string>)
            return said.is_string() && (value = said.get<std::string>(), true);
        else if constexpr (std::is_same_v<T, int>)
            return whole(said, value);
        else if constexpr (std::is_arithmetic_v<T>)
            return said.is_number() && (value = said.get<T>(), true);
        else {
            if (!said.is_array() || said.size() != std::size_t(T::length())) return false;
            for (int k = 0; k < T::length(); ++k)
                if (!read(said[std::size_t(k)], value[k])) return false;
            return true;
        }
    }
    static bool whole(const nlohmann::json& said, int& value) {
        constexpr long long most = 1 << 30;
        if (!said.is_number_integer() || std::abs(said.get<double>()) > double(most)) return false;
        value = int(said.get<long long>());
        return true;
    }

    const nlohmann::json& from_;
};

constexpr auto shapes = [](auto& shape, auto f) { eachOfShape(shape, f); };
constexpr auto looks = [](auto& look, auto f) { eachOfLook(look, f); };
constexpr auto ofSolids = [](auto& solid, auto f) { eachOfSolid(solid, f); };
constexpr auto ofGroups = [](auto& group, auto f) { eachOfGroup(group, f); };
constexpr auto ofLights = [](auto& light, auto f) { eachOfLight(light, f); };

Json jsonOf(const Solid& solid) {
    const Solid usual;
    Json out = Out::of(solid, usual, ofSolids);
    out["shape"] = Out::of(solid.shape, usual.shape, shapes);
    out["look"] = Out::of(solid.look, usual.look, looks);
    for (const auto& [face, look] : solid.faces) {
        Json own = Out::of(look, Look(), looks);
        own["face"] = face;
        out["faces"].push_back(std::move(own));
    }
    return out;
}

Solid solidFrom(const nlohmann::json& said) {
    static const nlohmann::json none = nlohmann::json::object();
    const auto part = [&](const nlohmann::json& of, const char* name) -> const nlohmann::json& {
        const auto found = of.find(name);
        return found == of.end() ? none : *found;
    };
    Solid out;
    eachOfSolid(out, In(said));
    eachOfShape(out.shape, In(part(said, "shape")));
    eachOfLook(out.look, In(part(said, "look")));
    if (const auto& faces = part(said, "faces"); !faces.empty()) {
        if (!faces.is_array()) throw Error("has no list \"faces\"");
        for (const auto& one : faces) {
            int face = -1;
            In{one}("face", face);
            Look look;
            eachOfLook(look, In(one));
            if (!out.faces.emplace(face, look).second)
                throw Error(fmt::format("says twice what face {} looks like", face));
        }
    }
    return out;
}

/// `[{"number": 1, …}, …]`
template <class T, class F>
std::map<Number, T> listFrom(const nlohmann::json& content, const char* name, F from) {
    std::map<Number, T> out;
    const auto found = content.find(name);
    if (found == content.end()) return out;
    if (!found->is_array()) throw Error(fmt::format("has no list \"{}\"", name));
    for (const auto& one : *found) {
        int number = 0;
        In{one}("number", number);
        if (!out.emplace(number, from(one)).second)
            throw Error(fmt::format("has two of number {} in \"{}\"", number, name));
    }
    return out;
}

template <class T, class F>
Json listOf(const std::map<Number, T>& parts, F json) {
    Json out = Json::array();
    for (const auto& [number, part] : parts) {
        Json one{{"number", number}};
        one.update(json(part));
        out.push_back(std::move(one));
    }
    return out;
}

template <class T>
void different(const std::map<Number, T>& before, const std::map<Number, T>& after,
               std::map<Number, std::optional<T>>& out) {
    for (const auto& [number, part] : before)
        if (!after.contains(number)) out[number] = std::nullopt;
    for (const auto& [number, part] : after)
        if (const auto was = before.find(number); was == before.end() || was->second != part)
            out[number] = part;
}

template <class T>
void exchange(std::map<Number, T>& parts, std::map<Number, std::optional<T>>& wanted) {
    for (auto& [number, one] : wanted) {
        const auto there = parts.find(number);
        std::optional<T> before;
        if (there != parts.end()) before = std::move(there->second);
        if (one)
            parts[number] = std::move(*one);
        else if (there != parts.end())
            parts.erase(there);
        one = std::move(before);
    }
}

} // namespace

Json SolidsDocument::toJson() const {
    return {{"sides", scene.sides},
            {"groups", listOf(scene.groups, [](const Group& g) { return Out::of(g, Group(), ofGroups); })},
            {"solids", listOf(scene.solids, jsonOf)},
            {"lights", listOf(scene.lights, [](const Light& l) { return Out::of(l, Light(), ofLights); })}};
}

std::unique_ptr<Document> SolidsDocument::read(const nlohmann::json& content) {
    auto out = std::make_unique<SolidsDocument>();
    try {
        In{content}("sides", out->scene.sides);
        out->scene.groups = listFrom<Group>(content, "groups", [](const nlohmann::json& one) {
            Group group;
            eachOfGroup(group, In(one));
            return group;
        });
        out->scene.solids = listFrom<Solid>(content, "solids", solidFrom);
        out->scene.lights = listFrom<Light>(content, "lights", [](const nlohmann::json& one) {
            Light light;
            eachOfLight(light, In(one));
            return light;
        });
        demandScene(out->scene);
    } catch (const Error& error) {
        throw Error(error.what(), error.where(), "Restore it from a copy.");
    }
    return out;
}

PicturesBeside picturesBeside(const Scene& scene, const fs::path& folder, const Progress& progress) {
    PicturesBeside out;
    for (const std::string& name : picturesOf(scene)) {
        progress.checkCancel();
        out.files.push_back(folder / fs::path(name).relative_path());
        try {
            const files::SourceFile source(files::addressOf(out.files.back()), progress);
            out.pictures[name] = texture::pictureFromBytes(out.files.back().filename().string(),
                                                           std::string(source.bytes().text()));
        } catch (const Error& error) {
            out.warnings.push_back(name + ": " + error.what());
        }
    }
    return out;
}

Model SolidsDocument::model(const fs::path& folder, const Progress& progress) const {
    PicturesBeside beside = picturesBeside(scene, folder, progress);
    Model out = modelOf(scene, "solids", beside.pictures);
    out.files = std::move(beside.files);
    out.warnings.insert(out.warnings.end(), beside.warnings.begin(), beside.warnings.end());
    return out;
}

SceneParts SceneParts::between(const Scene& before, const Scene& after) {
    SceneParts out;
    different(before.solids, after.solids, out.solids);
    different(before.groups, after.groups, out.groups);
    different(before.lights, after.lights, out.lights);
    if (before.sides != after.sides) out.sides = after.sides;
    return out;
}

void SolidsChange::swap(Scene& scene) {
    exchange(scene.solids, wanted_.solids);
    exchange(scene.groups, wanted_.groups);
    exchange(scene.lights, wanted_.lights);
    if (wanted_.sides) std::swap(scene.sides, *wanted_.sides);
}

void SolidsChange::make(Document& document) {
    Scene& scene = static_cast<SolidsDocument&>(document).scene;
    swap(scene);
    try {
        demandScene(scene);
    } catch (const Error&) {
        swap(scene);
        throw;
    }
}

void SolidsChange::takeBack(Document& document) {
    swap(static_cast<SolidsDocument&>(document).scene);
}

} // namespace zl::project
