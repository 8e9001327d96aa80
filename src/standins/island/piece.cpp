#include "standins/island/piece.h"

#include "standins/world/files.h"
#include "standins/world/glb_tree.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::standins::island {

namespace {

using Kind = Message::Kind;

// The builder's limits, stated here a second time on purpose: a game does not ask the product.
constexpr std::size_t mostTriangles = 4000000;
constexpr float groundGap = 2, centimetres = 100;
constexpr int mostReadable = 16384;

double numberIn(const nlohmann::json& about, const char* key) {
    return about.is_object() && about.contains(key) && about[key].is_number() ? about[key].get<double>() : -1;
}

Reckoned reckonedIn(const nlohmann::json& about) {
    Reckoned out;
    const nlohmann::json said = about.value("reckoned", nlohmann::json::object());
    out.upload = numberIn(said, "uploadBytes"), out.mesh = numberIn(said, "meshBytes");
    out.frame = numberIn(said, "frameMilliseconds");
    if (said.is_object() && said.contains("qualities") && said["qualities"].is_array())
        for (const nlohmann::json& quality : said["qualities"])
            for (std::size_t k = 0; k < qualities.size(); ++k)
                if (quality.is_object() && quality.value("name", nlohmann::json()) == qualities[k].name)
                    out.pictures[k] = numberIn(quality, "pictureBytes");
    return out;
}

class PieceLoader {
public:
    PieceLoader(const std::filesystem::path& folder, TryReport& report)
        : files_(folder, report), report_(report) {}

    std::optional<Piece> load() {
        if (files_.refused()) return std::nullopt;
        const auto about = files_.description(".island.json", "island-piece", {"name", "model", "credit"});
        if (about.is_null()) return std::nullopt;
        piece_.name = about["name"], piece_.credit = about["credit"];
        if (about.contains("note") && about["note"].is_string()) piece_.note = about["note"];
        piece_.reckoned = reckonedIn(about);
        const std::string model = about["model"];
        const auto bytes = files_.bytes(model);
        if (!bytes) return std::nullopt;
        piece_.uploadBytes = files_.totalBytes();
        files_.sayBytes(model, fmt::format("an upload of {}", showBytes(double(piece_.uploadBytes))),
                        double(piece_.uploadBytes), mostUpload);
        readModel(model, *bytes);
        if (files_.refused()) return std::nullopt;
        report_.accepted = true;
        return std::move(piece_);
    }

private:
    void readModel(const std::string& file, const std::string& bytes) {
        auto tree = world::readGlbTree(bytes);
        if (!tree.problem.empty())
            return files_.say(Kind::Refused, file, "The file cannot be read: " + tree.problem,
                              "Build it again");
        for (const auto& look : tree.materials)
            pictureOf_.push_back(look.hasPicture ? addPicture(file, look) : -1);
        for (world::GlbNode& node : tree.nodes)
            for (world::GlbSurface& surface : node.surfaces) {
                PieceSurface out{std::move(surface.shape)};
                for (glm::vec3& p : out.shape.positions) p *= centimetres;
                if (out.shape.positions.empty()) continue;
                if (surface.material >= 0) {
                    out.picture = pictureOf_[std::size_t(surface.material)];
                    out.colour = tree.materials[std::size_t(surface.material)].colour;
                }
                piece_.triangles += out.shape.indices.size() / 3;
                piece_.low = glm::min(piece_.low, out.shape.low());
                piece_.high = glm::max(piece_.high, out.shape.high());
                piece_.surfaces.push_back(std::move(out));
            }
        if (piece_.triangles == 0)
            return files_.say(Kind::Refused, file, "It shows nothing", "A piece must be there");
        files_.sayLimit(file, showNumber(double(piece_.triangles), 0) + " triangles",
                        double(piece_.triangles), double(mostTriangles));
        if (std::abs(piece_.low.y) > groundGap)
            files_.say(Kind::Refused, file,
                       fmt::format("Its base is {}\u202fcm {} the ground",
                                   showMeasure(double(std::abs(piece_.low.y))),
                                   piece_.low.y > 0 ? "above" : "below"),
                       "takes at most 2 cm; stand it on the floor");
    }

    int addPicture(const std::string& file, const world::GlbData::Look& look) {
        auto known = pictureFor_.find(look.pictureBytes);
        if (!look.pictureFile.empty())
            files_.say(Kind::Refused, file,
                       fmt::format("The picture of \"{}\" lies beside the file", look.name),
                       "One file is uploaded; it must be inside");
        if (known != pictureFor_.end()) return known->second;
        const world::Judged judged = world::judgedPicture(look.pictureBytes, mostReadable, false);
        if (!judged.picture) {
            files_.say(Kind::Refused, file, fmt::format("The picture of \"{}\": {}", look.name, judged.text),
                       judged.detail);
            return -1;
        }
        const int edge = std::max(judged.picture->width, judged.picture->height),
                  usual = qualities[usualQuality].edge;
        files_.say(
            edge > usual ? Kind::Odd : Kind::Fine, file,
            fmt::format("\"{}\" wears {} by {} px", look.name, judged.picture->width, judged.picture->height),
            edge > usual
                ? fmt::format("shown with {} px along an edge, unless its quality is set to more", usual)
                : std::string("shown as it is"));
        piece_.pictures.push_back(*judged.picture);
        return pictureFor_[look.pictureBytes] = int(piece_.pictures.size()) - 1;
    }

    world::Files files_;
    TryReport& report_;
    Piece piece_;
    std::vector<int> pictureOf_; ///< of each material
    std::map<std::string, int> pictureFor_;
};

} // namespace

std::optional<Piece> loadPiece(const std::filesystem::path& folder, TryReport& report) {
    return PieceLoader(folder, report).load();
}

world::PictureLevels imported(const world::Picture& picture, int edge) {
    const int longest = std::max(picture.width, picture.height);
    if (longest <= edge) return world::levelsOf(picture, true);
    const double share = double(edge) / longest;
    world::Picture out{std::max(1, int(std::lround(picture.width * share))),
                       std::max(1, int(std::lround(picture.height * share))),
                       {}};
    out.rgba.resize(std::size_t(4) * out.width * out.height);
    const auto from = [](int at, int size, int whole) { return int(std::int64_t(at) * whole / size); };
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const int left = from(x, out.width, picture.width), right = from(x + 1, out.width, picture.width),
                      top = from(y, out.height, picture.height),
                      end = from(y + 1, out.height, picture.height);
            unsigned sum[4] = {};
            for (int j = top; j < end; ++j)
                for (int i = left; i < right; ++i)
                    for (std::size_t k = 0; k < 4; ++k)
                        sum[k] += picture.rgba[4 * (std::size_t(j) * picture.width + std::size_t(i)) + k];
            const unsigned count = unsigned((right - left) * (end - top));
            for (std::size_t k = 0; k < 4; ++k)
                out.rgba[4 * (std::size_t(y) * out.width + std::size_t(x)) + k] =
                    static_cast<unsigned char>((sum[k] + count / 2) / count);
        }
    return world::levelsOf(std::move(out), true);
}

double bytesOf(const world::Shape& shape) {
    return double(shape.positions.size() * sizeof(glm::vec3) + shape.normals.size() * sizeof(glm::vec3) +
                  shape.uvs.size() * sizeof(glm::vec2) + shape.indices.size() * sizeof(std::uint32_t));
}

} // namespace zl::standins::island
