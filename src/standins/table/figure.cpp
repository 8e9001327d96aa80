#include "standins/table/figure.h"

#include "standins/table/obj_file.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <stb_image.h>

#include <fstream>

namespace fs = std::filesystem;

namespace zl::standins::table {

glm::vec3 Shape::low() const {
    glm::vec3 p(1e30f);
    for (const glm::vec3& v : positions) p = glm::min(p, v);
    return p;
}
glm::vec3 Shape::high() const {
    glm::vec3 p(-1e30f);
    for (const glm::vec3& v : positions) p = glm::max(p, v);
    return p;
}

namespace {

using Kind = Message::Kind;

class Loader {
public:
    Loader(fs::path folder, TryReport& report) : folder_(std::move(folder)), report_(report) {}

    std::optional<Figure> load() {
        if (!readDescription()) return std::nullopt;
        const std::string modelName = about_.value("model", "");
        const auto model = open(modelName);
        if (!model) return std::nullopt;
        judgeModel(modelName, *model);
        figure_.model = model->shape;
        loadMaterial(*model);
        if (about_["collider"].is_string())
            loadCollider(about_["collider"].get<std::string>());
        else
            say(Kind::Odd, "", "No collider came with it", "The table puts a box around everything");
        judgeFinish();
        judgeBytes();
        for (const Message& message : report_.messages)
            if (message.kind == Kind::Refused) return std::nullopt;
        report_.accepted = true;
        return std::move(figure_);
    }

private:
    void say(Kind kind, std::string file, std::string text, std::string detail) {
        report_.messages.push_back({kind, std::move(file), std::move(text), std::move(detail)});
    }
    static std::string over(double value, double limit) {
        return fmt::format("takes up to {}, this is {} too many", showNumber(limit, 0),
                           showNumber(value - limit, 0));
    }

    /// A name from the description as a path inside the folder; empty when it would lead out.
    fs::path inside(const std::string& name) const {
        const fs::path path = fs::path(name).lexically_normal();
        if (name.empty() || path.is_absolute() || *path.begin() == ".." || path.has_parent_path()) return {};
        return folder_ / path;
    }

    bool readDescription() {
        std::vector<fs::path> found;
        std::error_code error;
        for (const auto& entry : fs::directory_iterator(folder_, error))
            if (entry.path().filename().string().ends_with(".table.json")) found.push_back(entry.path());
        if (found.empty())
            return say(Kind::Refused, "", "There is no description (NAME.table.json) in the folder",
                       "Build the figure for the table first"),
                   false;
        if (found.size() > 1)
            return say(Kind::Refused, "", fmt::format("{} descriptions lie in one folder", found.size()),
                       "Give each figure a folder of its own"),
                   false;
        const std::string name = found[0].filename().string();
        std::ifstream in(found[0]);
        about_ = nlohmann::json::parse(in, nullptr, false);
        if (about_.is_discarded() || !about_.is_object())
            return say(Kind::Refused, name, "The description is not readable", "It must be JSON"), false;
        if (about_.value("format", nlohmann::json()) != "table-figure")
            return say(Kind::Refused, name, "It does not describe a figure for the table",
                       "\"format\" must be \"table-figure\""),
                   false;
        if (!about_["version"].is_number_integer() || about_["version"] != 1)
            return say(Kind::Refused, name, "It is of a version the table does not know",
                       "The table knows version 1"),
                   false;
        for (const char* key : {"model", "name", "finish", "credit"})
            if (!about_[key].is_string())
                return say(Kind::Refused, name, fmt::format("\"{}\" is missing", key), "It must be a text"),
                       false;
        figure_.name = about_["name"], figure_.finish = about_["finish"], figure_.credit = about_["credit"];
        count(found[0]);
        return true;
    }

    void count(const fs::path& path) {
        std::error_code error;
        const auto size = fs::file_size(path, error);
        if (!error) figure_.bytes += size, ++figure_.files;
    }

