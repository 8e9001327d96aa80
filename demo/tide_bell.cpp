#include "demo_data.h"

#include <fmt/format.h>

#include <cmath>
#include <numbers>
#include <cstring>
#include <functional>

namespace zl::demo {

namespace {

using std::numbers::pi;

/// Catmull–Rom through (radius, height) points; `t` runs 0–1 over all of them.
glm::dvec2 along(const std::vector<glm::dvec2>& p, double t) {
    const double at = std::clamp(t, 0.0, 1.0) * double(p.size() - 1);
    const auto i = std::min<std::size_t>(std::size_t(at), p.size() - 2);
    const double f = at - double(i);
    const glm::dvec2 a = p[i ? i - 1 : 0], b = p[i], c = p[i + 1], d = p[std::min(i + 2, p.size() - 1)];
    return 0.5 * (2.0 * b + (c - a) * f + (2.0 * a - 5.0 * b + 4.0 * c - d) * f * f +
                  (3.0 * b - a - 3.0 * c + d) * f * f * f);
}

double bump(double v, double middle, double width) {
    const double d = (v - middle) / width;
    return std::exp(-d * d);
}

/// Height of the relief in millimetres at angle `a` and height `y` above the table.
double bellRelief(double a, double y) {
    double r = 0;
    // Cords: raised rings.
    for (const double ring : {7.6, 8.3, 19.4, 20.1}) r += 0.22 * bump(y, ring, 0.16);
    // Tide line: rolling waves with foam, round the waist.
    const double crest = 11.2 + 0.55 * std::sin(9 * a);
    r += 0.38 * bump(y, crest, 0.28) + 0.24 * bump(y, crest - 0.95 + 0.2 * std::sin(18 * a), 0.2);
    // Leaping fish between waves and shoulder, nine of them.
    const double turn = std::fmod(a / (2 * pi) * 9 + 9.25, 1.0) - 0.5;
    const double fx = turn * 6.2, fy = y - 15.2 - 0.5 * std::cos(turn * 6);
    const double body = 1 - (fx * fx) / 3.2 - (fy * fy) / 0.62;
    if (body > 0) r += 0.42 * std::sqrt(body) * (0.86 + 0.14 * std::cos(fx * 16) * std::cos(fy * 16));
    const double tail = std::max(0.0, 1 - std::abs(fx - 2.15) / 0.55) *
                        std::max(0.0, 1 - std::abs(std::abs(fy) - 0.5 * (fx - 1.5)) / 0.35);
    r += 0.3 * tail;
    r -= 0.12 * bump(fx, -1.15, 0.12) * bump(fy, 0.15, 0.12);
    // Beads at the lip, and the unevenness of a casting.
    r += 0.2 * bump(y, 5.1, 0.3) * std::pow(0.5 + 0.5 * std::cos(48 * a), 2);
    r += 0.05 * (layeredNoise(float(a / (2 * pi) * 48), float(y * 2.1), 48, 3) - 0.5f);
    return r;
}

double stoneRelief(double a, double y, double radius) {
    return 0.3 * (layeredNoise(float(a / (2 * pi) * 24), float(y * 3 + radius), 24, 57) - 0.5f);
}

/// Adds a closed surface of revolution: a grid of `around` × `up` quads, closed by a corner at either pole.
void addTurned(Mesh& mesh, int around, int up, const std::function<glm::dvec2(double)>& profile,
               const std::function<double(double, glm::dvec2)>& relief) {
    const auto base = std::uint32_t(mesh.positions.size());
    for (int j = 0; j <= up; ++j) {
        const double t = double(j) / up;
        const glm::dvec2 p = profile(t),
                         d = profile(std::min(1.0, t + 1e-4)) - profile(std::max(0.0, t - 1e-4));
        const glm::dvec2 n = glm::length(d) > 0 ? glm::dvec2(d.y, -d.x) / glm::length(d) : glm::dvec2(0);
        const bool pole = j == 0 || j == up;
        for (int i = 0; i < (pole ? 1 : around); ++i) {
            const double a = 2 * pi * i / around, r = pole ? 0 : relief(a, p);
            const glm::dvec2 q = p + n * r;
            mesh.positions.emplace_back(std::sin(a) * (pole ? 0 : q.x), q.y, std::cos(a) * (pole ? 0 : q.x));
            mesh.uvSets[0].emplace_back(double(i) / around, 1 - t);
        }
    }
    const auto at = [&](int i, int j) {
        return j == 0    ? base
               : j == up ? base + 1 + std::uint32_t(around) * (up - 1)
                         : base + 1 + std::uint32_t(j - 1) * around + std::uint32_t(i % around);
    };
    const auto add = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        mesh.indices.insert(mesh.indices.end(), {a, b, c});
    };
    for (int j = 0; j < up; ++j)
        for (int i = 0; i < around; ++i) {
            if (j > 0) add(at(i, j), at(i + 1, j), at(i + 1, j + 1));
            if (j == 0)
                add(at(0, 0), at(i + 1, 1), at(i, 1));
            else if (j + 1 < up)
                add(at(i, j), at(i + 1, j + 1), at(i, j + 1));
        }
}

/// Adds a beam along X with rounded edges and wood grain, as a closed grid.
void addBeam(Mesh& mesh, glm::dvec3 centre, glm::dvec3 half, int along, int around) {
    const auto base = std::uint32_t(mesh.positions.size());
    const auto section = [&](double a) { // rounded square
        const double c = std::cos(a), s = std::sin(a),
                     k = std::pow(std::pow(std::abs(c), 6) + std::pow(std::abs(s), 6), -1.0 / 6);
        return glm::dvec2(k * c, k * s);
    };
    for (int j = 0; j <= along; ++j) {
        const double t = double(j) / along * 2 - 1;
        const bool pole = j == 0 || j == along;
        const double end = std::pow(std::max(0.0, 1 - std::pow(std::abs(t), 40)), 0.25),
                     taper = 1 - 0.22 * t * t;
        for (int i = 0; i < (pole ? 1 : around); ++i) {
            const double a = 2 * pi * i / around;
            const glm::dvec2 s = section(a) * end * taper;
            const double grain =
                pole ? 0
                     : 0.16 * (layeredNoise(float(t * 3 + 3), float(a / (2 * pi) * 32), 32, 91, 3) - 0.5f) +
                           0.05 * std::sin(a * 22 + 3 * t);
            const double band = 0.22 * (bump(t, 0.62, 0.035) + bump(t, -0.62, 0.035)) * (pole ? 0 : 1);
            mesh.positions.emplace_back(centre.x + t * half.x, centre.y + s.x * (half.y + grain + band),
                                        centre.z + s.y * (half.z + grain + band));
            mesh.uvSets[0].emplace_back(double(i) / around, t * 0.5 + 0.5);
        }
    }
    const auto at = [&](int i, int j) {
        return j == 0       ? base
               : j == along ? base + 1 + std::uint32_t(around) * (along - 1)
                            : base + 1 + std::uint32_t(j - 1) * around + std::uint32_t(i % around);
    };
    for (int j = 0; j < along; ++j)
        for (int i = 0; i < around; ++i) {
            if (j + 1 < along)
                mesh.indices.insert(mesh.indices.end(), {at(i, j), at(i + 1, j + 1), at(i, j + 1)});
            if (j > 0) mesh.indices.insert(mesh.indices.end(), {at(i, j), at(i + 1, j), at(i + 1, j + 1)});
        }
}

} // namespace

