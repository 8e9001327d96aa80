// Rules about pictures as they are delivered: kind, names and memory; whether what repeats tiles; and whether
// relief lies where a game can show it.
#include "core/platform/rules/all_rules.h"

#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/base/utf8.h"
#include "core/base/words.h"
#include "core/platform/delivered_pictures.h"
#include "core/platform/name_pattern.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"
#include "core/texture/tiling.h"
#include "core/uv/relief.h"

#include <fmt/format.h>
#include <glm/trigonometric.hpp>

#include <algorithm>
#include <map>

namespace zl::platform {

namespace {

/// A finding of so many pictures that are not as they should be; the first is told of.
Finding pictureFinding(const std::vector<std::string>& wrong, std::vector<int> materials,
                       const std::string& fine) {
    Finding finding;
    finding.value = double(wrong.size());
    finding.holds = wrong.empty();
    finding.canBeTight = false;
    finding.measured = wrong.empty() ? "all" : fmt::format("{} not", wrong.size());
    finding.note = wrong.empty() ? fine : showNames(wrong);
    finding.materials = std::move(materials);
    return finding;
}

/// The used materials by the pictures that they wear.
std::map<int, std::vector<int>> wearersOf(const Model& model) {
    std::map<int, std::vector<int>> out;
    for (const int m : usedMaterials(model))
        for (const PictureUse& use :
             m >= 0 ? model.materials[std::size_t(m)].pictures : decltype(Material::pictures){})
            if (use && (out[use.image].empty() || out[use.image].back() != m)) out[use.image].push_back(m);
    return out;
}

/// Along which axes a material's pictures stand more than once on what wears it.
std::map<int, glm::bvec2> repeatingAxes(const Measures& m) {
    std::map<int, glm::bvec2> out;
    for (const uv::UvFace& face : m.uvFaces().faces) {
        if (face.material < 0) continue;
        glm::bvec2& repeats = out.try_emplace(face.material, false).first->second;
        for (const glm::vec2& at : face.at)
            for (int axis = 0; axis < 2; ++axis)
                if (at[axis] < -0.01f || at[axis] > 1.01f) repeats[axis] = true;
    }
    return out;
}

} // namespace

Finding measurePictureFormat(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const auto wanted = patternsFrom(rule.texts.at("formats"));
    const auto isWanted = [&](const std::string& format) { // several lines write one kind of file
        return std::ranges::any_of(wanted, [&](const std::string& id) {
            return texture::pictureFormat(id).extension == texture::pictureFormat(format).extension;
        });
    };
    const auto wearers = wearersOf(m.model());
    std::vector<std::string> wrong;
    std::vector<int> materials;
    for (const DeliveredPicture& picture : deliveredPictures(m.model(), sheet)) {
        if (isWanted(picture.format)) continue;
        wrong.push_back(
            fmt::format("\"{}\" is {}", picture.name, texture::pictureFormat(picture.format).name));
        if (picture.material >= 0) materials.push_back(picture.material);
        if (const auto worn = wearers.find(picture.image); worn != wearers.end())
            materials.insert(materials.end(), worn->second.begin(), worn->second.end());
    }
    Finding finding = pictureFinding(wrong, std::move(materials), "Every picture is of a kind that is read");
    finding.limit = inARow(wanted, [](const std::string& id) { return texture::pictureFormat(id).name; });
    return finding;
}

Finding measureFileNames(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const NamePattern allowed(rule.texts.at("pattern"));
    const auto wearers = wearersOf(m.model());
    std::vector<std::string> wrong;
    std::vector<int> materials;
    for (const DeliveredPicture& picture : deliveredPictures(m.model(), sheet)) {
        const std::string name = picture.name.substr(0, picture.name.rfind('.'));
        if (name.size() <= 256 && allowed.matches(name)) continue;
        wrong.push_back(fmt::format("\"{}\"", shortened(name, 57)));
        if (picture.material >= 0) materials.push_back(picture.material);
        if (const auto worn = wearers.find(picture.image); worn != wearers.end())
            materials.insert(materials.end(), worn->second.begin(), worn->second.end());
    }
    Finding finding =
        pictureFinding(wrong, std::move(materials), "All pictures are named as the platform reads them");
    if (!finding.holds) finding.note += " cannot be a file's name there";
    finding.limit = rule.texts.at("wanted");
    return finding;
}

Finding measureTextureMemory(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    double bytes = 0;
    const DeliveredPicture* largest = nullptr;
    const auto pictures = deliveredPictures(m.model(), sheet);
    for (const DeliveredPicture& picture : pictures) {
        bytes += picture.memory();
        if (!largest || picture.memory() > largest->memory()) largest = &picture;
    }
    Finding finding = atMostBytes(bytes, rule.limit("most-megabytes", 0) * 1e6);
    finding.note =
        largest ? fmt::format(
                      "{} take {} on a graphics card with their smaller levels; most takes \"{}\", {} × {}",
                      showCount(long(pictures.size()), "picture", "pictures"), showBytes(bytes),
                      largest->name, largest->size.x, largest->size.y)
                : "No picture is used";
    return finding;
}

Finding measureTiles(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const Model& model = m.model();
    const double most = rule.limit("most", texture::visibleSeam);
    std::vector<std::string> wrong;
    std::vector<int> materials;
    double worst = 0;
    for (const auto& [index, axes] : repeatingAxes(m)) {
        if (!axes.x && !axes.y) continue;
        bool seen = false;
        std::vector<int> looked;
        for (const PictureUse& use : model.materials[std::size_t(index)].pictures) {
            if (!use || std::ranges::find(looked, use.image) != looked.end()) continue;
            looked.push_back(use.image);
            try {
                const auto& image = model.images[std::size_t(use.image)];
                const texture::Tiling tiling = texture::tilingOf(*texture::pixelsOf(image));
                const double seam =
                    std::max(axes.x && use.sampler.across == Beyond::Repeat ? tiling.across.seam() : 0.0,
                             axes.y && use.sampler.down == Beyond::Repeat ? tiling.down.seam() : 0.0);
                worst = std::max(worst, seam);
                if (seam <= most) continue;
                wrong.push_back(fmt::format("\"{}\" shows where it ends: {} of 255 apart there", image->name,
                                            showNumber(seam, 1)));
                seen = true;
            } catch (const Error&) {
                continue; // a broken picture is its reader's to complain about
            }
        }
        if (seen) materials.push_back(index);
    }
    Finding finding =
        pictureFinding(wrong, std::move(materials), "Every picture that repeats goes on where it ends");
    finding.value = worst;
    finding.limit = "all that repeat";
    return finding;
}

Finding measureReliefOnCurves(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0);
    const uv::Relief relief = uv::reliefOf(m.model(), m.uvFaces(), glm::radians(rule.limit("bend", 60)));
    Finding finding;
    finding.value = 100 * relief.onCurves;
    finding.holds = finding.value <= most;
    finding.share = most > 0 ? finding.value / most : 0;
    finding.canBeTight = relief.onCurves > 0;
    finding.measured = relief.any ? fmt::format("{} %", showNumber(finding.value, 0)) : "no height";
    finding.limit = fmt::format("of {} %", showNumber(most, 0));
    finding.note = !relief.any ? "No material has a height picture"
                               : fmt::format("{} % of the relief lies on faces that curve, where it swims",
                                             showNumber(finding.value, 0));
    for (const std::uint32_t f : relief.faces)
        finding.faces.push_back({m.uvFaces().faces[f].node, m.uvFaces().faces[f].triangle});
    return finding;
}

} // namespace zl::platform
