#include "core/formats/format.h"
#include "core/formats/write_buffer.h"
#include "core/formats/written_pictures.h"

#include "core/base/unique_names.h"
#include "core/geometry/world.h"
#include "core/texture/colour_transfer.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::formats {

namespace {

/// One line, no line ends; an empty name becomes `fallback`.
std::string oneLine(std::string name, std::string_view fallback) {
    for (char& c : name)
        if (static_cast<unsigned char>(c) < ' ') c = ' ';
    return name.empty() ? std::string(fallback) : name;
}

std::string_view channelLetter(PictureChannel channel) {
    static constexpr std::string_view letters[] = {"l", "r", "g", "b", "m"};
    return letters[std::size_t(channel)];
}

void writeMaterial(WriteBuffer& out, const Material& m, const std::string& name,
                   const std::map<int, std::string>& pictures) {
    out.text("newmtl ").text(name).text("\nKd ");
    for (int k = 0; k < 3; ++k) out.number(texture::toSrgb(m.baseColour[k])).text(k < 2 ? " " : "\n");
    if (m.emission != glm::vec3(0)) {
        out.text("Ke ");
        for (int k = 0; k < 3; ++k) out.number(m.emission[k]).text(k < 2 ? " " : "\n");
    }
    out.text("d ")
        .number(m.baseColour.a)
        .text("\nPr ")
        .number(m.roughness)
        .text("\nPm ")
        .number(m.metalness)
        .text("\n");
    static constexpr std::pair<std::string_view, PictureRole> statements[] = {
        {"map_Kd", PictureRole::Colour},    {"map_d", PictureRole::Opacity},
        {"norm", PictureRole::Normal},      {"map_Bump", PictureRole::Height},
        {"map_Pr", PictureRole::Roughness}, {"map_Pm", PictureRole::Metalness},
        {"map_Ks", PictureRole::Specular},  {"map_Ke", PictureRole::Emission}};
    const auto apart = rolesLyingApart(m);
    for (const auto& [key, role] : statements) {
        const PictureUse& use = m.picture(role);
        const auto found = pictures.find(use.image);
        if (found == pictures.end() || std::ranges::find(apart, role) != apart.end()) continue;
        out.text(key);
        if (isScalar(role) && use.channel != PictureChannel::Colour)
            out.text(" -imfchan ").text(channelLetter(use.channel));
        if (use.sampler.across == Beyond::Clamp && use.sampler.down == Beyond::Clamp) out.text(" -clamp on");
        out.text(" ").text(found->second).text("\n");
    }
    out.text("\n");
}

/// Pictures that an OBJ file has no statement or no UVs for.
void sayDropped(const Model& model, std::vector<std::string>& dropped) {
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        const Material& m = model.materials[index];
        const auto apart = rolesLyingApart(m);
        for (const PictureRole role : allPictureRoles) {
            if (!m.picture(role)) continue;
            if (std::ranges::find(apart, role) != apart.end())
                dropped.push_back(
                    fmt::format("the {} picture of \"{}\", which lies on other UVs than its {} picture",
                                roleName(role), m.name, roleName(leadingRole(m))));
            else if (role == PictureRole::Gloss || role == PictureRole::Occlusion)
                dropped.push_back(fmt::format("the {} picture of \"{}\"", roleName(role), m.name));
        }
    }
}

/// What has been written so far, which the next object's numbers go on from.
struct SoFar {
    std::size_t vertices = 0, uvs = 0, normals = 0;
    bool material = false; ///< a material is in use; OBJ can exchange it but not take it off
};