Mesh tideBell(double detail) {
    Mesh mesh;
    mesh.name = "tide-bell";
    mesh.uvSets.emplace_back();
    const auto n = [&](double count) { return std::max(8, int(std::lround(count * detail))); };
    // Stone foot, bell and crown as one turned surface, then the headstock across the crown.
    const std::vector<glm::dvec2> profile{{0, 0},       {4, 0},      {7.6, 0},    {8.6, 0.05}, {8.9, 0.5},
                                          {8.8, 1.8},   {8.2, 2.6},  {7.4, 3.1},  {7.4, 3.6},  {9.4, 3.9},
                                          {10.7, 4.4},  {11.0, 5.1}, {10.6, 6.2}, {9.7, 8.2},  {8.9, 11.0},
                                          {8.35, 14.5}, {7.9, 18.0}, {7.4, 20.4}, {6.5, 22.2}, {4.6, 23.6},
                                          {2.9, 24.2},  {2.5, 25.2}, {2.4, 28.0}, {2.3, 31.2}, {1.7, 32.2},
                                          {2.0, 33.2},  {1.9, 34.3}, {1.1, 35.2}, {0, 35.5}};
    const double bottomEnd = 3.5;
    addTurned(
        mesh, n(760), n(478), [&](double t) { return along(profile, t); },
        [&](double a, glm::dvec2 p) {
            const double calm = std::min(1.0, p.x / 2); // no relief at the poles, where it would fold
            if (p.y < 0.3) return 0.0;                  // the foot stays flat
            return calm * (p.y < bottomEnd ? stoneRelief(a, p.y, p.x) : bellRelief(a, p.y));
        });
    addBeam(mesh, {0, 28.6, 0}, {16.2, 2.1, 2.4}, n(230), n(136));
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), 0}};
    return mesh;
}

