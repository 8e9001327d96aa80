#include "core/solids/solid_mesh.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::solids {

namespace {

constexpr double none = 1e-12;
constexpr double narrow = 1e-3; ///< of a width: less is an edge

bool isTurned(Kind kind) {
    return kind == Kind::Tube || kind == Kind::Ring;
}

Outline ownOutline(Kind kind) {
    return kind == Kind::Box || kind == Kind::Wedge ? Outline::Square : Outline::Round;
}

/// How far an outline reaches at an angle, where it is half as wide as the box around it: of a square its
/// sides, of a triangle, which points to +Z, the sides that a circle of ½ goes around.
double reach(Outline outline, double angle) {
    if (outline == Outline::Square)
        return 0.5 / std::max(std::abs(std::sin(angle)), std::abs(std::cos(angle)));
    if (outline == Outline::Triangle) {
        const double third = 2 * glm::pi<double>() / 3;
        return 0.25 / std::cos(std::remainder(angle - third / 2, third));
    }
    return 0.5;
}

/// The angles at which a solid has corners: in order, from the gap's end to its beginning, or once around.
std::vector<double> anglesOf(const Shape& shape, Outline outer, Outline inner, int sides) {
    const double turn = 2 * glm::pi<double>();
    // Without a gap it begins at a corner, so that no side is parted where its other end is not.
    const double begin = shape.gap > 0              ? glm::radians(shape.gapFrom)
                         : outer == Outline::Square ? turn / 8
                                                    : 0;
    const double from = begin + glm::radians(shape.gap), to = begin + turn;
    std::vector<double> out{from, to};
    const auto add = [&](double angle) {
        const double at = from + std::fmod(std::fmod(angle - from, turn) + turn, turn);
        if (at > from && at < to) out.push_back(at);
    };
    const auto corners = [&](Outline outline) {
        if (outline == Outline::Square)
            for (int i = 0; i < 4; ++i) add(turn * (i + 0.5) / 4);
        if (outline == Outline::Triangle)
            for (int i = 0; i < 3; ++i) add(turn * i / 3);
        if (outline == Outline::Round)
            for (int i = 0; i < sides; ++i) add(turn * i / sides);
    };
    corners(outer);
    if (shape.hollow > 0) corners(inner);
    if (shape.twist != 0) corners(Outline::Round); // sides that are no planes any more
    std::sort(out.begin(), out.end());
    constexpr double same = 1e-6;
    std::vector<double> apart{out[0]};
    for (std::size_t i = 1; i < out.size(); ++i)
        if (out[i] - apart.back() > same) apart.push_back(out[i]);
    if (apart.size() > 1 && to - apart.back() > 0) apart.back() = to;
    return apart;
}

/// A place on the way from the foot to the head, or once around a ring's section: how far out, as a share of
/// what the outline reaches, how high, and which face begins there.
struct Station {
    double out = 1, height = 0;
    int face = FirstSide;
};

std::vector<Station> column(int rings, double out) {
    std::vector<Station> stations;
    for (int k = 0; k <= rings; ++k) stations.push_back({out, double(k) / rings - 0.5});
    return stations;
}

std::vector<Station> bow(int rings, double scale) {
    std::vector<Station> stations;
    for (int k = 0; k <= rings; ++k) {
        const double angle = glm::pi<double>() * k / rings;
        stations.push_back(
            {k == 0 || k == rings ? 0.0 : scale * std::sin(angle), -scale * std::cos(angle) / 2});
    }
    return stations;
}

/// Once around a section, against the clock with the middle to the left: out, then up.
std::vector<Station> section(const Shape& shape, int rings, int sides, double scale) {
    std::vector<Station> stations;
    const double middle = 1 - shape.thick / 2, half = shape.thick / 2 * scale;
    if (shape.kind == Kind::Ring) {
        for (int k = 0; k < sides; ++k) {
            const double angle = 2 * glm::pi<double>() * k / sides;
            stations.push_back({middle + half * std::cos(angle), scale * std::sin(angle) / 2});
        }
        return stations;
    }
    const double low = -0.5 * scale, high = 0.5 * scale;
    for (int k = 0; k < rings; ++k)
        stations.push_back({middle + half, low + (high - low) * k / rings, FirstSide});
    stations.push_back({middle + half, high, HeadFace});
    for (int k = rings; k > 0; --k) stations.push_back({middle - half, low + (high - low) * k / rings, Bore});
    stations.push_back({middle - half, low, FootFace});
    return stations;
}

class Maker {
public:
    Maker(const Shape& shape, int sides) : shape_(shape), sides_(std::max(8, (sides + 3) / 4 * 4)) {
        // Where an edge takes the place of an end, what is cut, hollow or twisted would not close.
        const bool plain = shape.hollow <= 0 && shape.gap <= 0 && shape.twist == 0 && !isTurned(shape.kind);
        const auto widths = [&](glm::dvec2 end) {
            const bool point =
                end.x < narrow && end.y < narrow; // a round end lies on an edge nowhere just so
            for (int k = 0; k < 2; ++k)
                if (end[k] < narrow)
                    end[k] = plain && (point || ownOutline(shape.kind) == Outline::Square) ? 0 : narrow;
            return end;
        };
        foot_ = widths(shape.foot), head_ = widths(shape.head);
        wedgeHead_ = plain ? 0 : narrow;
        outer_ = ownOutline(shape.kind);
        inner_ = shape.outline == Outline::Same ? outer_ : shape.outline;
        angles_ = anglesOf(shape, outer_, inner_, sides_);
        closed_ = shape.gap <= 0;
        constexpr double finest = 7.5; // degrees of twist a ring
        rings_ = std::max(1, int(std::ceil(std::abs(shape.twist) / finest)));
    }

