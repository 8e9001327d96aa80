#include "core/formats/city_files.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"
#include "core/formats/write_buffer.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstring>

namespace zl::formats {

namespace {

constexpr std::string_view meshSign = "PCM1", picturesSign = "PCP1";

void putText(WriteBuffer& out, const std::string& text) {
    const auto size = std::uint16_t(std::min<std::size_t>(text.size(), 0xffff));
    out.bytes(size).text(std::string_view(text).substr(0, size));
}

/// Takes values off the front of some bytes; throws Error when there are not enough.
class Taker {
public:
    Taker(std::string_view bytes, const std::string& where) : rest_(bytes), where_(where) {}
    template <class T>
    T take() {
        T value;
        std::memcpy(&value, bytes(sizeof value).data(), sizeof value);
        return value;
    }
    std::string_view bytes(std::size_t size) {
        if (size > rest_.size()) fail("ends too soon");
        const std::string_view out = rest_.substr(0, size);
        rest_.remove_prefix(size);
        return out;
    }
    template <class T>
    std::vector<T> list(std::size_t count) {
        if (count > rest_.size() / sizeof(T)) fail("promises more than there is");
        std::vector<T> out(count);
        if (count > 0) std::memcpy(out.data(), bytes(count * sizeof(T)).data(), count * sizeof(T));
        return out;
    }
    [[noreturn]] void fail(const std::string& why) const {
        throw Error(why, where_, "Build the object again.");
    }
    bool isEmpty() const { return rest_.empty(); }

private:
    std::string_view rest_;
    const std::string& where_;
};

} // namespace

CityMesh cityMeshOf(const Model& model) {
    CityMesh out;
    geometry::forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& place) {
        const Mesh placed = geometry::transformed(mesh, place);
        const auto base = std::uint32_t(out.positions.size());
        out.positions.insert(out.positions.end(), placed.positions.begin(), placed.positions.end());
        out.normals.insert(out.normals.end(), placed.normals.begin(), placed.normals.end());
        out.normals.resize(out.positions.size(), glm::vec3(0, 0, 1));
        if (!placed.uvSets.empty())
            out.uvs.insert(out.uvs.end(), placed.uvSets[0].begin(), placed.uvSets[0].end());
        out.uvs.resize(out.positions.size(), glm::vec2(0));
        for (const MaterialRun& run : placed.runs) {
            if (run.triangleCount == 0) continue;
            CityMesh::Group group{
                {}, glm::vec4(0.8f, 0.8f, 0.8f, 1), std::uint32_t(out.indices.size() / 3), run.triangleCount};
            if (run.material >= 0) {
                const Material& worn = model.materials[std::size_t(run.material)];
                group.colour = worn.baseColour;
                if (const PictureUse& use = worn.picture(PictureRole::Colour))
                    group.picture = model.images[std::size_t(use.image)]->name;
            }
            for (std::size_t c = 0; c < 3 * std::size_t(run.triangleCount); ++c)
                out.indices.push_back(base + placed.indices[3 * std::size_t(run.firstTriangle) + c]);
            out.groups.push_back(std::move(group));
        }
    });
    return out;
}

std::string writeCityMesh(const CityMesh& mesh) {
    WriteBuffer out;
    out.text(meshSign);
    out.bytes(std::uint32_t(mesh.positions.size())).bytes(std::uint32_t(mesh.indices.size() / 3));
    out.bytes(std::uint32_t(mesh.groups.size()));
    for (const CityMesh::Group& group : mesh.groups) {
        putText(out, group.picture);
        for (int k = 0; k < 4; ++k) out.bytes(group.colour[k]);
        out.bytes(group.first).bytes(group.count);
    }
    for (std::size_t v = 0; v < mesh.positions.size(); ++v) {
        for (int k = 0; k < 3; ++k) out.bytes(mesh.positions[v][k]);
        for (int k = 0; k < 3; ++k) out.bytes(mesh.normals[v][k]);
        for (int k = 0; k < 2; ++k) out.bytes(mesh.uvs[v][k]);
    }
    for (const std::uint32_t index : mesh.indices) out.bytes(index);
    return out.take();
}

CityMesh readCityMesh(std::string_view bytes, const std::string& where) {
    Taker in(bytes, where);
    if (bytes.size() < 16 || in.bytes(4) != meshSign) throw Error("is no mesh of the city", where);
    const auto corners = in.take<std::uint32_t>(), triangles = in.take<std::uint32_t>(),
               groups = in.take<std::uint32_t>();
    CityMesh out;
    for (std::uint32_t g = 0; g < groups; ++g) {
        CityMesh::Group group;
        group.picture = in.bytes(in.take<std::uint16_t>());
        for (int k = 0; k < 4; ++k) group.colour[k] = in.take<float>();
        group.first = in.take<std::uint32_t>(), group.count = in.take<std::uint32_t>();
        if (std::uint64_t(group.first) + group.count > triangles)
            in.fail("has a group of faces that are not there");
        out.groups.push_back(std::move(group));
    }
    struct Corner {
        float values[8];
    };
    for (const Corner& c : in.list<Corner>(corners)) {
        out.positions.emplace_back(c.values[0], c.values[1], c.values[2]);
        out.normals.emplace_back(c.values[3], c.values[4], c.values[5]);
        out.uvs.emplace_back(c.values[6], c.values[7]);
        if (!isFinite(out.positions.back())) in.fail("has corners that are no numbers");
    }
    out.indices = in.list<std::uint32_t>(3 * std::size_t(triangles));
    if (std::ranges::any_of(out.indices, [&](std::uint32_t i) { return i >= corners; }))
        in.fail("has faces on corners that are not there");
    if (!in.isEmpty()) in.fail("holds more than it says");
    return out;
}

