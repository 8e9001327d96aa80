#include "measure.h"

#include "core/geometry/world.h"
#include "core/motion/channel_keys.h"
#include "core/motion/posed.h"

#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <cmath>

using namespace zl;

namespace bench {

namespace {

constexpr int bones = 60;

/// A strip of `corners` corners on a chain of bones, each hanging on two.
Model strip(std::uint32_t corners) {
    Model model;
    Mesh mesh;
    for (std::uint32_t v = 0; v < corners; ++v) {
        const float along = float(v) / float(corners) * (bones - 1);
        mesh.positions.emplace_back(float(v % 2), along, 0.1f * std::sin(float(v)));
        mesh.normals.emplace_back(0, 0, 1);
        const int bone = std::min(bones - 2, int(along));
        mesh.joints.emplace_back(bone, bone + 1, 0, 0);
        mesh.weights.emplace_back(1 - (along - float(bone)), along - float(bone), 0, 0);
    }
    for (std::uint32_t v = 0; v + 2 < corners; ++v)
        mesh.indices.insert(mesh.indices.end(), {v, v + 1, v + 2});
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    Skin skin{"rig", {}, {}, 1};
    model.nodes.push_back({"strip", -1, glm::dmat4(1), 0, 0});
    for (int b = 0; b < bones; ++b) {
        model.nodes.push_back(
            {"bone", b == 0 ? -1 : b, glm::translate(glm::dmat4(1), {0.0, b == 0 ? 0.0 : 1.0, 0.0})});
        skin.joints.push_back(b + 1);
        skin.inverseBind.emplace_back(glm::translate(glm::mat4(1), {0, -float(b), 0}));
    }
    model.skins.push_back(skin);
    model.meshes = {std::make_shared<const Mesh>(std::move(mesh))};
    return model;
}

/// Every bone turning smoothly, with a key at each of 30 frames a second.
Clip swaying(double seconds) {
    Clip clip{"waves", {}};
    for (int b = 0; b < bones; ++b) {
        Channel channel{b + 1, Channel::Target::Rotation, Channel::Curve::Linear, {}, {}};
        for (int f = 0; f <= int(30 * seconds); ++f) {
            const float t = float(f) / 30, a = 0.1f * std::sin(t * 2 + float(b)) + 0.02f * std::sin(t * 11);
            channel.times.push_back(t);
            channel.values.insert(channel.values.end(), {std::sin(a / 2), 0, 0, std::cos(a / 2)});
        }
        clip.channels.push_back(std::move(channel));
    }
    return clip;
}

/// What thinning is without its care: each key against the line between its neighbours, by glm.
void slerpsBare(const Clip& clip) {
    float sum = 0;
    for (const Channel& channel : clip.channels)
        for (std::size_t k = 1; k + 1 < channel.times.size(); ++k) {
            const auto at = [&](std::size_t key) {
                const float* v = &channel.values[4 * key];
                return glm::quat(v[3], v[0], v[1], v[2]);
            };
            sum += glm::dot(glm::slerp(at(k - 1), at(k + 1), 0.5f), at(k));
        }
    benchmark::DoNotOptimize(sum);
}

/// One matrix a corner from two of a palette, in single precision, on one core.
void skinBare(const Mesh& mesh, const std::vector<glm::mat4>& palette) {
    std::vector<glm::vec3> out(mesh.vertexCount());
    for (std::size_t v = 0; v < out.size(); ++v)
        out[v] = glm::vec3(
            (palette[mesh.joints[v].x] * mesh.weights[v].x + palette[mesh.joints[v].y] * mesh.weights[v].y) *
            glm::vec4(mesh.positions[v], 1));
    benchmark::DoNotOptimize(out.data());
}

} // namespace

void motionRows() {
    const Clip clip = swaying(600);
    const double thin = middleSeconds([&] {
        for (const Channel& channel : clip.channels)
            benchmark::DoNotOptimize(motion::thinned(channel, motion::KeyTolerance().turn));
    });
    const double slerps = middleSeconds([&] { slerpsBare(clip); });
    fmt::print("| thin the keys of 10 minutes × {} bones | {:.3f} s | {:.3f} s (glm's slerp, one a key) | "
               "{:.2f}× its time | 0.5 s |\n",
               bones, thin, slerps, thin / slerps);
    const Model model = strip(60000);
    Mesh flat = geometry::flattened(model);
    const double skin = middleSeconds([&] {
                            for (int k = 0; k < 10; ++k)
                                motion::poseFlattened(model, motion::posed(model, clip, 0.1 * k), flat);
                        }) /
                        10;
    std::vector<glm::mat4> palette;
    const motion::Pose pose = motion::posed(model, clip, 1);
    for (const glm::dmat4& joint : pose.joints[0]) palette.emplace_back(joint);
    const double bare = middleSeconds([&] {
                            for (int k = 0; k < 10; ++k) skinBare(*model.meshes[0], palette);
                        }) /
                        10;
    fmt::print("| pose 60 000 skinned corners, with normals | {:.1f} ms | {:.1f} ms (glm, places alone) | "
               "{:.1f}× its time | 30 a second |\n",
               1000 * skin, 1000 * bare, skin / bare);
}

} // namespace bench