    SolidMesh take() {
        const bool hollow = shape_.hollow > 0;
        // Within the outline, whatever the hollow's own one is.
        const double share = shape_.hollow * narrowest();
        if (isTurned(shape_.kind)) {
            const auto outside = section(shape_, rings_, sides_ / 2, 1),
                       within = section(shape_, rings_, sides_ / 2, share);
            around(outside, outer_, true, false);
            if (hollow) around(within, outer_, true, true);
            if (!closed_) walls(outside, within, hollow, true);
        } else {
            const int rings = shape_.kind == Kind::Ball ? std::max(rings_, sides_ / 2) : rings_;
            const auto outside = shape_.kind == Kind::Ball ? bow(rings, 1) : column(rings, 1),
                       within = shape_.kind == Kind::Ball ? bow(rings, share) : column(rings, share);
            around(outside, outer_, false, false);
            if (hollow) around(within, inner_, false, true);
            if (shape_.kind != Kind::Ball) ends(outside, within, hollow);
            if (!closed_) walls(outside, within, hollow, false);
        }
        fillPictures();
        out_.mesh.name = std::string(kindNames[std::size_t(shape_.kind)]);
        out_.mesh.runs = {{0, std::uint32_t(out_.mesh.triangleCount()), -1}};
        return std::move(out_);
    }

private:
    /// UVs once over each face: those of sides are shares of all that goes around.
    void fillPictures() {
        if (out_.mesh.uvSets.empty()) return;
        auto& uvs = out_.mesh.uvSets[0];
        std::array<glm::vec2, faceCount> least, most;
        least.fill(glm::vec2(1e9f)), most.fill(glm::vec2(-1e9f));
        for (std::size_t i = 0; i < uvs.size(); ++i) {
            const auto face = std::size_t(out_.faces[i / 3]);
            least[face] = glm::min(least[face], uvs[i]), most[face] = glm::max(most[face], uvs[i]);
        }
        for (std::size_t i = 0; i < uvs.size(); ++i) {
            const auto face = std::size_t(out_.faces[i / 3]);
            for (int k = 0; k < 2; ++k)
                if (const float wide = most[face][k] - least[face][k]; wide > 0)
                    uvs[i][k] = (uvs[i][k] - least[face][k]) / wide;
        }
    }

    /// By how much another outline has to shrink so that it stays within the solid's own.
    double narrowest() const {
        double out = 1;
        for (const double angle : angles_) out = std::min(out, reach(outer_, angle) / reach(inner_, angle));
        return out;
    }

