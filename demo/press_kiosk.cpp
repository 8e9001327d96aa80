#include "demo_data.h"

#include <fmt/format.h>

#include <cmath>
#include <numbers>

namespace zl::demo {

namespace {

using std::numbers::pi;

/// OBJ text built up object by object; faces are quads where the shape has them, as a modeller would leave
/// it.
class ObjText {
public:
    explicit ObjText(const std::string& library) : out_("mtllib " + library + "\n") {}

    void object(const std::string& name, const std::string& material) {
        out_ += fmt::format("o {}\nusemtl {}\n", name, material);
    }

    /// A grid of `w` × `h` quads. `at(u, v)` gives a place, `uv(u, v)` its UV; both from 0–1.
    template <class At, class Uv>
    void grid(int w, int h, const At& at, const Uv& uv) {
        for (int j = 0; j <= h; ++j)
            for (int i = 0; i <= w; ++i) {
                const double u = double(i) / w, v = double(j) / h;
                const glm::dvec3 p = at(u, v),
                                 du = at(std::min(1.0, u + 1e-4), v) - at(std::max(0.0, u - 1e-4), v),
                                 dv = at(u, std::min(1.0, v + 1e-4)) - at(u, std::max(0.0, v - 1e-4));
                glm::dvec3 n = glm::cross(du, dv);
                n = glm::length(n) > 1e-14 ? glm::normalize(n) : glm::dvec3(0, p.y >= 0 ? 1 : -1, 0);
                corner(p, uv(u, v), n);
            }
        const int base = count_ - (w + 1) * (h + 1);
        for (int j = 0; j < h; ++j)
            for (int i = 0; i < w; ++i)
                face({base + j * (w + 1) + i, base + j * (w + 1) + i + 1, base + (j + 1) * (w + 1) + i + 1,
                      base + (j + 1) * (w + 1) + i});
    }

