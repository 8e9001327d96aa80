// An avatar's corners at a moment, as the game works them out.
#include "standins/mirror/figure.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace zl::standins::mirror {

std::map<std::string, float> seenFaces(const Figure& figure, const Doing& doing) {
    auto wanted = doing.faces;
    if (figure.look && !figure.look->byBones) {
        const Look& look = *figure.look;
        wanted[doing.look.x > 0 ? "lookLeft" : "lookRight"] = look.outward.given(std::abs(doing.look.x));
        wanted[doing.look.y > 0 ? "lookUp" : "lookDown"] =
            (doing.look.y > 0 ? look.up : look.down).given(std::abs(doing.look.y));
    }
    std::map<std::string, float> out;
    for (const Face& face : figure.faces) {
        const auto found = wanted.find(face.name);
        const float much = found == wanted.end() ? 0 : std::clamp(found->second, 0.0f, 1.0f);
        out[face.name] = face.binary ? (much > 0.5f ? 1.0f : 0.0f) : much;
    }
    const auto left = [&](const Face& own, std::string Face::*what) {
        float share = 1;
        for (const Face& face : figure.faces) {
            if (&face == &own || out[face.name] <= 0) continue;
            if (face.*what == "block") return 0.0f;
            if (face.*what == "blend") share -= out[face.name];
        }
        return std::max(share, 0.0f);
    };
    auto seen = out;
    for (const Face& face : figure.faces) {
        if (!face.preset) continue;
        const std::string& n = face.name;
        if (n.starts_with("blink")) seen[n] = out[n] * left(face, &Face::blink);
        if (n.starts_with("look")) seen[n] = out[n] * left(face, &Face::look);
        if (n == "aa" || n == "ih" || n == "ou" || n == "ee" || n == "oh")
            seen[n] = out[n] * left(face, &Face::mouth);
    }
    return seen;
}

std::vector<glm::mat4> standing(const Figure& figure, const Doing& doing) {
    std::vector<glm::mat4> out;
    for (std::size_t n = 0; n < figure.nodes.size(); ++n) {
        const Node& node = figure.nodes[n];
        const auto turned = doing.turns.find(int(n));
        const glm::mat4 local =
            glm::scale(glm::translate(glm::mat4(1), node.place) *
                           glm::mat4_cast(turned == doing.turns.end() ? node.turn : turned->second),
                       node.scale);
        out.push_back(node.above < 0 ? local : out[std::size_t(node.above)] * local);
    }
    return out;
}

world::Shape posed(const Figure& figure, const Part& part, const std::map<std::string, float>& seen,
                   const std::vector<glm::mat4>& world) {
    std::vector<float> weights(part.morphs.size(), 0);
    for (const Face& face : figure.faces) {
        const auto much = seen.find(face.name);
        if (much == seen.end() || much->second <= 0) continue;
        for (const Face::Morph& bind : face.morphs)
            if (bind.node == part.node && bind.index < weights.size())
                weights[bind.index] += much->second * bind.weight;
    }
    world::Shape out;
    out.positions = part.places, out.normals = part.normals, out.uvs = part.uvs, out.indices = part.corners;
    for (std::size_t m = 0; m < weights.size(); ++m) {
        const float w = std::clamp(weights[m], 0.0f, 1.0f);
        if (w <= 0) continue;
        for (std::size_t v = 0; v < out.positions.size(); ++v) out.positions[v] += w * part.morphs[m][v];
    }
    std::vector<glm::mat4> joints;
    if (part.skin >= 0)
        for (const Bind& bind : figure.skins[std::size_t(part.skin)])
            joints.push_back(world[std::size_t(bind.node)] * bind.matrix);
    for (std::size_t v = 0; v < out.positions.size(); ++v) {
        glm::mat4 matrix = world[std::size_t(part.node)];
        if (part.skin >= 0) {
            matrix = glm::mat4(0);
            float sum = 0;
            for (int k = 0; k < 4; ++k)
                if (const float w = part.weights[v][k]; w > 0)
                    matrix += w * joints[part.joints[v][k]], sum += w;
            matrix = sum > 0 ? matrix / sum : glm::mat4(1);
        }
        out.positions[v] = glm::vec3(matrix * glm::vec4(out.positions[v], 1));
        if (v < out.normals.size()) {
            const glm::vec3 n = glm::mat3(matrix) * out.normals[v];
            out.normals[v] = glm::length(n) > 1e-9f ? glm::normalize(n) : glm::vec3(0, 1, 0);
        }
    }
    world::addMissingNormals(out);
    return out;
}

} // namespace zl::standins::mirror
