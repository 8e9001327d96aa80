// A kart's corners at a moment of a clip.
#include "standins/track/kart.h"

#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <algorithm>

namespace zl::standins::track {

namespace {

glm::vec4 valueAt(const Track& track, float seconds) {
    const auto after = std::ranges::upper_bound(track.seconds, seconds);
    if (after == track.seconds.begin()) return track.values.front();
    const auto k = std::size_t(after - track.seconds.begin());
    if (k == track.seconds.size()) return track.values.back();
    const float t = (seconds - track.seconds[k - 1]) / (track.seconds[k] - track.seconds[k - 1]);
    const glm::vec4 a = track.values[k - 1], b = track.values[k];
    if (track.of != Track::Of::Turn) return glm::mix(a, b, t);
    const glm::quat q = glm::slerp(glm::quat(a.w, a.x, a.y, a.z), glm::quat(b.w, b.x, b.y, b.z), t);
    return {q.x, q.y, q.z, q.w};
}

std::vector<glm::mat4> worldAt(const Kart& kart, int clip, float seconds) {
    std::vector<glm::mat4> local;
    for (const Bone& bone : kart.bones) local.push_back(bone.local);
    if (clip >= 0) {
        struct Moved {
            glm::vec3 place, scale;
            glm::quat turn;
            bool any = false;
        };
        std::vector<Moved> moved(local.size());
        for (const Track& track : kart.clips[std::size_t(clip)].tracks) {
            const auto b = std::size_t(track.bone);
            Moved& to = moved[b];
            if (!to.any) {
                const glm::mat4& m = local[b];
                to.scale = {glm::length(glm::vec3(m[0])), glm::length(glm::vec3(m[1])),
                            glm::length(glm::vec3(m[2]))};
                const glm::vec3 safe = glm::max(to.scale, glm::vec3(1e-12f));
                to.turn = glm::quat_cast(
                    glm::mat3(glm::vec3(m[0]) / safe.x, glm::vec3(m[1]) / safe.y, glm::vec3(m[2]) / safe.z));
                to.place = glm::vec3(m[3]), to.any = true;
            }
            const glm::vec4 v = valueAt(track, seconds);
            if (track.of == Track::Of::Place) to.place = glm::vec3(v);
            if (track.of == Track::Of::Scale) to.scale = glm::vec3(v);
            const glm::quat turn(v.w, v.x, v.y, v.z);
            if (track.of == Track::Of::Turn && glm::dot(turn, turn) > 1e-12f) to.turn = glm::normalize(turn);
        }
        for (std::size_t b = 0; b < local.size(); ++b)
            if (moved[b].any)
                local[b] =
                    glm::scale(glm::translate(glm::mat4(1), moved[b].place) * glm::mat4_cast(moved[b].turn),
                               moved[b].scale);
    }
    for (std::size_t b = 0; b < local.size(); ++b)
        if (kart.bones[b].above >= 0) local[b] = local[std::size_t(kart.bones[b].above)] * local[b];
    return local;
}

} // namespace

world::Shape posed(const Kart& kart, const Part& part, const Part::Run& run, int clip, float seconds) {
    const auto world = worldAt(kart, clip, seconds);
    world::Shape out;
    std::vector<int> numbers(part.places.size(), -1);
    for (const std::uint16_t corner : run.corners) {
        if (numbers[corner] < 0) {
            numbers[corner] = int(out.positions.size());
            glm::mat4 matrix = world[std::size_t(part.bone)];
            if (part.skin >= 0) {
                glm::mat4 sum(0.0f);
                float weight = 0;
                for (int k = 0; k < 4; ++k) {
                    const float w = float(part.weights[corner][k]) / 255;
                    if (w <= 0) continue;
                    const Bind& bind = kart.skins[std::size_t(part.skin)][part.joints[corner][k]];
                    sum += w * (world[std::size_t(bind.bone)] * bind.matrix), weight += w;
                }
                if (weight > 0) matrix = sum / weight;
            }
            out.positions.push_back(kart.unitsPerMetre *
                                    glm::vec3(matrix * glm::vec4(part.places[corner], 1)));
            const glm::vec3 normal = glm::mat3(matrix) * part.normals[corner];
            out.normals.push_back(glm::length(normal) > 1e-9f ? glm::normalize(normal) : glm::vec3(0, 1, 0));
            out.uvs.push_back(part.uvs[corner]);
        }
        out.indices.push_back(std::uint32_t(numbers[corner]));
    }
    return out;
}

} // namespace zl::standins::track