    std::optional<ObjFile> open(const std::string& name) {
        const fs::path path = inside(name);
        if (path.empty())
            return say(Kind::Refused, name, "The name leads out of the folder", "Names are plain file names"),
                   std::nullopt;
        if (std::error_code error; !fs::is_regular_file(path, error))
            return say(Kind::Refused, name, "The file is missing", "The description names it"), std::nullopt;
        ObjFile obj = readObjFile(path);
        if (!obj.problem.empty())
            return say(Kind::Refused, name, "The file " + obj.problem, "Build it again"), std::nullopt;
        count(path);
        return obj;
    }

    void judgeModel(const std::string& name, const ObjFile& obj) {
        const bool few = obj.triangles <= limits::triangles;
        say(few ? Kind::Fine : Kind::Refused, name, showNumber(double(obj.triangles), 0) + " triangles",
            few ? fmt::format("takes up to {}", showNumber(double(limits::triangles), 0))
                : over(double(obj.triangles), limits::triangles));
        if (obj.objects > limits::objects)
            say(Kind::Refused, name, fmt::format("{} objects", obj.objects),
                over(double(obj.objects), limits::objects));
        if (obj.materials > limits::materials)
            say(Kind::Refused, name, fmt::format("{} materials", obj.materials),
                over(double(obj.materials), limits::materials));
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
        const fs::path path = inside(obj.materialFile);
        std::error_code error;
        if (path.empty() || !fs::is_regular_file(path, error))
            return say(Kind::Refused, obj.materialFile, "The material file is missing", "The model names it");
        count(path);
        const MaterialFile material = readMaterialFile(path, obj.materialName);
        if (!material.found && !obj.materialName.empty())
            return say(Kind::Refused, obj.materialFile,
                       fmt::format("The material \"{}\" is not in it", obj.materialName),
                       "Names must agree letter by letter");
        figure_.colour = material.colour;
        if (material.picture.empty()) return;
        const fs::path picture = inside(material.picture);
        if (picture.empty() || !fs::is_regular_file(picture, error))
            return say(Kind::Refused, material.picture, "The picture is missing", "The material names it");
        count(picture);
        int width = 0, height = 0, channels = 0;
        if (!stbi_info(picture.c_str(), &width, &height, &channels))
            return say(Kind::Refused, material.picture, "The picture is not readable", "Takes PNG and JPEG");
        const int edge = std::max(width, height);
        if (edge > limits::pictureEdge)
            return say(Kind::Refused, material.picture, fmt::format("{} by {} px", width, height),
                       over(edge, limits::pictureEdge) + " along an edge");
        unsigned char* pixels = stbi_load(picture.c_str(), &width, &height, &channels, 4);
        if (!pixels) return say(Kind::Refused, material.picture, "The picture is broken", "Export it again");
        figure_.picture = Picture{width, height, {pixels, pixels + std::size_t(4) * width * height}};
        stbi_image_free(pixels);
        say(Kind::Fine, material.picture, fmt::format("{} by {} px", width, height),
            "takes up to 2048 px along an edge");
    }

    void loadCollider(const std::string& name) {
        const auto obj = open(name);
        if (!obj) return;
        const bool few = obj->triangles <= limits::colliderTriangles;
        say(few ? Kind::Fine : Kind::Refused, name, fmt::format("collider of {} triangles", obj->triangles),
            few ? fmt::format("takes up to {}", limits::colliderTriangles)
                : over(double(obj->triangles), limits::colliderTriangles));
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
        const double size = double(figure_.bytes);
        const bool small = size <= limits::bytes;
        say(small ? Kind::Fine : Kind::Refused, "",
            fmt::format("{} in {} files", showBytes(size), figure_.files),
            small ? "takes up to 12 MB"
                  : fmt::format("takes up to 12 MB, this is {} too much", showBytes(size - limits::bytes)));
    }

    fs::path folder_;
    TryReport& report_;
    nlohmann::json about_;
    Figure figure_;
};

} // namespace

std::optional<Figure> loadFigure(const fs::path& folder, TryReport& report) {
    std::error_code error;
    if (!fs::is_directory(folder, error)) {
        report.messages.push_back({Kind::Refused, folder.string(), "There is no such folder",
                                   "Build the figure for the table first"});
        return std::nullopt;
    }
    return Loader(folder, report).load();
}

} // namespace zl::standins::table
