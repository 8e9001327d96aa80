#include "core/solids/lit_scene.h"

#include "core/solids/scene_fields.h"
#include "core/texture/worn_look.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::solids {

namespace {

constexpr double flatness = 1e-6; ///< of the cosine between normals of a flat face

/// Whether every line between two of its points stays inside.
bool isConvex(const Shape& shape) {
    const bool turned = shape.kind == Kind::Tube || shape.kind == Kind::Ring;
    return !turned && shape.hollow <= 0 && shape.gap <= 0 && shape.twist == 0;
}

/// Whether a box that goes in even steps from one to another comes across [-half, half].
bool comesAcross(const Lamplight::Box& from, const Lamplight::Box& to, const glm::dvec3& half) {
    double first = 0, last = 1;
    // a + t (b - a) <= limit
    const auto below = [&](double a, double b, double limit) {
        const double rise = b - a;
        if (rise == 0) {
            if (a > limit) last = -1;
        } else if (rise > 0)
            last = std::min(last, (limit - a) / rise);
        else
            first = std::max(first, (limit - a) / rise);
    };
    for (int k = 0; k < 3; ++k) {
        below(from.least[k], to.least[k], half[k]);
        below(-from.most[k], -to.most[k], half[k]);
    }
    return first <= last;
}

Lamplight::Box boxIn(const glm::dmat4& space, const Lamplight::Box& box) {
    const glm::dvec3 middle = (box.least + box.most) / 2.0, half = (box.most - box.least) / 2.0;
    const glm::dvec3 at(space * glm::dvec4(middle, 1));
    const glm::dmat3 turn(space);
    const glm::dvec3 wide =
        glm::abs(turn[0]) * half.x + glm::abs(turn[1]) * half.y + glm::abs(turn[2]) * half.z;
    return {at - wide, at + wide};
}

glm::vec3 meanColour(const Model& model, int material) {
    if (material < 0) return glm::vec3(0.8f);
    const Material& worn = model.materials[std::size_t(material)];
    texture::WornLook look(worn, model);
    if (!look.hasPictures()) return glm::vec3(worn.baseColour);
    constexpr int steps = 16;
    look.decode(glm::dvec2(steps));
    glm::vec3 sum(0);
    for (int y = 0; y < steps; ++y)
        for (int x = 0; x < steps; ++x)
            sum += glm::vec3(look.colour((glm::vec2(x, y) + 0.5f) / float(steps)));
    return sum / float(steps * steps);
}

template <class T>
std::string wordOf(const T& value) {
    if constexpr (Named<T>)
        return std::string(nameOf(value));
    else if constexpr (requires { value.length(), value[0]; } && !std::is_same_v<T, std::string>) {
        std::string out;
        for (int k = 0; k < T::length(); ++k) out += fmt::format("{} ", value[k]);
        return out;
    } else
        return fmt::format("{}", value);
}

/// The pictures' bytes, as their names stay when their files are written anew.
Hash keyOfPictures(const Model& model) {
    Hash key = 0;
    for (const auto& image : model.images)
        key = image->pixels ? hashBytes(image->pixels->rgba.data(), image->pixels->rgba.size(), key)
                            : hashText(image->encoded, key);
    return key;
}

/// What is seen of a solid; its name and group are not.
Hash keyOfSolid(const Solid& solid, int sides, const Model& model, const Mesh& mesh, Hash pictures) {
    std::string words = fmt::format("{} {} {} ", sides, wordOf(solid.at), wordOf(solid.turn));
    const auto add = [&](std::string_view, const auto& field) { words += wordOf(field) + ";"; };
    eachOfShape(solid.shape, add);
    eachOfLook(solid.look, add);
    for (const auto& [face, look] : solid.faces)
        words += fmt::format("face {} ", face), eachOfLook(look, add);
    // As steps have left its materials, which need not be as its looks say any more.
    for (const MaterialRun& run : mesh.runs) {
        if (run.material < 0) continue;
        const Material& worn = model.materials[std::size_t(run.material)];
        const PictureUse& colour = worn.picture(PictureRole::Colour);
        words += fmt::format("{}{} {} {}{}{};", wordOf(worn.baseColour), colour.image,
                             wordOf(colour.placement.offset), wordOf(colour.placement.scale),
                             colour.placement.turn, int(colour.channel));
    }
    return hashText(words, pictures);
}

} // namespace

LitScene::LitScene(const Model& model, const Shown& shown) : shown_(shown) {
    const Hash pictures = keyOfPictures(model);
    glm::dvec3 least(1e30), most(-1e30);
    for (std::size_t p = 0; p < shown.parts.size(); ++p) {
        const Part& part = shown.parts[p];
        const Solid& solid = shown.scene.solids.at(part.solid);
        Body body;
        body.place = solids::placeOf(solid.at, solid.turn);
        body.back = glm::inverse(body.place);
        body.convex = isConvex(solid.shape);
        body.key = keyOfSolid(solid, shown.scene.sides, model, *part.mesh, pictures);
        Mesh placed = *part.mesh;
        const glm::dmat3 turn(body.place);
        body.least = glm::dvec3(1e30), body.most = glm::dvec3(-1e30);
        for (std::size_t i = 0; i < placed.positions.size(); ++i) {
            const glm::dvec3 own(placed.positions[i]);
            body.half = glm::max(body.half, glm::abs(own));
            const glm::dvec3 at(body.place * glm::dvec4(own, 1));
            body.least = glm::min(body.least, at), body.most = glm::max(body.most, at);
            placed.positions[i] = glm::vec3(at);
            placed.normals[i] = glm::vec3(turn * glm::dvec3(placed.normals[i]));
        }
        least = glm::min(least, body.least), most = glm::max(most, body.most);
        body.opaque = false;
        for (const int face : part.faces) body.opaque |= solid.lookOf(face).stuff != Stuff::Glass;
        if (body.opaque) opaque_.push_back(p);
        bodies_.push_back(body);
        addFaces(model, p, placed);
    }
    size_ = std::max(1e-3, glm::length(most - least));
    for (const auto& [number, light] : shown.scene.lights)
        if (light.strength > 0) lights_.emplace_back(light);
    rays_ = std::make_unique<geometry::RayScene>(whole_);
}