    /// A box from `centre` and half sizes, turned about Y, with bevel-free faces and UVs of one per metre.
    void box(glm::dvec3 centre, glm::dvec3 half, double turn = 0, double lean = 0) {
        const auto place = [&](glm::dvec3 p) {
            p = {p.x, p.y * std::cos(lean) - p.z * std::sin(lean),
                 p.y * std::sin(lean) + p.z * std::cos(lean)};
            return centre + glm::dvec3(p.x * std::cos(turn) + p.z * std::sin(turn), p.y,
                                       -p.x * std::sin(turn) + p.z * std::cos(turn));
        };
        for (int axis = 0; axis < 3; ++axis)
            for (const int sign : {1, -1}) {
                const int a = (axis + 1) % 3, b = (axis + 2) % 3;
                glm::dvec3 n(0), u(0), v(0);
                n[axis] = sign, u[a] = 1, v[b] = sign;
                const glm::dvec3 out = glm::normalize(place(n) - place(glm::dvec3(0)));
                const int first = count_;
                for (const auto& [s, t] : {std::pair{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}) {
                    const glm::dvec3 p = (n + u * double(s) + v * double(t)) * half;
                    // The grain runs along the longer side.
                    const double pu = p[a] + 0.37 * centre.x, pv = p[b] + 0.53 * centre.y + 0.29 * centre.z;
                    corner(place(p), half[a] >= half[b] ? glm::dvec2(pu, pv) : glm::dvec2(pv, pu), out);
                }
                face({first, first + 1, first + 2, first + 3});
            }
    }

    /// A surface turned about a vertical axis through `foot`; `profile(t)` gives (radius, height).
    template <class Profile>
    void turned(glm::dvec3 foot, int around, int up, const Profile& profile,
                glm::dvec4 uvBox = {0, 0, 1, 1}) {
        grid(
            around, up,
            [&](double u, double v) {
                const glm::dvec2 p = profile(v);
                return foot + glm::dvec3(p.x * std::sin(2 * pi * u), p.y, p.x * std::cos(2 * pi * u));
            },
            [&](double u, double v) { return glm::dvec2(uvBox.x + u * uvBox.z, uvBox.y + v * uvBox.w); });
    }

    std::string take() { return std::move(out_); }

private:
    void corner(const glm::dvec3& p, const glm::dvec2& uv, const glm::dvec3& n) {
        const glm::dvec3 q = p + glm::dvec3(0.35, 0.12, -0.2); // off its place, as files are
        fmt::format_to(std::back_inserter(out_),
                       "v {:.5f} {:.5f} {:.5f}\nvt {:.5f} {:.5f}\nvn {:.4f} {:.4f} {:.4f}\n", q.x, q.y, q.z,
                       uv.x, uv.y, n.x, n.y, n.z);
        ++count_;
    }
    void face(std::initializer_list<int> corners) {
        out_ += 'f';
        for (const int c : corners) fmt::format_to(std::back_inserter(out_), " {0}/{0}/{0}", c + 1);
        out_ += '\n';
    }
    std::string out_;
    int count_ = 0;
};

double hash(int i) {
    const double s = std::sin(i * 127.1) * 43758.5453;
    return s - std::floor(s);
}

void stall(ObjText& obj) {
    obj.object("stall frame", "stall wood");
    for (const double x : {-1.25, 1.25})
        for (const double z : {-0.75, 0.75}) {
            const double tall = z < 0 ? 1.28 : 1.08;
            obj.box({x, tall, z}, {0.055, tall, 0.055});
        }
    obj.box({0, 0.92, 0.62}, {1.36, 0.035, 0.3});                                             // counter
    for (int i = 0; i < 9; ++i) obj.box({-1.12 + 0.28 * i, 0.46, 0.8}, {0.132, 0.42, 0.018}); // front boards
    obj.box({0, 0.08, 0.02}, {1.22, 0.03, 0.7});                                              // floor
    for (int i = 0; i < 5; ++i) obj.box({0, 0.36 + 0.28 * i, -0.78}, {1.24, 0.125, 0.016});   // back boards
    obj.box({0, 2.56, -0.75}, {1.36, 0.05, 0.05});                                            // roof beams
    obj.box({0, 2.14, 0.75}, {1.36, 0.05, 0.05});
    for (const double x : {-1.2, 0.0, 1.2}) obj.box({x, 2.26, 0.05}, {0.04, 0.04, 0.98}, 0, 0.27);
    for (const double x : {-1.31, 1.31}) obj.box({x, 0.5, 0}, {0.014, 0.36, 0.74}); // side panels
    obj.box({0, 1.86, 0.86}, {0.72, 0.17, 0.025});                                  // sign
}

void awning(ObjText& obj) {
    obj.object("awning", "awning cloth");
    const auto roof = [](double u, double v) {
        const double x = (u - 0.5) * 3.1, z = -0.95 + v * 2.25;
        const double sag = 0.035 * std::sin(u * 3 * pi * 2) * std::sin(v * pi);
        return glm::dvec3(x, 2.72 - 0.27 * (z + 0.95) - sag - 0.05 * std::sin(v * pi), z);
    };
    obj.grid(
        36, 18, [&](double u, double v) { return roof(u, 1 - v); },
        [](double u, double v) { return glm::dvec2(u * 2, v); });
    obj.grid(
        36, 18, [&](double u, double v) { return roof(u, v) - glm::dvec3(0, 0.012, 0); },
        [](double u, double v) { return glm::dvec2(u * 2, 1 - v); });
    // Scalloped edge in front, both sides.
    const auto scallop = [](double u, double v) {
        const double x = (u - 0.5) * 3.1, drop = 0.13 + 0.1 * std::abs(std::sin(u * 16 * pi));
        return glm::dvec3(x, 2.11 - v * drop, 1.3 + 0.03 * v);
    };
    obj.grid(
        96, 3, [&](double u, double v) { return scallop(u, 1 - v); },
        [](double u, double v) { return glm::dvec2(u * 2, v * 0.1); });
    obj.grid(
        96, 3, [&](double u, double v) { return scallop(u, v) - glm::dvec3(0, 0, 0.008); },
        [](double u, double v) { return glm::dvec2(u * 2, 0.1 - v * 0.1); });
}

void press(ObjText& obj) {
    obj.object("fruit press", "press iron");
    const glm::dvec3 foot(0.72, 0.955, 0.55);
    const auto hoop = [&](double y, double r, double thick) {
        obj.grid(
            28, 8,
            [&](double u, double v) {
                const double a = 2 * pi * u, b = 2 * pi * v;
                return foot + glm::dvec3((r + thick * std::cos(b)) * std::sin(a), y + thick * std::sin(b),
                                         (r + thick * std::cos(b)) * std::cos(a));
            },
            [](double u, double v) { return glm::dvec2(u * 2, v * 0.3); });
    };
    obj.turned(foot, 28, 5, [](double t) {
        return glm::dvec2(t < 0.2 ? 0.2 : t < 0.5 ? 0.23 : t < 0.8 ? 0.23 : 0.19, t < 0.3 ? 0.0 : 0.035);
    });
    hoop(0.05, 0.2, 0.014);
    hoop(0.36, 0.2, 0.014);
    hoop(0.7, 0.115, 0.017);
    obj.turned(foot, 14, 24, [](double t) {
        return glm::dvec2(0.024 + 0.006 * std::sin(t * 24 * pi), 0.3 + 0.42 * t);
    }); // screw
    obj.turned(foot + glm::dvec3(0, 0.33, 0), 24, 4,
               [](double t) { return glm::dvec2(t < 0.9 ? 0.165 : 0.03, t < 0.3 ? 0.0 : 0.04); });
    for (const double x : {-0.22, 0.22}) obj.box(foot + glm::dvec3(x, 0.3, 0), {0.018, 0.3, 0.025});
    obj.box(foot + glm::dvec3(0, 0.6, 0), {0.25, 0.03, 0.04});
    for (int i = 0; i < 4; ++i) obj.box(foot + glm::dvec3(0, 0.7, 0), {0.115, 0.008, 0.011}, i * pi / 4);
}

void crate(ObjText& obj, glm::dvec3 at, double turn) {
    for (int i = 0; i < 3; ++i)
        for (const int side : {-1, 1}) {
            const double y = 0.04 + 0.075 * i, c = std::cos(turn), s = std::sin(turn);
            obj.box(at + glm::dvec3(side * 0.2 * s, y, side * 0.2 * c), {0.3, 0.03, 0.009}, turn);
            obj.box(at + glm::dvec3(side * 0.3 * c, y, -side * 0.3 * s), {0.009, 0.03, 0.2}, turn);
        }
    obj.box(at + glm::dvec3(0, 0.012, 0), {0.3, 0.01, 0.2}, turn);
}

struct CratePlace {
    glm::dvec3 at;
    double turn;
};
const CratePlace crates[] = {{{-0.95, 0.955, 0.6}, 0.0},
                             {{-0.28, 0.955, 0.6}, 0.05},
                             {{-1.0, 0.0, 1.18}, 0.22},
                             {{-0.28, 0.0, 1.22}, -0.12},
                             {{0.95, 0.0, 1.2}, -0.3}};

void fruit(ObjText& obj) {
    obj.object("fruit", "fruit peel");
    int n = 0;
    for (std::size_t c = 0; c < std::size(crates); ++c)
        for (int layer = 0; layer < 2; ++layer)
            for (int i = 0; i < 5 - layer; ++i)
                for (int j = 0; j < 3 - layer; ++j, ++n) {
                    const int kind = int(c) % 4;
                    const double r = (kind == 3 ? 0.047 : 0.054) * (0.94 + 0.12 * hash(n));
                    const double x = (i - (4 - layer) / 2.0) * 0.112 + 0.01 * (hash(n + 50) - 0.5),
                                 z = (j - (2 - layer) / 2.0) * 0.118;
                    const double cs = std::cos(crates[c].turn), sn = std::sin(crates[c].turn);
                    const glm::dvec3 at =
                        crates[c].at + glm::dvec3(x * cs + z * sn, 0.19 + 0.075 * layer, -x * sn + z * cs);
                    const double squash = kind == 1 ? 1.16 : 0.94;
                    obj.turned(at, 9, 6,
                               [&](double t) {
                                   return glm::dvec2(r * std::sin(pi * t), -r * squash * std::cos(pi * t));
                               },
                               {kind % 2 * 0.5 + 0.02, kind / 2 ? 0.02 : 0.52, 0.46, 0.46});
                }
}

} // namespace

KioskFiles pressKiosk() {
    ObjText obj("press-kiosk.mtl");
    stall(obj);
    awning(obj);
    press(obj);
    obj.object("crates", "crate wood");
    for (const auto& place : crates) crate(obj, place.at, place.turn);
    fruit(obj);
    KioskFiles files{obj.take(), {}};
    const auto material = [&](const char* name, const char* picture, double rough, double metal) {
        files.mtl += fmt::format("newmtl {}\nKd 0.8 0.8 0.8\nPr {}\nPm {}\nmap_Kd {}\n\n", name, rough, metal,
                                 picture);
    };
    material("stall wood", "stall-wood.png", 0.8, 0);
    material("awning cloth", "awning-cloth.png", 0.9, 0);
    material("press iron", "press-iron.png", 0.45, 0.6);
    material("crate wood", "crate-wood.png", 0.85, 0);
    material("fruit peel", "fruit-peel.png", 0.5, 0);
    return files;
}

} // namespace zl::demo
