#include "core/model/take_materials.h"

#include <algorithm>
#include <filesystem>

namespace zl {

namespace {

bool sameBytes(const Image& a, const Image& b) {
    if (a.encoded != b.encoded) return false;
    return !a.encoded.empty() || (a.pixels && b.pixels && a.pixels->rgba == b.pixels->rgba);
}

} // namespace

MaterialsInto::MaterialsInto(Model& to, const Model& from)
    : to_(to), from_(from), materialNames_(uniqueFileNames()), imageNames_(uniqueFileNames()) {
    for (const Material& material : to.materials) materialNames_.take(material.name);
    for (const auto& image : to.images) imageNames_.take(image->name);
}

int MaterialsInto::image(int of) {
    images_.resize(from_.images.size(), -1);
    int& known = images_[std::size_t(of)];
    if (known >= 0) return known;
    const Image& picture = *from_.images[std::size_t(of)];
    for (std::size_t i = 0; i < to_.images.size(); ++i)
        if (sameBytes(*to_.images[i], picture)) return known = int(i);
    auto own = std::make_shared<Image>(picture);
    own->name = imageNames_.made(picture.name);
    if (own->name != picture.name) renamed_.push_back(picture.name + " → " + own->name);
    to_.images.push_back(std::move(own));
    return known = int(to_.images.size()) - 1;
}

int MaterialsInto::material(int of) {
    if (of < 0) return -1;
    materials_.resize(from_.materials.size(), -1);
    int& known = materials_[std::size_t(of)];
    if (known >= 0) return known;
    Material own = from_.materials[std::size_t(of)];
    for (PictureUse& use : own.pictures)
        if (use) use.image = image(use.image);
    if (const auto same = std::ranges::find(to_.materials, own); same != to_.materials.end())
        return known = int(same - to_.materials.begin());
    const std::string was = own.name;
    own.name = materialNames_.made(was);
    if (own.name != was) renamed_.push_back(was + " → " + own.name);
    to_.materials.push_back(std::move(own));
    return known = int(to_.materials.size()) - 1;
}

} // namespace zl
