// The city's own way to read its objects; a broken file is said and never shown half.
#include "standins/city/object_file.h"

#include "standins/world/colour_blocks.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstring>

namespace zl::standins::city {

namespace {

constexpr int mostEdge = 1024;

struct Short {};

/// Bytes taken from the front; throws Short where there are too few.
class Front {
public:
    explicit Front(std::string_view bytes) : rest_(bytes) {}
    std::string_view take(std::size_t size) {
        if (size > rest_.size()) throw Short{};
        const std::string_view out = rest_.substr(0, size);
        rest_.remove_prefix(size);
        return out;
    }
    template <class T>
    T number() {
        T out;
        std::memcpy(&out, take(sizeof out).data(), sizeof out);
        return out;
    }
    std::string text() { return std::string(take(number<std::uint16_t>())); }
    std::size_t left() const { return rest_.size(); }

private:
    std::string_view rest_;
};

constexpr Kind kinds[] = {{"asphalt", "dull thud", "grey dust"},
                          {"concrete", "hard clack", "pale dust"},
                          {"paving", "clack", "pale dust"},
                          {"cobbles", "uneven clack", "dust"},
                          {"brick", "dry clack", "red dust"},
                          {"stone", "dry knock", "chips"},
                          {"gravel", "crunch", "pebbles"},
                          {"sand", "soft hiss", "sand"},
                          {"earth", "thud", "brown dust"},
                          {"grass", "swish", "blades"},
                          {"leaves", "rustle", "leaves"},
                          {"wood", "hollow knock", "splinters"},
                          {"plywood", "rattle", "splinters"},
                          {"iron", "ring", "sparks"},
                          {"sheet_metal", "clatter", "sparks"},
                          {"grating", "clank", "sparks"},
                          {"glass", "clink", "shards"},
                          {"cloth", "flap", "lint"},
                          {"rope", "creak", "fibres"},
                          {"rubber", "squeak", "smoke"},
                          {"plastic", "tock", ""},
                          {"fruit", "squash", "juice"},
                          {"water", "splash", "spray"},
                          {"ice", "crack", "flakes"}};

MeshFile meshIn(Front in) {
    if (in.take(4) != "PCM1") return {{}, 0, {}, {}, "is no mesh of the city"};
    const auto corners = in.number<std::uint32_t>(), triangles = in.number<std::uint32_t>(),
               groups = in.number<std::uint32_t>();
    struct Group {
        std::string picture;
        glm::vec3 colour;
        std::uint32_t first, count;
    };
    std::vector<Group> all;
    for (std::uint32_t g = 0; g < groups; ++g) {
        Group one{in.text(), {}, 0, 0};
        for (int k = 0; k < 3; ++k) one.colour[k] = in.number<float>();
        in.number<float>();
        one.first = in.number<std::uint32_t>(), one.count = in.number<std::uint32_t>();
        if (one.first > triangles || one.count > triangles - one.first)
            return {{}, 0, {}, {}, "has faces that are not there"};
        all.push_back(std::move(one));
    }
    if (in.left() != 32 * std::size_t(corners) + 12 * std::size_t(triangles)) throw Short{};
    std::vector<float> values(8 * std::size_t(corners));
    if (corners > 0) std::memcpy(values.data(), in.take(4 * values.size()).data(), 4 * values.size());
    std::vector<std::uint32_t> indices(3 * std::size_t(triangles));
    if (triangles > 0) std::memcpy(indices.data(), in.take(4 * indices.size()).data(), 4 * indices.size());
    MeshFile out;
    out.triangles = triangles;
    for (Group& group : all) {
        MeshFile::Part part{{}, std::move(group.picture), group.colour};
        for (std::size_t c = 3 * std::size_t(group.first); c < 3 * (std::size_t(group.first) + group.count);
             ++c) {
            if (indices[c] >= corners) return {{}, 0, {}, {}, "has faces on corners that are not there"};
            const float* v = &values[8 * std::size_t(indices[c])];
            const glm::vec3 p = shown({v[0], v[1], v[2]});
            if (!std::isfinite(p.x + p.y + p.z)) return {{}, 0, {}, {}, "has corners that are no numbers"};
            part.shape.indices.push_back(std::uint32_t(part.shape.positions.size()));
            part.shape.positions.push_back(p);
            part.shape.normals.push_back(shown({v[3], v[4], v[5]}));
            part.shape.uvs.emplace_back(v[6], v[7]);
            out.low = glm::min(out.low, p), out.high = glm::max(out.high, p);
        }
        out.parts.push_back(std::move(part));
    }
    return out;
}

PicturesFile picturesIn(Front in) {
    PicturesFile out;
    if (in.take(4) != "PCP1") return {{}, "is no set of pictures"};
    const auto count = in.number<std::uint32_t>();
    for (std::uint32_t i = 0; i < count; ++i) {
        const std::string name = in.text();
        const world::DdsFile file = world::readDdsFile(in.take(in.number<std::uint32_t>()), mostEdge);
        if (!file.problem.empty()) return {{}, fmt::format("holds \"{}\", which {}", name, file.problem)};
        out.pictures[name] = file.picture;
    }
    return out;
}

template <class T>
bool numbers(std::string_view text, T* to, std::size_t count) {
    for (std::size_t k = 0; k < count; ++k) {
        while (!text.empty() && text.front() == ' ') text.remove_prefix(1);
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), to[k]);
        if (error != std::errc()) return false;
        text.remove_prefix(std::size_t(end - text.data()));
    }
    return text.empty();
}

} // namespace

