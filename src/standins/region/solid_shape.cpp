#include "standins/region/solid_shape.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>
#include <functional>

namespace zl::standins::region {

namespace {

constexpr double turn = 2 * glm::pi<double>(), quarter = turn / 4;
constexpr int sides = 48; ///< around
constexpr double narrowest = 1e-3;

enum Outline { Round, Square, Triangle };

double reach(Outline outline, double a) {
    if (outline == Square) return 0.5 / std::max(std::abs(std::sin(a)), std::abs(std::cos(a)));
    if (outline == Triangle) return 0.25 / std::cos(std::remainder(a - turn / 6, turn / 3));
    return 0.5;
}

class Shaper {
public:
    explicit Shaper(const BuiltSolid& solid) : solid_(solid) {
        const auto number = [&](const char* name, double usual) {
            const auto found = solid.shape.find(name);
            return found == solid.shape.end() ? usual : found->second;
        };
        gap_ = glm::radians(std::clamp(number("gap", 0), 0.0, 350.0));
        from_ = glm::radians(number("gap-from", 0));
        hollow_ = std::clamp(number("hollow", 0), 0.0, 0.95);
        thick_ = std::clamp(number("thick", 0.5), 0.05, 1.0);
        twist_ = glm::radians(std::clamp(number("twist", 0), -720.0, 720.0));
        foot_ = {number("foot-x", 1), number("foot-z", 1)};
        head_ = {number("head-x", 1), number("head-z", 1)};
        lean_ = {number("lean-x", 0), number("lean-z", 0)};
        outer_ = solid.kind == "box" || solid.kind == "wedge" ? Square : Round;
        inner_ = solid.outline == "round"      ? Round
                 : solid.outline == "square"   ? Square
                 : solid.outline == "triangle" ? Triangle
                                               : outer_;
        const double first = gap_ > 0 ? from_ + gap_ : outer_ == Square ? -quarter / 2 : 0.0;
        addAngles(first, first + turn - gap_);
        double fits = 1;
        for (const double a : angles_) fits = std::min(fits, reach(outer_, a) / reach(inner_, a));
        share_ = hollow_ * fits;
    }

    std::map<int, world::Shape> take() {
        if (solid_.kind == "ring" || solid_.kind == "tube")
            turned();
        else
            upright();
        std::erase_if(out_, [](const auto& one) { return one.second.indices.empty(); });
        for (auto& [face, shape] : out_) fill(shape), world::addMissingNormals(shape);
        return std::move(out_);
    }

private:
    void addAngles(double first, double last) {
        for (int k = 0; k <= sides; ++k) angles_.push_back(first + (last - first) * k / sides);
        for (int k = -8; k <= 24; ++k) // corners, wherever the way begins
            for (const double corner : {quarter * (k + 0.5), turn / 3 * k})
                if (corner > first && corner < last) angles_.push_back(corner);
        std::ranges::sort(angles_);
        angles_.erase(
            std::unique(angles_.begin(), angles_.end(), [](double a, double b) { return b - a < 1e-6; }),
            angles_.end());
    }

    glm::vec3 bent(double a, double far, double t) const {
        glm::dvec2 flat(far * std::sin(a), far * std::cos(a));
        if (solid_.kind == "wedge") flat.y = (flat.y + 0.5) * (1 - t) - 0.5;
        flat *= glm::max(glm::mix(foot_, head_, t), glm::dvec2(narrowest));
        const double by = twist_ * (t - 0.5), c = std::cos(by), s = std::sin(by);
        flat = glm::dvec2(c * flat.x + s * flat.y, c * flat.y - s * flat.x) + lean_ * (t - 0.5);
        return glm::vec3(glm::dvec3(flat.x, t - 0.5, flat.y) * solid_.size);
    }

