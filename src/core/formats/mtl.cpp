#include "core/formats/mtl.h"

#include "core/base/error.h"
#include "core/base/letters.h"
#include "core/formats/picture_beside.h"
#include "core/formats/text.h"
#include "core/texture/colour_transfer.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

namespace zl::formats {

namespace {

/// How many arguments an option of a picture statement takes.
int optionArguments(std::string_view option) {
    if (option == "-o" || option == "-s" || option == "-t") return 3;
    if (option == "-mm") return 2;
    return 1;
}

/// The letters of -imfchan; "l" is how bright a pixel is and "z" how far, for which the mean stands here.
PictureChannel channelNamed(std::string_view letter) {
    if (letter == "r") return PictureChannel::Red;
    if (letter == "g") return PictureChannel::Green;
    if (letter == "b") return PictureChannel::Blue;
    if (letter == "m") return PictureChannel::Alpha;
    return PictureChannel::Colour;
}

/// The role of a statement's picture; the last three are later extensions that many programs write.
std::optional<PictureRole> roleOf(std::string_view key) {
    static constexpr std::pair<std::string_view, PictureRole> roles[] = {
        {"map_kd", PictureRole::Colour},    {"map_d", PictureRole::Opacity},
        {"norm", PictureRole::Normal},      {"map_kn", PictureRole::Normal},
        {"map_bump", PictureRole::Height},  {"bump", PictureRole::Height},
        {"map_ks", PictureRole::Specular},  {"map_ke", PictureRole::Emission},
        {"map_pr", PictureRole::Roughness}, {"map_pm", PictureRole::Metalness}};
    for (const auto& [word, role] : roles)
        if (word == key) return role;
    return std::nullopt;
}

} // namespace

void MaterialLibrary::load(const std::string& names) {
    if (!asked_.insert(names).second) return; // named again by another object
    // The whole line is one name first, and several when there is no such file.
    if (const auto whole = source_.beside(names)) return read(*whole);
    Scanner scan(names);
    while (!scan.atEnd()) {
        scan.skipSpace();
        const std::string name(scan.word());
        if (name.empty()) break;
        if (const auto file = source_.beside(name))
            read(*file);
        else
            model_.warnings.push_back(
                fmt::format("the material file \"{}\" is missing; put it beside the model", name));
    }
}

PictureUse MaterialLibrary::picture(std::string_view argument) {
    Scanner scan(argument);
    glm::vec3 scale(1), offset(0);
    PictureUse use;
    while (scan.peek() == '-') {
        const std::string_view option = scan.word();
        glm::vec3* values = option == "-s" ? &scale : option == "-o" ? &offset : nullptr;
        for (int k = 0; k < optionArguments(option); ++k) {
            scan.skipBlanks();
            if (float value = 0; values && scan.number(value)) {
                if (std::isfinite(value)) (*values)[k] = value;
            } else if (values) {
                break; // its second and third number may be left out
            } else {
                const std::string_view word = scan.word();
                if (option == "-imfchan") use.channel = channelNamed(word);
                if (option == "-clamp" && word == "on") use.sampler.across = use.sampler.down = Beyond::Clamp;
            }
        }
        scan.skipBlanks();
    }
    // MTL counts from the bottom, a placement from the top.
    use.placement.scale = {scale.x, scale.y};
    use.placement.offset = {offset.x, 1 - scale.y - offset.y};
    use.image = pictureFile(std::string(scan.restOfLine()));
    return use;
}

int MaterialLibrary::pictureFile(const std::string& name) {
    if (const auto known = pictures_.find(name); known != pictures_.end()) return known->second;
    int index = -1;
    const auto file = source_.beside(name);
    if (!file) {
        model_.warnings.push_back(
            fmt::format("the picture \"{}\" is missing; put it beside the model", name));
    } else {
        try {
            model_.images.push_back(pictureBeside(source_, *file));
            index = static_cast<int>(model_.images.size()) - 1;
        } catch (const Error& error) {
            model_.warnings.push_back("the picture " + error.sentence());
        }
    }
    pictures_[name] = index;
    return index;
}

void MaterialLibrary::read(const files::SourceFile::Beside& file) {
    if (!loaded_.insert(file.path).second) return;
    const FileBytes bytes = source_.bytes(file);
    std::string storage;
    Scanner scan(textOf(bytes, storage));
    Material* material = nullptr;
    const auto number = [&](float fallback) {
        scan.skipBlanks();
        float value = fallback;
        scan.number(value);
        return std::isfinite(value) ? value : fallback;
    };
    while (!scan.atEnd()) {
        scan.skipSpace();
        const std::string key = lowerCase(scan.word());
        if (key == "newmtl") {
            const std::string name(scan.restOfLine());
            material = &known_[name];
            *material = Material{};
            material->name = name;
        } else if (material == nullptr) {
            // Lines before the first material mean nothing.
        } else if (key == "kd") {
            for (int k = 0; k < 3; ++k)
                material->baseColour[k] =
                    texture::fromSrgb(std::clamp(number(0.8f), 0.0f, 1.0f)); // as meant commonly
        } else if (key == "ke") {
            for (int k = 0; k < 3; ++k) material->emission[k] = std::max(0.0f, number(0));
        } else if (key == "d") {
            material->baseColour.a = std::clamp(number(1), 0.0f, 1.0f);
        } else if (key == "tr") {
            material->baseColour.a = 1 - std::clamp(number(0), 0.0f, 1.0f);
        } else if (key == "ns") {
            material->roughness = std::sqrt(2 / (std::max(0.0f, number(10)) + 2)); // Blinn–Phong lobe width
        } else if (key == "pr") {
            material->roughness = std::clamp(number(0.7f), 0.0f, 1.0f);
        } else if (key == "pm") {
            material->metalness = std::clamp(number(0), 0.0f, 1.0f);
        } else if (const auto role = roleOf(key)) {
            if (const PictureUse use = picture(scan.restOfLine()))
                material->wear(*role, use);
            else
                material->picture(*role) = {};
        }
        scan.skipLine();
    }
}

int MaterialLibrary::use(const std::string& name) {
    if (const auto found = used_.find(name); found != used_.end()) return found->second;
    Material material;
    if (const auto found = known_.find(name); found != known_.end())
        material = found->second;
    else
        model_.warnings.push_back(
            fmt::format("the material \"{}\" is described nowhere; it is shown plain", name));
    material.name = name;
    model_.materials.push_back(material);
    return used_[name] = static_cast<int>(model_.materials.size()) - 1;
}

} // namespace zl::formats
