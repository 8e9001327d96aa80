#include "core/steps/set_pictures.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/model/clothe_bare.h"

#include <algorithm>
#include <filesystem>

namespace zl::steps {

Model SetPictures::apply(const Model& in, StepContext& context) const {
    Model out = in;
    std::vector<std::string> gone; // names that an earlier export of the file had, say
    bool any = false;
    for (const Picture& row : pictures) {
        if (row.picture.name.empty()) continue;
        const NamePatterns wanted(row.of.patterns);
        const bool is =
            std::ranges::any_of(out.materials, [&](const Material& m) { return wanted.match(m.name); });
        if (!is && !row.of.patterns.empty()) {
            gone.push_back(patternsText(row.of.patterns));
            continue;
        }
        any = true;
        const PictureUse use{.image = context.imageIn(out, row.picture), .channel = row.channel};
        const std::string& name = out.images[std::size_t(use.image)]->name;
        if (row.of.patterns.empty()) clotheBare(out, std::filesystem::path(name).stem().string());
        int worn = 0;
        for (Material& material : out.materials) {
            if (!wanted.match(material.name)) continue;
            PictureUse own = use;
            if (const PictureUse* lies = material.leading())
                own.uvSet = lies->uvSet, own.placement = lies->placement, own.sampler = lies->sampler;
            material.wear(row.role, own);
            ++worn;
        }
        if (worn == 0) throw Error("the model has no material", name, "Choose among the model's materials.");
        context.note(fmt::format("{} is the {} of {}", name, roleName(row.role),
                                 showCount(worn, "material", "materials")));
    }
    if (!gone.empty() && !any)
        throw Error(fmt::format("no material is called \"{}\"", gone.front()), {},
                    "Choose among the model's materials.");
    if (!gone.empty())
        context.fellShort("gone, their pictures kept for when they are back: " + showNames(gone));
    const bool binds = std::ranges::any_of(pictures, [](const Picture& row) {
        return row.role == PictureRole::Colour && !row.of.patterns.empty();
    });
    std::vector<std::string> bare; // came with another export of the file, say
    for (const int m : binds ? usedMaterials(out) : std::vector<int>())
        if (m >= 0 && out.materials[std::size_t(m)].image(PictureRole::Colour) < 0)
            bare.push_back(out.materials[std::size_t(m)].name);
    if (!bare.empty()) context.note("no picture yet on " + showNames(bare));
    for (const auto& mesh : out.meshes)
        if (mesh->uvSets.empty() && !pictures.empty())
            context.note(fmt::format("\"{}\" has no UVs, so it shows no picture", mesh->name));
    return out;
}

} // namespace zl::steps