    struct Corner {
        glm::vec3 at;
        glm::vec2 uv;
    };
    /// Corners against the clock seen from outside.
    void quad(int face, const Corner& a, const Corner& b, const Corner& c, const Corner& d) {
        world::Shape& shape = out_[face];
        for (const auto* three : {&a, &c}) {
            const Corner& second = three == &a ? b : d;
            const Corner& third = three == &a ? c : a;
            const glm::vec3 twice = glm::cross(second.at - three->at, third.at - three->at);
            if (!(glm::dot(twice, twice) > 0)) continue;
            for (const Corner* one : {three, &second, &third}) {
                shape.indices.push_back(std::uint32_t(shape.positions.size()));
                shape.positions.push_back(one->at), shape.uvs.push_back(one->uv);
            }
        }
    }

    int sideAt(double a) const {
        return outer_ == Square ? 2 + int(std::floor(a / quarter + 0.5) + 400) % 4 : 2;
    }
    /// A wall from step to step: `far` and `height` of a share of 0 to 1.
    using Way = std::function<double(double)>;
    void wall(int face, int steps, const Way& far, const Way& height, Outline outline, bool inside) {
        for (std::size_t i = 0; i + 1 < angles_.size(); ++i)
            for (int k = 0; k < steps; ++k) {
                const double low = double(k) / steps, high = double(k + 1) / steps;
                const auto corner = [&](double a, double s) {
                    // The end of a straight side belongs to it, not to the next.
                    const double middle = (angles_[i] + angles_[i + 1]) / 2;
                    const double u = outline == Square
                                         ? std::floor(middle / quarter + 0.5) +
                                               std::tan(a - std::floor(middle / quarter + 0.5) * quarter) / 2
                                         : a;
                    return Corner{bent(a, far(s) * reach(outline, a), height(s)), {float(u), float(1 - s)}};
                };
                const Corner a = corner(angles_[i], low), b = corner(angles_[i + 1], low),
                             c = corner(angles_[i + 1], high), d = corner(angles_[i], high);
                const int number = inside ? 7 : face == 2 ? sideAt((angles_[i] + angles_[i + 1]) / 2) : face;
                inside ? quad(number, a, d, c, b) : quad(number, a, b, c, d);
            }
    }

    void cap(int face, double t) {
        for (std::size_t i = 0; i + 1 < angles_.size(); ++i) {
            const auto corner = [&](double a, double far) {
                return Corner{bent(a, far, t),
                              {float(0.5 + far * std::sin(a)), float(0.5 - far * std::cos(a))}};
            };
            const double a = angles_[i], b = angles_[i + 1];
            const auto inner = [&](double angle) {
                return hollow_ > 0 ? share_ * reach(inner_, angle) : 0.0;
            };
            const Corner p = corner(a, inner(a)), q = corner(a, reach(outer_, a)),
                         r = corner(b, reach(outer_, b)), s = corner(b, inner(b));
            face == 1 ? quad(face, p, q, r, s) : quad(face, p, s, r, q);
        }
    }

    /// What a gap lays open: from the inner way to the outer one.
    void open(const Way& inner, const Way& outer, const Way& innerHeight, const Way& outerHeight, int steps,
              Outline in) {
        if (gap_ <= 0) return;
        for (const bool end : {false, true}) {
            const double a = end ? angles_.back() : angles_.front();
            for (int k = 0; k < steps; ++k) {
                const auto corner = [&](const Way& far, const Way& height, Outline outline, double s) {
                    const double f = far(s), t = height(s);
                    return Corner{bent(a, f * reach(outline, a), t), {float(f), float(0.5 - t)}};
                };
                const double low = double(k) / steps, high = double(k + 1) / steps;
                const Corner p = corner(inner, innerHeight, in, low),
                             q = corner(outer, outerHeight, outer_, low),
                             r = corner(outer, outerHeight, outer_, high),
                             s = corner(inner, innerHeight, in, high);
                end ? quad(8, p, s, r, q) : quad(9, p, q, r, s);
            }
        }
    }