void LitScene::addFaces(const Model& model, std::size_t part, const Mesh& placed) {
    const Part& own = shown_.parts[part];
    const Solid& solid = shown_.scene.solids.at(own.solid);
    const auto base = std::uint32_t(whole_.positions.size());
    whole_.positions.insert(whole_.positions.end(), placed.positions.begin(), placed.positions.end());
    if (whole_.uvSets.empty()) whole_.uvSets.emplace_back();
    whole_.uvSets[0].insert(whole_.uvSets[0].end(), placed.uvSets[0].begin(), placed.uvSets[0].end());
    for (std::size_t r = 0; r < placed.runs.size(); ++r) {
        const MaterialRun& run = placed.runs[r];
        LitFace face;
        face.part = part, face.run = r, face.face = own.faces[r];
        face.least = glm::dvec3(1e30), face.most = glm::dvec3(-1e30);
        const Look& look = solid.lookOf(face.face);
        face.albedo = meanColour(model, run.material);
        face.glow = face.albedo * look.glow;
        face.flat = true;
        const bool inTheWay = look.stuff != Stuff::Glass;
        for (std::uint32_t t = run.firstTriangle; t < run.firstTriangle + run.triangleCount; ++t) {
            const std::uint32_t* c = &placed.indices[3 * std::size_t(t)];
            glm::dvec3 p[3];
            for (int k = 0; k < 3; ++k) {
                p[k] = glm::dvec3(placed.positions[c[k]]);
                face.least = glm::min(face.least, p[k]), face.most = glm::max(face.most, p[k]);
                if (inTheWay) whole_.indices.push_back(base + c[k]);
            }
            if (inTheWay) faceOf_.push_back(int(faces_.size()));
            const glm::dvec3 twice = glm::cross(p[1] - p[0], p[2] - p[0]);
            const double length = glm::length(twice);
            face.area += length / 2;
            if (!(length > 0)) continue;
            if (face.normal == glm::dvec3(0))
                face.normal = twice / length, face.plane = glm::dot(face.normal, p[0]);
            face.flat &= glm::dot(face.normal, twice / length) > 1 - flatness;
        }
        faces_.push_back(face);
    }
}

LitScene::Hit LitScene::hit(const glm::vec3& from, const glm::vec3& towards) const {
    const auto found = rays_->hit(from, towards);
    if (!found) return {};
    Hit out{-2, {}, from + towards * found->distance};
    if (glm::dot(found->normal, towards) >= 0) return out;
    const std::uint32_t* c = &whole_.indices[3 * std::size_t(found->triangle)];
    const auto& uvs = whole_.uvSets[0];
    out.face = faceOf_[found->triangle];
    out.uv = uvs[c[0]] * (1 - found->u - found->v) + uvs[c[1]] * found->u + uvs[c[2]] * found->v;
    return out;
}

std::vector<std::size_t> LitScene::between(const LitFace& face, const Lamplight::Box& places,
                                           const Lamplight& light,
                                           const std::vector<std::size_t>& among) const {
    const Lamplight::Box far = light.boxFrom(places, size_);
    std::vector<std::size_t> out;
    for (const std::size_t p : among) {
        const Body& body = bodies_[p];
        if (p == face.part && body.convex) continue;
        if (face.flat) {
            const double highest = glm::dot(face.normal, glm::dvec3(body.place[3])) +
                                   glm::dot(glm::abs(glm::dmat3(body.back) * face.normal), body.half);
            constexpr double touching = 1e-6;               // metres
            if (highest <= face.plane + touching) continue; // wholly behind it
        }
        if (comesAcross(boxIn(body.back, places), boxIn(body.back, far), body.half * (1 + 1e-9) + 1e-9))
            out.push_back(p);
    }
    return out;
}

bool LitScene::stands(std::size_t onPart, const Lamplight::Box& box) const {
    for (const std::size_t p : opaque_) {
        const Body& body = bodies_[p];
        if (p == onPart && body.convex) continue;
        if (comesAcross(boxIn(body.back, box), boxIn(body.back, box), body.half)) return true;
    }
    return false;
}

float LitScene::above(const glm::vec3& at) const {
    const float far = std::max({std::abs(at.x), std::abs(at.y), std::abs(at.z), 1.0f});
    return 4e-6f * far;
}

double LitScene::shareSeen(const LitFace& face, std::size_t part) const {
    const Body& body = bodies_[part];
    const glm::dvec3 gap = glm::max(glm::dvec3(0), glm::max(body.least - face.most, face.least - body.most));
    const glm::dvec3 half = (body.most - body.least) / 2.0;
    const double d2 = glm::dot(gap, gap), r2 = glm::dot(half, half);
    return d2 <= 0 ? 1 : std::min(1.0, r2 / (d2 + r2));
}

} // namespace zl::solids