std::string scannedStl(const Mesh& upright) {
    const auto place = [](const glm::vec3& p) {
        return glm::vec3(412.5f + p.x, -188.25f - p.z, 73.4f + p.y);
    }; // Y up to Z up
    struct Record {
        glm::vec3 normal, a, b, c;
    };
    std::vector<Record> records;
    for (std::size_t t = 0; t < upright.triangleCount(); ++t) {
        Record r{{},
                 place(upright.positions[upright.indices[3 * t]]),
                 place(upright.positions[upright.indices[3 * t + 1]]),
                 place(upright.positions[upright.indices[3 * t + 2]])};
        if (t % 2371 == 7) std::swap(r.b, r.c); // turned round
        const glm::vec3 n = glm::cross(r.b - r.a, r.c - r.a);
        if (glm::length(n) > 0) r.normal = glm::normalize(n);
        records.push_back(r);
        if (t % 1919 == 11) records.push_back({r.normal, r.a, r.b, r.b}); // sliver
        if (t % 9001 == 23) records.push_back(r);                         // double
    }
    std::string out("Tide bell, scan 3, Bergamot Quay harbour office");
    out.resize(80, ' ');
    const auto count = std::uint32_t(records.size());
    out.append(reinterpret_cast<const char*>(&count), 4);
    out.reserve(84 + 50 * records.size());
    for (const Record& r : records) {
        out.append(reinterpret_cast<const char*>(&r), 48);
        out.append(2, '\0');
    }
    return out;
}

std::string texturedObj(const Mesh& mesh, const std::string& library, const std::string& material) {
    std::string out =
        fmt::format("# {} corners\nmtllib {}\no {}\n", mesh.positions.size(), library, mesh.name);
    auto to = std::back_inserter(out);
    for (const glm::vec3& p : mesh.positions) fmt::format_to(to, "v {:.5f} {:.5f} {:.5f}\n", p.x, p.y, p.z);
    for (const glm::vec2& uv : mesh.uvSets[0]) fmt::format_to(to, "vt {:.6f} {:.6f}\n", uv.x, 1 - uv.y);
    fmt::format_to(to, "usemtl {}\n", material);
    for (std::size_t i = 0; i < mesh.indices.size(); i += 3)
        fmt::format_to(to, "f {0}/{0} {1}/{1} {2}/{2}\n", mesh.indices[i] + 1, mesh.indices[i + 1] + 1,
                       mesh.indices[i + 2] + 1);
    return out;
}

} // namespace zl::demo