    /// From the plain solid in a box of 1 to what it is.
    glm::dvec3 bent(double angle, const Station& at, Outline outline) const {
        const double far = at.out * reach(outline, angle);
        glm::dvec2 flat(far * std::sin(angle), far * std::cos(angle));
        const double t = at.height + 0.5;
        if (shape_.kind == Kind::Wedge) flat.y = (flat.y + 0.5) * std::max(1 - t, wedgeHead_) - 0.5;
        flat *= glm::mix(foot_, head_, t);
        const double turn = glm::radians(shape_.twist) * at.height, c = std::cos(turn), s = std::sin(turn);
        flat = {c * flat.x + s * flat.y, c * flat.y - s * flat.x};
        flat += shape_.lean * at.height;
        return glm::dvec3(flat.x, at.height, flat.y) * shape_.size + 0.0; // no zero below zero
    }

    struct Corner {
        glm::dvec3 at{0};
        glm::vec2 uv{0};
    };
    void triangle(const Corner& a, const Corner& b, const Corner& c, int face) {
        const glm::dvec3 normal = glm::cross(b.at - a.at, c.at - a.at);
        const double size =
            std::max({glm::distance(a.at, b.at), glm::distance(b.at, c.at), glm::distance(c.at, a.at)});
        if (glm::length(normal) <= none * size * size || !(size > 0)) return;
        // Edges as floats keep them: what falls together there has no area either.
        const glm::vec3 p[] = {glm::vec3(a.at), glm::vec3(b.at), glm::vec3(c.at)};
        if (p[0] == p[1] || p[1] == p[2] || p[2] == p[0]) return;
        Mesh& mesh = out_.mesh;
        const Corner* corners[] = {&a, &b, &c};
        if (mesh.uvSets.empty()) mesh.uvSets.emplace_back();
        for (int k = 0; k < 3; ++k) {
            mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
            mesh.positions.push_back(p[k]);
            mesh.uvSets[0].push_back(corners[k]->uv);
        }
        out_.faces.push_back(face);
    }
    /// Corners against the clock seen from outside.
    void quad(const Corner& a, const Corner& b, const Corner& c, const Corner& d, int face) {
        triangle(a, b, c, face);
        triangle(a, c, d, face);
    }

    /// How far around, evenly along a straight side and by the angle where it is round.
    /// `middle` is an angle on the same side.
    static double along(double angle, double middle, Outline outline) {
        if (outline != Outline::Square) return angle;
        const double quarter = glm::half_pi<double>(), side = std::floor(middle / quarter + 0.5);
        return side + std::tan(angle - side * quarter) / 2;
    }

    /// The last is the first again where nothing is left out.
    double angleAt(std::size_t i) const { return angles_[closed_ && i + 1 == angles_.size() ? 0 : i]; }

    int sideAt(std::size_t i, int face, bool inside) const {
        if (inside) return Inside;
        if (face != FirstSide || outer_ != Outline::Square) return face;
        const double middle = (angles_[i] + angles_[i + 1]) / 2, quarter = glm::half_pi<double>();
        return FirstSide + int(std::floor(middle / quarter + 0.5) + 400) % 4;
    }

    /// The surface that stations make all around; `loops` where the last goes on to the first.
    void around(const std::vector<Station>& stations, Outline outline, bool loops, bool inside) {
        const std::size_t steps = loops ? stations.size() : stations.size() - 1;
        for (std::size_t i = 0; i + 1 < angles_.size(); ++i)
            for (std::size_t k = 0; k < steps; ++k) {
                const Station &low = stations[k], &high = stations[(k + 1) % stations.size()];
                const double middle = (angles_[i] + angles_[i + 1]) / 2;
                const auto corner = [&](std::size_t angle, const Station& at, double v) {
                    return Corner{bent(angleAt(angle), at, outline),
                                  {float(along(angles_[angle], middle, outline)), float(1 - v)}};
                };
                const double v0 = double(k) / double(steps), v1 = double(k + 1) / double(steps);
                const Corner a = corner(i, low, v0), b = corner(i + 1, low, v0), c = corner(i + 1, high, v1),
                             d = corner(i, high, v1);
                const int face = sideAt(i, low.face, inside);
                inside ? quad(a, d, c, b, face) : quad(a, b, c, d, face);
            }
    }

