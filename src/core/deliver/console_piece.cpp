#include "core/deliver/console_piece.h"

#include "core/base/error.h"
#include "core/deliver/placed_for.h"
#include "core/geometry/world.h"
#include "core/motion/channel_keys.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"
#include "core/motion/rigid_segments.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>
#include <meshoptimizer.h>

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::deliver {

namespace {

/// How far a scale may be from 1 before it is one.
constexpr double scaleSlack = 1e-4;
constexpr int mostShift = 4;

/// A matrix as a place and a turn; throws Refused where it scales, mirrors or shears.
struct Stance {
    glm::dvec3 place;
    glm::dquat turn;
};
Stance stanceOf(const glm::dmat4& matrix, const std::string& name) {
    const glm::dmat3 m(matrix);
    const glm::dmat3 square = glm::transpose(m) * m;
    double off = glm::determinant(m) > 0 ? 0 : 1;
    for (int c = 0; c < 3; ++c)
        for (int r = 0; r < 3; ++r) off = std::max(off, std::abs(square[c][r] - (c == r ? 1 : 0)));
    if (!(off <= 2 * scaleSlack))
        throw Refused("a bone is scaled, mirrored or sheared", name,
                      "Scale the rig, or bake its placement, before it is delivered.");
    return {glm::dvec3(matrix[3]), glm::normalize(motion::turnIn(matrix))};
}

class Gathering {
public:
    Gathering(const Model& model, const platform::Sheet& sheet, const Progress& progress)
        : model_(model), progress_(progress) {
        // The placement turns and sizes the whole; what is left of it is how many units a length takes.
        const glm::dmat3 whole(model.placement);
        factor_ = std::cbrt(std::abs(glm::determinant(whole)));
        if (!(factor_ > 1e-9))
            throw Refused("the placement leaves nothing of the piece", model.name, "Take its size anew.");
        toPlace_ = glm::scale(glm::dmat4(1.0), glm::dvec3(1 / factor_)) * model.placement;
        units_ = factor_ / sheet.metresPerUnit;
    }

    ConsolePiece gather() {
        chooseBones();
        chooseShift();
        for (std::size_t b = 0; b < nodes_.size(); ++b) addBone(nodes_[b]);
        addPictures();
        for (const int n : shownNodes(model_)) addSegment(n);
        for (const auto& clip : model_.clips) addClip(*clip);
        return std::move(out_);
    }

private:
    /// Every node that shows something, and all above it.
    void chooseBones() {
        std::vector<char> wanted(model_.nodes.size(), 0);
        for (const int n : shownNodes(model_))
            for (int at = carrierOf(n); at >= 0; at = model_.nodes[std::size_t(at)].parent)
                wanted[std::size_t(at)] = 1;
        for (std::size_t n = 0; n < wanted.size(); ++n)
            if (wanted[n]) bones_[int(n)] = int(nodes_.size()), nodes_.push_back(int(n));
    }

    /// The bone that a part is drawn with: its node, or the one above where it only stands there.
    int carrierOf(int n) const {
        const Node& node = model_.nodes[std::size_t(n)];
        const bool moved = std::ranges::any_of(model_.clips, [n](const auto& clip) {
            return std::ranges::find(clip->channels, n, &Channel::node) != clip->channels.end();
        });
        return node.parent >= 0 && node.local == glm::dmat4(1.0) && !moved ? node.parent : n;
    }

    /// In units, before the shift: a root stands in the world, others in what they hang on.
    glm::dvec3 placeIn(int node, const glm::dvec3& place) const {
        const bool root = model_.nodes[std::size_t(node)].parent < 0;
        return units_ * (root ? glm::dvec3(toPlace_ * glm::dvec4(place, 1)) : place);
    }
    glm::dvec3 wayOf(const Clip& clip) const { return units_ * (glm::dmat3(toPlace_) * clip.way); }
    glm::dquat turnedIn(int node, const glm::dquat& turn) const {
        const bool root = model_.nodes[std::size_t(node)].parent < 0;
        return root ? stanceOf(toPlace_ * glm::mat4_cast(turn), model_.nodes[std::size_t(node)].name).turn
                    : turn;
    }

    void chooseShift() {
        double most = 0;
        const auto see = [&](const glm::dvec3& v) {
            for (int k = 0; k < 3; ++k) most = std::max(most, std::abs(v[k]));
        };
        for (const int n : nodes_) see(placeIn(n, glm::dvec3(model_.nodes[std::size_t(n)].local[3])));
        for (const int n : shownNodes(model_))
            for (const glm::vec3& p :
                 model_.meshes[std::size_t(model_.nodes[std::size_t(n)].mesh)]->positions)
                see(units_ * glm::dvec3(p));
        for (const auto& clip : model_.clips) {
            see(wayOf(*clip));
            for (const Channel& channel : clip->channels)
                if (channel.target == Channel::Target::Translation && bones_.contains(channel.node) &&
                    channel.curve != Channel::Curve::CubicSpline)
                    for (std::size_t k = 0; k + 2 < channel.values.size(); k += 3)
                        see(placeIn(channel.node,
                                    {channel.values[k], channel.values[k + 1], channel.values[k + 2]}));
        }
        if (!(most < 32767))
            throw Refused(
                fmt::format("it reaches {} units, and 16 bits hold 32\u202f767", std::llround(most)),
                model_.name, "Make it smaller, or leave out what lies far away.");
        while (out_.shift < mostShift && most * double(2 << out_.shift) < 32767) ++out_.shift;
    }

    std::int16_t number(double value) const {
        return std::int16_t(std::clamp(std::llround(value), -32768ll, 32767ll));
    }
    template <std::size_t N>
    void keep(std::array<std::int16_t, N>& to, const glm::dvec3& units) const {
        for (int k = 0; k < 3; ++k) to[std::size_t(k)] = number(units[k] * double(1 << out_.shift));
    }
    static std::array<std::int16_t, 4> kept(const glm::dquat& q) {
        const auto one = [](double v) {
            return std::int16_t(std::lround(std::clamp(v, -1.0, 1.0) * ConsolePiece::turnOne));
        };
        return {one(q.x), one(q.y), one(q.z), one(q.w)};
    }

    void addBone(int n) {
        const Node& node = model_.nodes[std::size_t(n)];
        const Stance stance = stanceOf(node.local, node.name);
        ConsolePiece::Bone bone{node.name, node.parent < 0 ? -1 : bones_.at(node.parent)};
        keep(bone.place, placeIn(n, stance.place));
        bone.turn = kept(turnedIn(n, stance.turn));
        out_.bones.push_back(std::move(bone));
    }

    void addPictures() {
        for (const int index : usedMaterials(model_)) {
            if (index < 0) continue;
            const int number = model_.materials[std::size_t(index)].image(PictureRole::Colour);
            if (number < 0 || pictures_.contains(number)) continue;
            progress_.checkCancel();
            const auto& image = model_.images[std::size_t(number)];
            pictures_[number] = int(out_.pictures.size());
            out_.pictures.push_back(heldPicture(*texture::pixelsOf(image), image->name));
        }
    }

    static ConsolePiece::Picture heldPicture(const Pixels& pixels, const std::string& name);

    void addSegment(int n) {
        progress_.checkCancel();
        const Node& node = model_.nodes[std::size_t(n)];
        const Mesh& mesh = *model_.meshes[std::size_t(node.mesh)];
        std::string name = node.name;
        if (name.ends_with(" segment")) name.resize(name.size() - 8);
        ConsolePiece::Segment segment{name, bones_.at(carrierOf(n)), out_.batches.size(), 0};
        for (const MaterialRun& run : mesh.runs) addBatches(mesh, run);
        segment.batches = out_.batches.size() - segment.firstBatch;
        out_.segments.push_back(std::move(segment));
    }

    ConsolePiece::Corner cornerOf(const Mesh& mesh, std::uint32_t v, const PictureUse* use) const {
        ConsolePiece::Corner corner;
        keep(corner.place, units_ * glm::dvec3(mesh.positions[v]));
        const auto set = std::size_t(use ? use->uvSet : 0);
        if (use && set < mesh.uvSets.size()) {
            const glm::vec2 uv = use->placement.of(mesh.uvSets[set][v]);
            corner.uv = {number(double(uv.x) * ConsolePiece::uvOne),
                         number(double(uv.y) * ConsolePiece::uvOne)};
        }
        if (!mesh.normals.empty())
            for (int k = 0; k < 3; ++k)
                corner.normal[std::size_t(k)] =
                    std::int8_t(std::clamp(std::lround(mesh.normals[v][k] * 127), -127l, 127l));
        return corner;
    }

    /// Corners that become the same numbers are one; triangles are ordered so that batches share few.
    void addBatches(const Mesh& mesh, const MaterialRun& run) {
        if (run.triangleCount == 0) return;
        const Material* material = run.material >= 0 ? &model_.materials[std::size_t(run.material)] : nullptr;
        const PictureUse* use = material && material->picture(PictureRole::Colour)
                                    ? &material->picture(PictureRole::Colour)
                                    : nullptr;
        std::vector<ConsolePiece::Corner> own;
        for (std::size_t i = 0; i < 3 * std::size_t(run.triangleCount); ++i)
            own.push_back(cornerOf(mesh, mesh.indices[3 * std::size_t(run.firstTriangle) + i], use));
        std::vector<unsigned> remap(own.size());
        const std::size_t count = meshopt_generateVertexRemap(remap.data(), nullptr, own.size(), own.data(),
                                                              own.size(), sizeof(ConsolePiece::Corner));
        std::vector<ConsolePiece::Corner> corners(count);
        std::vector<unsigned> indices;
        for (std::size_t i = 0; i < own.size(); i += 3) {
            for (std::size_t c = 0; c < 3; ++c) corners[remap[i + c]] = own[i + c];
            const unsigned* t = &remap[i];
            // What rounding has made a line is not drawn.
            if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) indices.insert(indices.end(), t, t + 3);
        }
        if (indices.empty()) return;
        std::vector<glm::vec3> places;
        for (const auto& corner : corners)
            places.emplace_back(corner.place[0], corner.place[1], corner.place[2]);
        constexpr std::size_t most = ConsolePiece::cornersABatch, mostTriangles = 32;
        std::vector<meshopt_Meshlet> made(meshopt_buildMeshletsBound(indices.size(), most, mostTriangles));
        std::vector<unsigned> vertices(made.size() * most);
        std::vector<unsigned char> local(made.size() * mostTriangles * 3);
        made.resize(meshopt_buildMeshlets(made.data(), vertices.data(), local.data(), indices.data(),
                                          indices.size(), &places[0].x, places.size(), sizeof(glm::vec3),
                                          most, mostTriangles, 0));
        for (const meshopt_Meshlet& m : made) {
            ConsolePiece::Batch batch{out_.corners.size(), m.vertex_count, out_.triangles.size() / 3,
                                      m.triangle_count};
            if (use) batch.picture = pictures_.at(use->image);
            const glm::vec3 linear = material ? glm::vec3(material->baseColour) : glm::vec3(0.8f);
            for (int k = 0; k < 3; ++k)
                batch.colour[std::size_t(k)] = texture::toSrgbByte(std::clamp(linear[k], 0.0f, 1.0f));
            for (unsigned v = 0; v < m.vertex_count; ++v)
                out_.corners.push_back(corners[vertices[m.vertex_offset + v]]);
            out_.triangles.insert(out_.triangles.end(), local.begin() + m.triangle_offset,
                                  local.begin() + m.triangle_offset + 3 * long(m.triangle_count));
            out_.batches.push_back(batch);
        }
    }

    void addClip(const Clip& clip) {
        const double seconds = motion::lengthOf(clip);
        if (seconds * ConsolePiece::ticksASecond > 65535)
            throw Refused(fmt::format("the clip lasts {:.0f} s, and the console counts to 273", seconds),
                          clip.name, "Trim the clip.");
        ConsolePiece::Clip kept{clip.name, std::uint16_t(std::lround(seconds * ConsolePiece::ticksASecond)),
                                out_.tracks.size(), 0};
        for (const Channel& channel : clip.channels) {
            const bool turns = channel.target == Channel::Target::Rotation;
            if (!bones_.contains(channel.node) || channel.target == Channel::Target::Weights) continue;
            if (channel.target == Channel::Target::Scale) {
                const auto scales = [&](float v) { return std::abs(v - 1) > scaleSlack; };
                if (std::ranges::any_of(channel.values, scales))
                    throw Refused("a clip scales a bone", model_.nodes[std::size_t(channel.node)].name,
                                  "Take the scale out of the clip where it was made.");
                continue;
            }
            addTrack(channel, turns);
        }
        kept.tracks = out_.tracks.size() - kept.firstTrack;
        keep(kept.way, wayOf(clip));
        out_.clips.push_back(std::move(kept));
    }

    void addTrack(const Channel& channel, bool turns) {
        if (channel.times.empty()) return;
        const Channel straight = motion::straightened(channel);
        ConsolePiece::Track track{bones_.at(channel.node), turns, out_.keys.size(), 0};
        const std::size_t width = turns ? 4 : 3;
        glm::dquat before(1, 0, 0, 0);
        for (std::size_t k = 0; k < straight.times.size() && (k + 1) * width <= straight.values.size(); ++k) {
            const float* v = &straight.values[k * width];
            ConsolePiece::Key key{std::uint16_t(
                std::clamp(std::lround(double(straight.times[k]) * ConsolePiece::ticksASecond), 0l, 65535l))};
            if (turns) {
                glm::dquat q = turnedIn(channel.node, motion::quaternion({v[0], v[1], v[2], v[3]}));
                // Neighbours on one side of the sphere, so that a straight mix between them is the short way.
                if (k > 0 && glm::dot(q, before) < 0) q = -q;
                before = q, key.value = kept(q);
            } else {
                keep(key.value, placeIn(channel.node, {v[0], v[1], v[2]}));
            }
            // Keys within one tick of each other are one.
            if (track.keys > 0 && out_.keys.back().ticks == key.ticks)
                out_.keys.back() = key;
            else
                out_.keys.push_back(key), ++track.keys;
        }
        if (track.keys > 0) out_.tracks.push_back(track);
    }

    const Model& model_;
    const Progress& progress_;
    double factor_ = 1, units_ = 1;
    glm::dmat4 toPlace_{1.0};
    std::map<int, int> bones_, pictures_; ///< by node, by image
    std::vector<int> nodes_;
    ConsolePiece out_;
};

ConsolePiece::Picture Gathering::heldPicture(const Pixels& pixels, const std::string& name) {
    using texture::SmallFormat;
    ConsolePiece::Picture out{name, texture::smallestFor(pixels), false, pixels.width, pixels.height, {}};
    const texture::SmallFormatInfo& info = texture::infoOf(out.format);
    std::map<std::uint16_t, int> numbers;
    std::vector<std::uint16_t> palette;
    const auto word = [&](std::uint16_t value) {
        out.bytes += char(value >> 8);
        out.bytes += char(value & 255);
    };
    bool half = false;
    const auto four = [&](unsigned value) {
        if (half)
            out.bytes.back() = char((unsigned(std::uint8_t(out.bytes.back())) & 0xf0u) | value);
        else
            out.bytes += char(value << 4);
        half = !half;
    };
    const auto step16 = [](std::uint8_t v) { return unsigned(v * 15 + 127) / 255; };
    for (std::size_t p = 0; p < pixels.rgba.size(); p += 4) {
        const std::uint8_t* c = &pixels.rgba[p];
        out.alpha |= c[3] < 255;
        if (info.colours > 0) {
            const std::uint16_t value = texture::word5551(c);
            const auto [found, isNew] = numbers.try_emplace(value, int(palette.size()));
            if (isNew) palette.push_back(value);
            if (info.bits == 4)
                four(unsigned(found->second));
            else
                out.bytes += char(found->second);
        } else if (out.format == SmallFormat::Colour16) {
            word(texture::word5551(c));
        } else if (out.format == SmallFormat::GreyAlpha8) {
            out.bytes += char(step16(c[0]) << 4 | step16(c[3]));
        } else {
            four(step16(c[0]));
        }
    }
    palette.resize(std::size_t(info.colours), 0);
    for (const std::uint16_t value : palette) word(value);
    return out;
}

} // namespace

ConsolePiece consolePieceOf(const Model& model, const platform::Sheet& sheet, const Progress& progress) {
    Model whole = withNormalsAdded(model);
    bool hangs = false;
    for (const int n : shownNodes(whole)) {
        const Node& node = whole.nodes[std::size_t(n)];
        if (node.skin < 0) continue;
        if (!motion::isStiff(*whole.meshes[std::size_t(node.mesh)]))
            throw Refused("a part bends with several bones", node.name,
                          "Add the step Rigid segments, so that each bone has a part of its own.");
        hangs = true;
    }
    // A part that its skin hangs on one bone alone is a segment of that bone.
    if (hangs) whole = motion::rigidSegments(whole, {.closed = false, .overlap = 0}, progress).model;
    return Gathering(whole, sheet, progress).gather();
}

} // namespace zl::deliver
