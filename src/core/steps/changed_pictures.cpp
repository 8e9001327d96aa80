#include "core/steps/changed_pictures.h"

#include "core/base/pattern.h"

#include <map>

namespace zl::steps {

int changePictures(Model& model, const PartNames& of, RolesMeant roles, const Progress& progress,
                   const PictureChange& change) {
    const NamePatterns wanted(of.patterns);
    struct Made {
        int image;
        bool changed;
    };
    std::map<std::pair<int, texture::PixelKind>, Made> made;
    bool any = false;
    std::size_t done = 0;
    for (Material& material : model.materials) {
        progress.report(double(done++) / double(model.materials.size()), "changing pictures");
        if (!wanted.match(material.name)) continue;
        any = true;
        for (const PictureRole role : allPictureRoles) {
            PictureUse& use = material.picture(role);
            if (!use || (roles != RolesMeant::Every && std::size_t(roles) != std::size_t(role) + 1)) continue;
            // Opacity in a colour picture's fourth channel goes with the colours.
            const bool withColour = role == PictureRole::Opacity && use.channel == PictureChannel::Alpha;
            const auto kind = withColour ? texture::PixelKind::Colours : texture::pixelKindOf(role);
            const auto [entry, fresh] = made.try_emplace({use.image, kind}, Made{use.image, false});
            if (fresh) {
                auto picture = change(model.images[std::size_t(use.image)], kind);
                if (picture) {
                    entry->second = {int(model.images.size()), true};
                    model.images.push_back(std::move(picture));
                }
            }
            use.image = entry->second.image;
        }
    }
    if (!any && !of.patterns.empty())
        throw Error(fmt::format("no material is called \"{}\"", patternsText(of.patterns)), {},
                    "Choose among the model's materials.");
    return int(std::ranges::count_if(made, [](const auto& entry) { return entry.second.changed; }));
}

} // namespace zl::steps
