// Lampwright's level text (docs/formats/level-text.md): reader and writer.
#include "core/formats/format.h"
#include "core/formats/picture_beside.h"
#include "core/formats/text.h"
#include "core/formats/write_buffer.h"
#include "core/formats/written_pictures.h"

#include "core/base/error.h"
#include "core/base/unique_names.h"
#include "core/geometry/normals.h"
#include "core/geometry/world.h"
#include "core/model/axes.h"
#include "core/texture/colour_transfer.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::formats {

namespace {

std::string inQuotes(const std::string& name) {
    std::string out = "\"";
    for (const char c : name) {
        if (c == '"' || c == '\\') out += '\\';
        out += static_cast<unsigned char>(c) < ' ' ? ' ' : c;
    }
    return out + "\"";
}

class LevelReader {
public:
    LevelReader(std::string_view text, files::SourceFile& source) : scan_(text), source_(source) {}

    Model read() {
        expectHead();
        bool ended = false;
        while (!scan_.atEnd() && !ended) {
            scan_.skipBlanks();
            const std::string_view word = scan_.word();
            if (word == "unit")
                readUnit();
            else if (word == "axes")
                readAxes();
            else if (word == "material")
                startMaterial();
            else if (word == "colour" && material_)
                for (int k = 0; k < 3; ++k) material_->baseColour[k] = texture::fromSrgb(number(0.8f));
            else if (word == "picture" && material_)
                readPicture();
            else if (word == "object")
                startObject();
            else if (word == "use")
                use();
            else if (word == "corner")
                readCorner();
            else if (word == "face")
                readFace();
            else if (word == "end")
                ended = true;
            else if (!word.empty() && word[0] != '#')
                fail(fmt::format("\"{}\" is not known here", word.substr(0, 40)));
            scan_.skipLine();
            ++line_;
        }
        if (!ended) fail("the file was cut off: it has no \"end\"");
        finishObject();
        placeAxes();
        return std::move(model_);
    }

private:
    [[noreturn]] void fail(const std::string& what) const {
        throw Error(what, fmt::format("{}:{}", source_.where(), line_), "Build the level again.");
    }
    float number(float fallback) {
        scan_.skipBlanks();
        float value = fallback;
        scan_.number(value);
        return value;
    }
    std::string name() {
        scan_.skipBlanks();
        if (!scan_.take('"')) fail("a name in quotation marks is missing");
        std::string out;
        while (!scan_.atEnd() && scan_.peek() != '\n') {
            if (scan_.take('"')) return out;
            scan_.take('\\');
            out += scan_.peek();
            scan_.take(scan_.peek());
        }
        fail("a name has no closing quotation mark");
    }

    void expectHead() {
        if (scan_.word() != "lampwright-level") fail("this is no level text");
        int version = 0;
        scan_.skipBlanks();
        if (!scan_.number(version) || version != 1) fail("the version is not known; 1 is");
        scan_.skipLine();
        ++line_;
    }
    void readUnit() {
        const float metres = number(0);
        if (!(metres > 0) || !std::isfinite(metres)) fail("the unit is not a length");
        model_.frame.unit = unitOfMetres(metres);
        model_.frame.unitAssumed = false;
    }
    void readAxes() {
        scan_.skipBlanks();
        const std::string up(scan_.word());
        scan_.skipBlanks();
        front_ = std::string(scan_.word());
        if ((up != "Y" && up != "Z") || axisNamed(front_) == glm::dvec3(0) || front_.substr(1) == up)
            fail("the axes are not two different ones");
        model_.frame.up = up == "Y" ? Up::Y : Up::Z;
        model_.frame.upAssumed = false;
        model_.headingKnown = true;
    }
    void startMaterial() {
        const std::string called = name();
        if (!materials_.try_emplace(called, int(model_.materials.size())).second)
            fail(fmt::format("the material \"{}\" stands there twice", called));
        model_.materials.push_back({.name = called});
        material_ = &model_.materials.back();
    }
    void readPicture() {
        const std::string file = name();
        const auto beside = source_.beside(file);
        if (!beside) {
            model_.warnings.push_back(
                fmt::format("the picture \"{}\" is missing; put it beside the level", file));
            return;
        }
        try {
            model_.images.push_back(pictureBeside(source_, *beside));
            material_->picture(PictureRole::Colour).image = int(model_.images.size()) - 1;
            material_->baseColour = glm::vec4(1);
        } catch (const Error& error) {
            model_.warnings.push_back("the picture " + error.sentence());
        }
    }
    void startObject() {
        finishObject();
        mesh_ = std::make_shared<Mesh>();
        mesh_->name = name();
        mesh_->uvSets.emplace_back();
    }
    void use() {
        const std::string called = name();
        const auto found = materials_.find(called);
        if (found == materials_.end()) fail(fmt::format("the material \"{}\" is not described", called));
        current_ = found->second;
    }
    void readCorner() {
        if (!mesh_) fail("a corner stands outside an object");
        float v[8];
        int count = 0;
        for (; count < 8; ++count) {
            scan_.skipBlanks();
            if (!scan_.number(v[count])) break;
        }
        if (count != 3 && count != 6 && count != 8) fail("a corner has neither 3, 6 nor 8 numbers");
        mesh_->positions.emplace_back(v[0], v[1], v[2]);
        if (count >= 6) mesh_->normals.emplace_back(v[3], v[4], v[5]);
        if (count == 8) mesh_->uvSets[0].emplace_back(v[6], v[7]);
    }
    void readFace() {
        if (!mesh_) fail("a face stands outside an object");
        for (int k = 0; k < 3; ++k) {
            int corner = -1;
            scan_.skipBlanks();
            if (!scan_.number(corner) || corner < 0) fail("a face has no three corners");
            mesh_->indices.push_back(static_cast<std::uint32_t>(corner));
        }
        faceMaterials_.push_back(current_);
    }
    void finishObject() {
        if (!mesh_) return;
        const std::size_t corners = mesh_->vertexCount();
        if (mesh_->normals.size() != corners) mesh_->normals.clear();
        if (mesh_->uvSets[0].size() != corners || corners == 0) mesh_->uvSets.clear();
        for (const std::uint32_t i : mesh_->indices)
            if (i >= corners)
                fail(fmt::format("a face of \"{}\" refers to a corner that is not there", mesh_->name));
        std::vector<std::uint32_t> all(corners);
        for (std::uint32_t i = 0; i < corners; ++i) all[i] = i;
        auto indices = std::move(mesh_->indices);
        Mesh sorted = withVertices(*mesh_, all, std::move(indices), wearOf(faceMaterials_));
        model_.nodes.push_back({sorted.name, -1, glm::dmat4(1.0), int(model_.meshes.size())});
        model_.meshes.push_back(std::make_shared<const Mesh>(std::move(sorted)));
        mesh_.reset();
        faceMaterials_.clear();
        current_ = -1;
    }
    void placeAxes() {
        const double metres = model_.frame.unit.metres;
        const std::string_view front =
            front_.empty() ? usualFront(model_.frame.up) : std::string_view(front_);
        model_.placement =
            glm::dmat4(glm::transpose(glm::dmat3(worldToAxes(model_.frame.up, front))) * metres);
        model_.placement[3][3] = 1;
    }