std::string writeCityPictures(const std::vector<OutFile>& pictures) {
    WriteBuffer out;
    out.text(picturesSign).bytes(std::uint32_t(pictures.size()));
    for (const OutFile& picture : pictures) {
        putText(out, picture.name);
        out.bytes(std::uint32_t(picture.bytes.size())).text(picture.bytes);
    }
    return out.take();
}

std::string writeContactBody(const ContactBody& body) {
    WriteBuffer out;
    out.text("body ").text(body.name).text("\nkinds");
    for (const std::string& kind : body.kinds) out.text(" ").text(kind);
    out.text("\n");
    for (const glm::vec3& p : body.corners)
        out.text("c ").number(p.x).text(" ").number(p.y).text(" ").number(p.z).text("\n");
    for (const ContactBody::Face& face : body.faces) {
        out.text("f");
        for (const std::uint32_t corner : face.corner) out.text(" ").number(corner);
        out.text(" ").number(face.kind).text("\n");
    }
    return out.take();
}

std::string writeContact(const ContactFile& file) {
    std::string out = "contact 1\n";
    if (!file.by.empty()) out += "by " + file.by + "\n";
    for (const ContactBody& body : file.bodies) out += writeContactBody(body);
    return out;
}

ContactFile readContactFile(std::string_view text, const std::string& where) {
    ContactFile out;
    std::size_t line = 0;
    const auto fail = [&](const std::string& why) -> void {
        throw Error(why, fmt::format("{}:{}", where, line), "Build the object again.");
    };
    const auto numbers = [&](std::string_view rest, auto& to, std::size_t count) {
        for (std::size_t k = 0; k < count; ++k) {
            using T = std::remove_reference_t<decltype(to[0])>;
            const auto value = plainNumber<T>(rest, &rest);
            if (!value) fail("has a number missing");
            to[k] = *value;
        }
        if (rest.find_first_not_of(" \t\r") != std::string_view::npos)
            fail("has more numbers than it should");
    };
    while (!text.empty()) {
        const std::size_t end = text.find('\n');
        std::string_view row = text.substr(0, end);
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        if (!row.empty() && row.back() == '\r') row.remove_suffix(1);
        ++line;
        if (line == 1) {
            if (row != "contact 1") fail("is no contact file");
            continue;
        }
        if (row.empty()) continue;
        const std::size_t blank = row.find(' ');
        const std::string_view word = row.substr(0, blank),
                               rest = blank == std::string_view::npos ? "" : row.substr(blank + 1);
        if (word == "by") {
            out.by = rest;
            continue;
        }
        if (word == "body") {
            if (rest.empty()) fail("has a body without a name");
            out.bodies.push_back({std::string(rest), {}, {}, {}});
            continue;
        }
        if (out.bodies.empty()) fail("says something before its first body");
        ContactBody& body = out.bodies.back();
        if (word == "kinds") {
            for (std::size_t at = 0; at < rest.size();) {
                const std::size_t next = std::min(rest.find(' ', at), rest.size());
                if (next > at) body.kinds.emplace_back(rest.substr(at, next - at));
                at = next + 1;
            }
        } else if (word == "c") {
            float p[3] = {0, 0, 0};
            numbers(rest, p, 3);
            body.corners.emplace_back(p[0], p[1], p[2]);
            if (!isFinite(body.corners.back())) fail("has a corner that is no number");
        } else if (word == "f") {
            std::int64_t f[4] = {0, 0, 0, 0};
            numbers(rest, f, 4);
            ContactBody::Face face;
            for (int k = 0; k < 3; ++k) {
                if (f[k] < 0 || f[k] >= std::int64_t(body.corners.size()))
                    fail("has a face on corners that are not there");
                face.corner[k] = std::uint32_t(f[k]);
            }
            if (f[3] < -1 || f[3] >= std::int64_t(body.kinds.size()))
                fail("has a face of a kind that it does not name");
            face.kind = int(f[3]);
            body.faces.push_back(face);
        } else {
            fail(fmt::format("has a line that begins with \"{}\"", word.substr(0, 20)));
        }
    }
    if (line == 0) {
        line = 1;
        fail("is no contact file");
    }
    return out;
}

ContactBody contactBodyOf(const Model& model, const std::string& name, const glm::dmat4& toFile) {
    ContactBody out{name, {}, {}, {}};
    std::vector<int> number(model.surfaceKinds.size(), -1);
    for (const Collider& body : model.colliders) {
        const Mesh placed = geometry::transformed(*body.mesh, toFile * body.placement);
        const auto base = std::uint32_t(out.corners.size());
        out.corners.insert(out.corners.end(), placed.positions.begin(), placed.positions.end());
        for (std::size_t t = 0; t < placed.triangleCount(); ++t) {
            ContactBody::Face face;
            for (std::size_t k = 0; k < 3; ++k) face.corner[k] = base + placed.indices[3 * t + k];
            if (!placed.surfaces.empty() && placed.surfaces[t] >= 0) {
                int& kind = number[std::size_t(placed.surfaces[t])];
                if (kind < 0) {
                    kind = int(out.kinds.size());
                    out.kinds.push_back(model.surfaceKinds[std::size_t(placed.surfaces[t])]);
                }
                face.kind = kind;
            }
            out.faces.push_back(face);
        }
    }
    return out;
}

} // namespace zl::formats