void writeMesh(WriteBuffer& out, const Mesh& mesh, const std::vector<std::string>& materialNames,
               const std::string& plain, SoFar& soFar) {
    for (std::size_t i = 0; i < mesh.positions.size(); ++i) {
        const glm::vec3& p = mesh.positions[i];
        out.text("v ").number(p.x).text(" ").number(p.y).text(" ").number(p.z);
        if (!mesh.colours.empty())
            for (int k = 0; k < 3; ++k) out.text(" ").number(mesh.colours[i][k]);
        out.text("\n");
    }
    const bool uvs = !mesh.uvSets.empty(), normals = !mesh.normals.empty();
    if (uvs)
        for (const glm::vec2& uv : mesh.uvSets[0])
            out.text("vt ").number(uv.x).text(" ").number(1 - uv.y).text("\n");
    if (normals)
        for (const glm::vec3& n : mesh.normals)
            out.text("vn ").number(n.x).text(" ").number(n.y).text(" ").number(n.z).text("\n");
    for (const MaterialRun& run : mesh.runs) {
        if (run.triangleCount == 0) continue;
        if (run.material >= 0)
            out.text("usemtl ").text(materialNames[run.material]).text("\n");
        else if (soFar.material)
            out.text("usemtl ").text(plain).text("\n");
        soFar.material |= run.material >= 0;
        for (std::size_t c = 3 * std::size_t(run.firstTriangle);
             c < 3 * (std::size_t(run.firstTriangle) + run.triangleCount); ++c) {
            if (c % 3 == 0) out.text("f");
            const std::size_t v = mesh.indices[c] + std::size_t(1);
            out.text(" ").number(v + soFar.vertices);
            if (uvs) out.text("/").number(v + soFar.uvs);
            if (normals) out.text(uvs ? "/" : "//").number(v + soFar.normals);
            if (c % 3 == 2) out.text("\n");
        }
    }
    soFar.vertices += mesh.positions.size();
    if (uvs) soFar.uvs += mesh.positions.size();
    if (normals) soFar.normals += mesh.positions.size();
}

} // namespace

std::vector<OutFile> writeObj(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped) {
    const glm::dmat4 toFile = worldToFile(options);
    WriteBuffer obj, mtl;
    obj.reserve(vertexCount(model) * 70 + triangleCount(model) * 40 + 1024);
    std::vector<OutFile> files(1);
    const auto materials = usedMaterials(model);
    const bool anyMaterial = std::ranges::any_of(materials, [](int m) { return m >= 0; });
    std::vector<std::string> names(model.materials.size());
    std::string plain; // what faces without a material wear behind those with one
    if (anyMaterial) {
        const WrittenPictures pictures = picturesBeside(model, options);
        UniqueNames taken;
        for (const int m : materials) {
            if (m < 0) continue;
            const Material& material = model.materials[m];
            names[m] = taken.made(oneLine(material.name, "material"));
            writeMaterial(mtl, material, names[m], pictures.names);
        }
        if (materials.front() < 0) {
            plain = taken.made("plain");
            writeMaterial(mtl, {}, plain, {});
        }
        obj.text("mtllib ").text(options.name).text(".mtl\n");
        files.push_back({options.name + ".mtl", mtl.take()});
        files.insert(files.end(), pictures.files.begin(), pictures.files.end());
    }
    SoFar soFar;
    bool moreUvs = false;
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        obj.text("o ").text(oneLine(model.nodes[node].name, "object")).text("\n");
        writeMesh(obj,
                  geometry::withPlacedUvs(geometry::transformed(mesh, toFile * toWorld), model.materials),
                  names, plain, soFar);
        moreUvs |= mesh.uvSets.size() > 1;
    });
    files[0] = {options.name + ".obj", obj.take()};
    if (dropped) {
        sayDropped(model, *dropped);
        if (std::ranges::any_of(model.nodes, [](const Node& n) { return n.parent >= 0; }))
            dropped->emplace_back("the hierarchy of objects");
        if (!model.clips.empty()) dropped->emplace_back("clips");
        if (!model.skins.empty()) dropped->emplace_back("bones and weights");
        if (moreUvs) dropped->emplace_back("UV sets after the first");
        for (const auto& mesh : model.meshes)
            if (!mesh->morphs.empty()) {
                dropped->emplace_back("morph targets");
                break;
            }
        dropped->emplace_back("the unit and the up axis (an OBJ file does not say them)");
    }
    return files;
}

} // namespace zl::formats