glm::vec3 shown(const glm::vec3& v) {
    return {-v.x, v.z, v.y};
}

const Kind* kindNamed(std::string_view name) {
    const auto found = std::ranges::find(kinds, name, &Kind::name);
    return found == std::end(kinds) ? nullptr : found;
}

MeshFile readMesh(std::string_view bytes) {
    try {
        return meshIn(Front(bytes));
    } catch (const Short&) {
        return {{}, 0, {}, {}, "is cut off, or longer than it says"};
    }
}

PicturesFile readPictures(std::string_view bytes) {
    try {
        return picturesIn(Front(bytes));
    } catch (const Short&) {
        return {{}, "is cut off"};
    }
}

ContactFile readContact(std::string_view text) {
    ContactFile out;
    std::vector<std::string> named;
    std::size_t line = 0;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find('\n'), text.size());
        std::string_view row = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (row.ends_with('\r')) row.remove_suffix(1);
        ++line;
        const auto wrong = [&](const char* why) { out.problem = fmt::format("line {} {}", line, why); };
        if (line == 1) {
            if (row != "contact 1") return {{}, {}, "is no contact file"};
        } else if (row.starts_with("by ")) {
            out.by = row.substr(3);
        } else if (row.starts_with("body ")) {
            out.bodies.push_back({std::string(row.substr(5)), {}, {}});
            named.clear();
        } else if (row.empty()) {
            continue;
        } else if (out.bodies.empty()) {
            wrong("stands before any body");
        } else if (row.starts_with("kinds")) {
            std::string_view rest = row.substr(5);
            while (!rest.empty()) {
                const std::size_t blank = std::min(rest.find(' '), rest.size());
                if (blank > 0) named.emplace_back(rest.substr(0, blank));
                rest.remove_prefix(std::min(blank + 1, rest.size()));
            }
        } else if (row.starts_with("c ")) {
            float p[3];
            if (!numbers(row.substr(2), p, 3))
                wrong("is no corner");
            else
                out.bodies.back().shape.positions.push_back(shown({p[0], p[1], p[2]}));
        } else if (row.starts_with("f ")) {
            long f[4];
            Body& body = out.bodies.back();
            if (!numbers(row.substr(2), f, 4) || f[3] < -1 || f[3] >= long(named.size()) ||
                std::any_of(f, f + 3,
                            [&](long c) { return c < 0 || c >= long(body.shape.positions.size()); })) {
                wrong("is no face");
            } else {
                for (int k = 0; k < 3; ++k) body.shape.indices.push_back(std::uint32_t(f[k]));
                body.kinds.push_back(f[3] < 0 ? std::string() : named[std::size_t(f[3])]);
            }
        } else {
            wrong("is not known");
        }
        if (!out.problem.empty()) return out;
    }
    if (line == 0) out.problem = "is empty";
    return out;
}

} // namespace zl::standins::city
