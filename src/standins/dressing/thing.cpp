#include "standins/dressing/thing.h"

#include "standins/world/files.h"
#include "standins/world/glb_tree.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::standins::dressing {

namespace {

using Kind = Message::Kind;

// The world's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostFaces = 6, mostTriangles = 20000;

class ThingLoader {
public:
    ThingLoader(const std::filesystem::path& folder, TryReport& report)
        : files_(folder, report), report_(report) {}

    std::optional<Thing> load() {
        if (files_.refused()) return std::nullopt;
        const auto about = files_.description(".thing.json", "faced-thing", {"name", "model", "credit"});
        if (about.is_null()) return std::nullopt;
        thing_.name = about["name"], thing_.credit = about["credit"];
        thing_.lendable = about.contains("lendable") && about["lendable"] == true;
        const std::string model = about["model"];
        const auto bytes = files_.bytes(model);
        if (!bytes) return std::nullopt;
        readFaces(about.value("faces", nlohmann::json()));
        readModel(model, *bytes);
        if (files_.refused()) return std::nullopt;
        report_.accepted = true;
        return std::move(thing_);
    }

private:
    void readFaces(const nlohmann::json& faces) {
        const std::size_t count = faces.is_array() ? faces.size() : 0;
        files_.sayLimit("", showCount(long(count), "face", "faces"), double(count), double(mostFaces));
        if (count == 0) return files_.say(Kind::Refused, "", "It names no faces", "Each material is one");
        for (const nlohmann::json& said : faces) {
            Face face;
            if (said.is_object() && said.contains("name") && said["name"].is_string())
                face.name = said["name"];
            if (said.is_object() && said.contains("picture") && said["picture"].is_string())
                face.pictureFile = said["picture"];
            if (face.name.empty()) files_.say(Kind::Refused, "", "A face has no name", "Name its material");
            if (std::ranges::find(thing_.faces, face.name, &Face::name) != thing_.faces.end())
                files_.say(Kind::Refused, "", fmt::format("Two faces are called \"{}\"", face.name),
                           "Pictures are put on by the face's name");
            if (!face.pictureFile.empty()) face.picture = files_.picture(face.pictureFile, mostEdge, true);
            thing_.faces.push_back(std::move(face));
        }
    }

    void readModel(const std::string& file, const std::string& bytes) {
        auto tree = world::readGlbTree(bytes);
        if (!tree.problem.empty())
            return files_.say(Kind::Refused, file, "The file cannot be read: " + tree.problem,
                              "Build it again");
        for (world::GlbNode& node : tree.nodes)
            for (world::GlbSurface& surface : node.surfaces)
                if (!surface.shape.positions.empty()) addShape(file, std::move(surface), tree);
        if (thing_.shapes.empty() && !files_.refused())
            return files_.say(Kind::Refused, file, "It shows nothing", "A thing must be there");
        judgeFaces(file);
    }

    void judgeFaces(const std::string& file) {
        std::vector<std::string> bare, past;
        std::size_t most = 0;
        for (const Face& face : thing_.faces) {
            files_.refuseOver(
                file, fmt::format("{} triangles on \"{}\"", showNumber(double(face.triangles), 0), face.name),
                double(face.triangles), double(mostTriangles));
            most = std::max(most, face.triangles);
            if (face.triangles == 0) bare.push_back(face.name);
            if (face.triangles > 0 && !face.isInside()) past.push_back(face.name);
        }
        if (most <= mostTriangles)
            files_.say(Kind::Fine, file, showNumber(double(most), 0) + " triangles on the largest face",
                       "takes up to " + showNumber(double(mostTriangles), 0));
        if (!bare.empty())
            files_.say(Kind::Odd, file, fmt::format("On nothing: {}", fmt::join(bare, ", ")),
                       "A picture put there is not seen");
        if (!past.empty())
            files_.say(Kind::Odd, file,
                       fmt::format("Reaching past its picture's borders: {}", fmt::join(past, ", ")),
                       "Another picture put there repeats");
    }

    void addShape(const std::string& file, world::GlbSurface surface, const world::GlbTree& tree) {
        const std::string worn =
            surface.material < 0 ? "" : tree.materials[std::size_t(surface.material)].name;
        const auto face = std::ranges::find(thing_.faces, worn, &Face::name);
        if (face == thing_.faces.end())
            return files_.say(Kind::Refused, file,
                              worn.empty() ? std::string("Something wears no material")
                                           : fmt::format("\"{}\" is not among the faces", worn),
                              "Each material is a face");
        face->colour = tree.materials[std::size_t(surface.material)].colour;
        face->triangles += surface.shape.indices.size() / 3;
        for (const glm::vec2& uv : surface.shape.uvs)
            face->low = glm::min(face->low, uv), face->high = glm::max(face->high, uv);
        thing_.low = glm::min(thing_.low, surface.shape.low());
        thing_.high = glm::max(thing_.high, surface.shape.high());
        thing_.faceOf.push_back(std::size_t(face - thing_.faces.begin()));
        thing_.shapes.push_back(std::move(surface.shape));
    }

    world::Files files_;
    TryReport& report_;
    Thing thing_;
};

} // namespace

std::optional<Thing> loadThing(const std::filesystem::path& folder, TryReport& report) {
    return ThingLoader(folder, report).load();
}

} // namespace zl::standins::dressing