    void ends(const std::vector<Station>& outside, const std::vector<Station>& within, bool hollow) {
        const auto corner = [&](std::size_t i, const Station& at, Outline outline) {
            const glm::dvec3 place = bent(angleAt(i), at, outline);
            const double far = at.out * reach(outline, angles_[i]);
            return Corner{place,
                          {float(0.5 + far * std::sin(angles_[i])), float(0.5 - far * std::cos(angles_[i]))}};
        };
        for (const bool head : {false, true}) {
            const Station out = head ? outside.back() : outside.front(),
                          in = head ? within.back() : within.front(), axis{0, out.height};
            for (std::size_t i = 0; i + 1 < angles_.size(); ++i) {
                const Corner a = corner(i, out, outer_), b = corner(i + 1, out, outer_);
                const Corner c = hollow ? corner(i + 1, in, inner_) : corner(i, axis, outer_),
                             d = hollow ? corner(i, in, inner_) : c;
                const int face = head ? HeadFace : FootFace;
                head ? quad(a, b, c, d, face) : quad(a, d, c, b, face);
            }
        }
    }

    /// What the gap lays open, on both of its sides.
    void walls(const std::vector<Station>& outside, const std::vector<Station>& within, bool hollow,
               bool loops) {
        const std::size_t steps = loops ? outside.size() : outside.size() - 1;
        for (const bool end : {false, true}) {
            const double angle = end ? angles_.back() : angles_.front();
            const auto corner = [&](const Station& at, Outline outline) {
                return Corner{bent(angle, at, outline), {float(at.out), float(0.5 - at.height)}};
            };
            for (std::size_t k = 0; k < steps; ++k) {
                const std::size_t next = (k + 1) % outside.size();
                Station low{0, outside[k].height}, high{0, outside[next].height}; // on the axis
                if (hollow) low = within[k], high = within[next];
                if (loops && !hollow) low = high = {1 - shape_.thick / 2, 0}; // in the middle of the section
                const Outline inner = loops ? outer_ : inner_;
                const Corner a = corner(low, inner), b = corner(outside[k], outer_),
                             c = corner(outside[next], outer_), d = corner(high, inner);
                end ? quad(a, d, c, b, GapFrom) : quad(a, b, c, d, GapTo);
            }
        }
    }

    const Shape& shape_;
    int sides_, rings_ = 1;
    Outline outer_, inner_;
    std::vector<double> angles_;
    bool closed_ = true;
    glm::dvec2 foot_{1}, head_{1};
    double wedgeHead_ = 0;
    SolidMesh out_;
};

double areaOf(Outline outline) {
    return outline == Outline::Square     ? 1
           : outline == Outline::Triangle ? 3 * std::sqrt(3.0) / 16
                                          : glm::pi<double>() / 4;
}

} // namespace

SolidMesh meshOf(const Shape& shape, int sides) {
    demandShape(shape);
    return Maker(shape, sides).take();
}

double plainVolume(const Shape& shape) {
    const double box = shape.size.x * shape.size.y * shape.size.z, left = 1 - shape.gap / 360,
                 h = shape.hollow;
    const double r = shape.thick / 4, far = 0.5 - r; // of a ring's section, and of its middle, in a box of 1
    switch (shape.kind) {
    case Kind::Box:
        return box * (1 - h * h);
    case Kind::Cylinder:
        return box * left * areaOf(Outline::Round) * (1 - h * h);
    case Kind::Wedge:
        return box / 2 * (1 - h * h);
    case Kind::Ball:
        return box * left * glm::pi<double>() / 6 * (1 - h * h * h);
    case Kind::Tube:
        return box * left * 2 * glm::pi<double>() * far * 2 * r * (1 - h * h);
    case Kind::Ring:
        return box * left * 2 * glm::pi<double>() * far * glm::pi<double>() * r * 0.5 * (1 - h * h);
    }
    return 0;
}

} // namespace zl::solids