    void upright() {
        const int rings = std::max(1, int(std::ceil(std::abs(twist_) / (turn / 48))));
        const bool ball = solid_.kind == "ball";
        const int steps = ball ? std::max(rings, sides / 2) : rings;
        const auto far = [&](double share) -> Way {
            return [=](double s) { return ball ? share * std::sin(s * turn / 2) : share; };
        };
        const auto height = [&](double share) -> Way {
            return [=](double s) { return ball ? 0.5 - share * std::cos(s * turn / 2) / 2 : s; };
        };
        wall(2, steps, far(1), height(1), outer_, false);
        if (hollow_ > 0) wall(7, steps, far(share_), height(share_), inner_, true);
        if (!ball) cap(0, 0), cap(1, 1);
        const bool hollow = hollow_ > 0;
        open(hollow ? far(share_) : Way([](double) { return 0.0; }), far(1), height(hollow ? share_ : 1),
             height(1), steps, hollow ? inner_ : outer_);
    }

    void turned() {
        const double middle = 1 - thick_ / 2, half = thick_ / 2;
        const bool ring = solid_.kind == "ring";
        const int rings = std::max(1, int(std::ceil(std::abs(twist_) / (turn / 48))));
        const auto one = [&](double by, bool inside) {
            if (ring) {
                wall(
                    2, sides / 2, [=](double s) { return middle + by * half * std::cos(s * turn); },
                    [=](double s) { return 0.5 + by * std::sin(s * turn) / 2; }, Round, inside);
                return;
            }
            const double low = 0.5 - by / 2, high = 0.5 + by / 2, out = middle + by * half,
                         in = middle - by * half;
            wall(
                2, rings, [=](double) { return out; }, [=](double s) { return low + (high - low) * s; },
                Round, inside);
            wall(
                1, 1, [=](double s) { return out + (in - out) * s; }, [=](double) { return high; }, Round,
                inside);
            wall(
                6, rings, [=](double) { return in; }, [=](double s) { return high + (low - high) * s; },
                Round, inside);
            wall(
                0, 1, [=](double s) { return in + (out - in) * s; }, [=](double) { return low; }, Round,
                inside);
        };
        one(1, false);
        if (hollow_ > 0) one(hollow_, true);
        if (gap_ <= 0) return;
        const double by = hollow_;
        if (ring)
            open([=](double s) { return middle + by * half * std::cos(s * turn); },
                 [=](double s) { return middle + half * std::cos(s * turn); },
                 [=](double s) { return 0.5 + by * std::sin(s * turn) / 2; },
                 [=](double s) { return 0.5 + std::sin(s * turn) / 2; }, sides / 2, Round);
        else {
            const auto corner = [=](double share, double s, int axis) { // once around a rectangle
                const double at[4][2] = {{1, -1}, {1, 1}, {-1, 1}, {-1, -1}};
                const int k = std::min(3, int(s * 4));
                const double rest = s * 4 - k, v = at[k][axis] + (at[(k + 1) % 4][axis] - at[k][axis]) * rest;
                return axis == 0 ? middle + v * share * half : 0.5 + v * share / 2;
            };
            open([=](double s) { return corner(by, s, 0); }, [=](double s) { return corner(1, s, 0); },
                 [=](double s) { return corner(by, s, 1); }, [=](double s) { return corner(1, s, 1); }, 4,
                 Round);
        }
    }

    static void fill(world::Shape& shape) {
        glm::vec2 least(1e9f), most(-1e9f);
        for (const glm::vec2& uv : shape.uvs) least = glm::min(least, uv), most = glm::max(most, uv);
        for (glm::vec2& uv : shape.uvs)
            for (int k = 0; k < 2; ++k)
                if (most[k] > least[k]) uv[k] = (uv[k] - least[k]) / (most[k] - least[k]);
    }

    const BuiltSolid& solid_;
    double gap_ = 0, from_ = 0, hollow_ = 0, thick_ = 0.5, twist_ = 0, share_ = 0;
    glm::dvec2 foot_{1}, head_{1}, lean_{0};
    Outline outer_ = Round, inner_ = Round;
    std::vector<double> angles_;
    std::map<int, world::Shape> out_;
};

} // namespace

std::map<int, world::Shape> shapesOf(const BuiltSolid& solid) {
    return Shaper(solid).take();
}

} // namespace zl::standins::region
