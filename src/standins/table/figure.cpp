#include "standins/table/figure.h"

#include "standins/world/obj_file.h"
#include "standins/world/files.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace fs = std::filesystem;

namespace zl::standins::table {

namespace {

using Kind = Message::Kind;
using world::MaterialFile, world::ObjFile;

class Loader {
public:
    Loader(const fs::path& folder, TryReport& report) : files_(folder, report), report_(report) {}

    std::optional<Figure> load() {
        if (files_.refused()) return std::nullopt;
        about_ = files_.description(".table.json", "table-figure", {"model", "name", "finish", "credit"});
        if (about_.is_null()) return std::nullopt;
        figure_.name = about_["name"], figure_.finish = about_["finish"], figure_.credit = about_["credit"];
        const std::string modelName = about_["model"];
        const auto model = open(modelName);
        if (!model) return std::nullopt;
        judgeModel(modelName, *model);
        figure_.model = model->shape;
        loadMaterial(*model);
        if (about_.contains("collider") && about_["collider"].is_string())
            loadCollider(about_["collider"].get<std::string>());
        else
            say(Kind::Odd, "", "No collider came with it", "The table puts a box around everything");
        judgeFinish();
        judgeBytes();
        if (files_.refused()) return std::nullopt;
        report_.accepted = true;
        return std::move(figure_);
    }

private:
    void say(Kind kind, std::string file, std::string text, std::string detail) {
        files_.say(kind, std::move(file), std::move(text), std::move(detail));
    }

    std::optional<ObjFile> open(const std::string& name) {
        const fs::path path = files_.path(name);
        if (path.empty()) return std::nullopt;
        ObjFile obj = world::readObjFile(path);
        if (!obj.problem.empty()) {
            say(Kind::Refused, name, "Cannot be read: " + obj.problem, "Build it again");
            return std::nullopt;
        }
        return obj;
    }

    void judgeModel(const std::string& name, const ObjFile& obj) {
        files_.sayLimit(name, showNumber(double(obj.triangles), 0) + " triangles", double(obj.triangles),
                        limits::triangles);
        files_.refuseOver(name, fmt::format("{} objects", obj.objects), double(obj.objects), limits::objects);
        files_.refuseOver(name, fmt::format("{} materials", obj.materials), double(obj.materials),
                          limits::materials);
        const glm::vec3 low = obj.shape.low(), high = obj.shape.high();
        const double height = high.y - low.y;
        const bool right = height >= limits::leastHeight * 0.999 && height <= limits::mostHeight * 1.001;
        say(right ? Kind::Fine : Kind::Refused, name, fmt::format("{} u tall", showNumber(height)),
            right ? "between 0.9 and 2.4 u"
                  : fmt::format("takes 0.9 to 2.4 u, this is {} u too {}",
                                showNumber(height > limits::mostHeight ? height - limits::mostHeight
                                                                       : limits::leastHeight - height),
                                height > limits::mostHeight ? "tall" : "small"));
        if (std::abs(low.y) > limits::floorGap * 1.01)
            say(Kind::Refused, name,
                fmt::format("Its feet are {} u {} the table", showNumber(std::abs(low.y), 3),
                            low.y > 0 ? "above" : "below"),
                "takes at most 0.01 u; stand it on the floor");
    }

    void loadMaterial(const ObjFile& obj) {
        if (obj.materialFile.empty()) return;
        const fs::path path = files_.path(obj.materialFile);
        if (path.empty()) return;
        const MaterialFile material = world::readMaterialFile(path, obj.materialName);
        if (!material.found && !obj.materialName.empty())
            return say(Kind::Refused, obj.materialFile,
                       fmt::format("The material \"{}\" is not in it", obj.materialName),
                       "Names must agree letter by letter");
        figure_.colour = material.colour;
        if (!material.picture.empty())
            figure_.picture = files_.picture(material.picture, limits::pictureEdge, false);
    }

    void loadCollider(const std::string& name) {
        const auto obj = open(name);
        if (!obj) return;
        files_.sayLimit(name, fmt::format("collider of {} triangles", obj->triangles), double(obj->triangles),
                        limits::colliderTriangles);
        const double gap = obj->shape.low().y - figure_.model.low().y;
        const bool level = std::abs(gap) <= limits::bottomGap * 1.01;
        say(level ? Kind::Fine : Kind::Refused, name,
            level ? "Its bottom is level with the figure"
                  : fmt::format("Its bottom is {} u {} the figure's", showNumber(std::abs(gap), 3),
                                gap < 0 ? "below" : "above"),
            level ? "so the figure neither floats nor sinks"
                  : fmt::format("takes at most 0.01 u; the figure would {}", gap < 0 ? "float" : "sink"));
        figure_.collider = obj->shape;
    }

    void judgeFinish() {
        static const std::vector<std::string> known{"matte", "satin", "gloss", "wood"};
        if (std::ranges::find(known, figure_.finish) == known.end())
            say(Kind::Refused, "", fmt::format("The finish \"{}\" is unknown", figure_.finish),
                "Takes matte, satin, gloss or wood");
    }

    void judgeBytes() {
        figure_.bytes = files_.totalBytes(), figure_.files = files_.count();
        const double size = double(figure_.bytes);
        const bool small = size <= limits::bytes;
        say(small ? Kind::Fine : Kind::Refused, "",
            fmt::format("{} in {} files", showBytes(size), figure_.files),
            small ? "takes up to 12 MB"
                  : fmt::format("takes up to 12 MB, this is {} too much", showBytes(size - limits::bytes)));
    }

    world::Files files_;
    TryReport& report_;
    nlohmann::json about_;
    Figure figure_;
};

} // namespace

std::optional<Figure> loadFigure(const fs::path& folder, TryReport& report) {
    return Loader(folder, report).load();
}

} // namespace zl::standins::table
