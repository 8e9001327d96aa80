#include "core/formats/row_mesh.h"

#include "core/formats/write_buffer.h"

#include "core/base/error.h"
#include "core/base/utf8.h"

#include <fmt/format.h>

#include <cassert>

namespace zl::formats {

namespace {

constexpr std::string_view rowMark = "ROWMESH1";
constexpr std::size_t bytesOfCorner = 32, bytesOfTriangle = 12; ///< place, normal, UV; three numbers

/// Numbers one after the other, little endian as every machine we build for.
class Bytes {
public:
    Bytes(std::string_view bytes, const std::string& where) : bytes_(bytes), where_(where) {}

    template <class T>
    T next() {
        T value{};
        demand(sizeof value);
        std::memcpy(&value, bytes_.data() + at_, sizeof value);
        at_ += sizeof value;
        return value;
    }
    std::string_view text(std::size_t size) {
        demand(size);
        at_ += size;
        return bytes_.substr(at_ - size, size);
    }
    std::size_t at() const { return at_; }
    void demand(std::size_t size) const {
        if (size > bytes_.size() - at_)
            throw Error(fmt::format("ends after {}", showBytes(double(bytes_.size()))), where_,
                        "The geometry was cut off; copy the package again.");
    }

private:
    std::string_view bytes_;
    const std::string& where_;
    std::size_t at_ = 0;
};

void putGroup(WriteBuffer& out, const RowGroup& group) {
    out.bytes(group.firstTriangle).bytes(group.triangleCount);
    out.bytes(group.material.kind).bytes(group.material.group).bytes(group.material.number);
    const auto length = std::uint16_t(std::min<std::size_t>(group.name.size(), 0xffff));
    out.bytes(length).text(std::string_view(group.name).substr(0, length));
}

} // namespace

RowMeshHead rowMeshHead(std::string_view bytes, const std::string& where) {
    Bytes in(bytes, where);
    if (!bytes.starts_with(rowMark))
        throw Error("is no geometry of a row package", where, "Take it out of the package again.");
    in.text(rowMark.size());
    RowMeshHead head;
    const auto up = in.next<std::uint32_t>();
    if (up > 1) throw Error(fmt::format("names axis {} as up", up), where, "Expected 0 for Y or 1 for Z.");
    head.up = up == 1 ? Up::Z : Up::Y;
    head.corners = in.next<std::uint32_t>(), head.triangles = in.next<std::uint32_t>();
    const auto groups = in.next<std::uint32_t>();
    in.demand(std::size_t(groups) * 26 + std::size_t(head.corners) * bytesOfCorner +
              std::size_t(head.triangles) * bytesOfTriangle);
    std::uint64_t covered = 0;
    for (std::uint32_t g = 0; g < groups; ++g) {
        RowGroup group;
        group.firstTriangle = in.next<std::uint32_t>(), group.triangleCount = in.next<std::uint32_t>();
        group.keyAt = in.at();
        group.material.kind = in.next<std::uint32_t>(), group.material.group = in.next<std::uint32_t>();
        group.material.number = in.next<std::uint64_t>();
        group.nameAt = in.at();
        group.name = asUtf8(in.text(in.next<std::uint16_t>()));
        if (group.firstTriangle != covered)
            throw Error(fmt::format("leaves a gap before group {}", g + 1), where,
                        "Its groups must follow one another.");
        covered += group.triangleCount;
        head.groups.push_back(std::move(group));
    }
    if (covered != head.triangles)
        throw Error(fmt::format("has groups of {} triangles and {} in all", covered, head.triangles), where,
                    "Its groups must cover all triangles.");
    head.arraysAt = in.at();
    in.demand(std::size_t(head.corners) * bytesOfCorner + std::size_t(head.triangles) * bytesOfTriangle);
    return head;
}

std::string rowMeshBytes(const Mesh& mesh, Up up, const std::vector<RowGroup>& groups) {
    assert(mesh.normals.size() == mesh.positions.size());
    WriteBuffer out;
    out.reserve(64 + 64 * groups.size() + mesh.vertexCount() * bytesOfCorner +
                mesh.triangleCount() * bytesOfTriangle);
    out.text(rowMark).bytes(std::uint32_t(up == Up::Z ? 1 : 0));
    out.bytes(std::uint32_t(mesh.vertexCount())).bytes(std::uint32_t(mesh.triangleCount()));
    out.bytes(std::uint32_t(groups.size()));
    for (const RowGroup& group : groups) putGroup(out, group);
    for (const glm::vec3& p : mesh.positions) out.bytes(p);
    for (const glm::vec3& n : mesh.normals) out.bytes(n);
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v)
        out.bytes(mesh.uvSets.empty() ? glm::vec2(0) : mesh.uvSets[0][v]);
    for (const std::uint32_t i : mesh.indices) out.bytes(i);
    return out.take();
}

std::string withRowGroups(std::string_view bytes, const std::string& where,
                          const std::vector<RowGroup>& groups) {
    const RowMeshHead head = rowMeshHead(bytes, where);
    assert(groups.size() == head.groups.size());
    WriteBuffer out;
    const std::size_t fixed = rowMark.size() + 4 * sizeof(std::uint32_t);
    out.text(bytes.substr(0, fixed));
    for (const RowGroup& group : groups) putGroup(out, group);
    out.text(bytes.substr(head.arraysAt));
    return out.take();
}

} // namespace zl::formats