    Scanner scan_;
    files::SourceFile& source_;
    int line_ = 1;
    Model model_;
    std::string front_;
    std::map<std::string, int> materials_;
    Material* material_ = nullptr;
    std::shared_ptr<Mesh> mesh_;
    std::vector<int> faceMaterials_;
    int current_ = -1;
};

} // namespace

Model readLevelText(files::SourceFile& source, const Progress&) {
    const FileBytes file = source.bytes();
    std::string storage;
    return LevelReader(textOf(file, storage), source).read();
}

std::vector<OutFile> writeLevelText(const Model& model, const WriteOptions& options,
                                    std::vector<std::string>* dropped) {
    const WrittenPictures pictures = picturesBeside(model, options);
    const glm::dmat4 toFile = worldToFile(options);
    WriteBuffer out;
    out.text("lampwright-level 1\nunit ").number(options.metresPerUnit);
    out.text("\naxes ").text(options.up == Up::Y ? "Y " : "Z ");
    out.text(options.front.empty() ? usualFront(options.up) : options.front).text("\n");
    UniqueNames taken;
    std::vector<std::string> names(model.materials.size());
    for (const int m : usedMaterials(model)) {
        if (m < 0) continue;
        const Material& material = model.materials[m];
        names[m] = taken.made(material.name);
        out.text("material ").text(inQuotes(names[m])).text("\ncolour");
        for (int k = 0; k < 3; ++k) out.text(" ").number(texture::toSrgb(material.baseColour[k]));
        out.text("\n");
        if (const auto picture = pictures.names.find(material.image(PictureRole::Colour));
            picture != pictures.names.end())
            out.text("picture ").text(inQuotes(picture->second)).text("\n");
    }
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        // A corner has UVs behind its normal only, so what has UVs gets normals.
        const bool needsNormals = mesh.normals.empty() && !mesh.uvSets.empty() && !mesh.indices.empty();
        const Mesh placed = geometry::withPlacedUvs(
            geometry::transformed(needsNormals ? geometry::withNormals(mesh) : mesh, toFile * toWorld),
            model.materials);
        out.text("object ").text(inQuotes(model.nodes[node].name)).text("\n");
        const bool normals = !placed.normals.empty(), uvs = normals && !placed.uvSets.empty();
        const auto put = [&](const auto& v) {
            for (int k = 0; k < v.length(); ++k) out.text(" ").number(v[k]);
        };
        for (std::size_t i = 0; i < placed.positions.size(); ++i) {
            out.text("corner");
            put(placed.positions[i]);
            if (normals) put(placed.normals[i]);
            if (uvs) put(placed.uvSets[0][i]);
            out.text("\n");
        }
        // A material in use cannot be taken off again, so what has none comes first.
        std::vector<MaterialRun> runs = placed.runs;
        std::stable_partition(runs.begin(), runs.end(),
                              [](const MaterialRun& run) { return run.material < 0; });
        for (const MaterialRun& run : runs) {
            if (run.triangleCount == 0) continue;
            if (run.material >= 0) out.text("use ").text(inQuotes(names[run.material])).text("\n");
            for (std::size_t c = 3 * std::size_t(run.firstTriangle);
                 c < 3 * (std::size_t(run.firstTriangle) + run.triangleCount); ++c) {
                if (c % 3 == 0) out.text("face");
                out.text(" ").number(placed.indices[c]);
                if (c % 3 == 2) out.text("\n");
            }
        }
    });
    out.text("end\n");
    if (dropped) {
        if (std::ranges::any_of(model.nodes, [](const Node& n) { return n.parent >= 0; }))
            dropped->emplace_back("the hierarchy of objects");
        if (!model.skins.empty()) dropped->emplace_back("bones and weights");
        if (!model.clips.empty()) dropped->emplace_back("clips");
    }
    std::vector<OutFile> files{{options.name + ".lamplevel", out.take()}};
    files.insert(files.end(), pictures.files.begin(), pictures.files.end());
    return files;
}

} // namespace zl::formats
