#include "core/model/take_materials.h"

#include <algorithm>
#include <filesystem>

namespace zl {

namespace {

/// A name that none of `things` has: with a number before its ending.
template <class Things, class NameOf>
std::string freeName(const Things& things, const std::string& wanted, const NameOf& nameOf) {
    const auto taken = [&](const std::string& name) {
        return std::ranges::any_of(things, [&](const auto& thing) { return nameOf(thing) == name; });
    };
    const std::filesystem::path path(wanted);
    std::string name = wanted;
    for (int n = 2; taken(name); ++n)
        name = path.stem().string() + "-" + std::to_string(n) + path.extension().string();
    return name;
}

bool sameBytes(const Image& a, const Image& b) {
    if (a.encoded != b.encoded) return false;
    return !a.encoded.empty() || (a.pixels && b.pixels && a.pixels->rgba == b.pixels->rgba);
}

} // namespace

int MaterialsInto::image(int of) {
    images_.resize(from_.images.size(), -1);
    int& known = images_[std::size_t(of)];
    if (known >= 0) return known;
    const Image& picture = *from_.images[std::size_t(of)];
    for (std::size_t i = 0; i < to_.images.size(); ++i)
        if (sameBytes(*to_.images[i], picture)) return known = int(i);
    auto own = std::make_shared<Image>(picture);
    own->name = freeName(to_.images, picture.name, [](const auto& image) { return image->name; });
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
    own.name = freeName(to_.materials, was, [](const Material& material) { return material.name; });
    if (own.name != was) renamed_.push_back(was + " → " + own.name);
    to_.materials.push_back(std::move(own));
    return known = int(to_.materials.size()) - 1;
}

} // namespace zl
