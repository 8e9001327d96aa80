// `uv-layout`: how a model lies on a picture, drawn.
#include "cli/commands/all_commands.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/letters.h"
#include "core/base/words.h"
#include "core/formats/format.h"
#include "core/texture/picture_file.h"
#include "core/uv/layout_parts.h"
#include "core/uv/layout_picture.h"
#include "core/uv/overlap.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <iostream>

namespace zl::cli {

namespace {

class UvLayout : public Command {
public:
    std::string name() const override { return "uv-layout"; }
    std::string help() const override { return "draw how a model lies on its picture, to be painted on"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        app.add_option("OUT", out_, "PNG or SVG to write")->required();
        app.add_option("--size", look_.size, "pixels along the longer edge")
            ->check(CLI::Range(16, 8192))
            ->capture_default_str();
        app.add_option("--material", material_,
                       "the material whose parts are drawn; needed where there are several");
        app.add_flag("--picture", look_.picture, "lay the picture below");
        app.add_flag("!--no-names", look_.names, "do not name the parts");
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const std::string kind = lowerCase(std::filesystem::path(out_).extension().string());
        if (kind != ".png" && kind != ".svg")
            throw Error(fmt::format("\"{}\" is neither PNG nor SVG", out_), {},
                        "End its name in .png or .svg.");
        const Model model = formats::readModel(file_, progress.between(0, 0.5));
        const int material = wanted(model);
        const uv::UvFaces faces = uv::uvFaces(model);
        const auto islands = uv::islandsOf(model, faces);
        const auto count = std::ranges::count(islands, material, &uv::UvIsland::material);
        if (count == 0)
            throw Error("no part that wears it has UVs", file_, "Give it UVs first, with the step UVs anew.");
        progress.report(0.6, "drawing the layout");
        writeFile(out_, kind == ".svg"
                            ? uv::layoutSvg(model, faces, islands, material, look_)
                            : texture::encodePng(uv::layoutPicture(model, faces, islands, material, look_)));
        report(model, faces, islands, material);
        return Fine;
    }

private:
    int wanted(const Model& model) const {
        const auto used = usedMaterials(model);
        const auto nameOf = [&](int m) {
            return m < 0 ? std::string("no material") : model.materials[std::size_t(m)].name;
        };
        std::vector<std::string> names;
        for (const int m : used) names.push_back(nameOf(m));
        if (used.empty()) throw Error("it has no triangles", file_, {});
        if (material_.empty() && used.size() == 1) return used.front();
        const auto found = std::ranges::find(names, material_);
        if (material_.empty() || found == names.end())
            throw Error(material_.empty() ? "the model has several materials"
                                          : fmt::format("no material is called \"{}\"", material_),
                        "--material", "Name one of " + showNames(names) + ".");
        return used[std::size_t(found - names.begin())];
    }

    void report(const Model& model, const uv::UvFaces& faces, const std::vector<uv::UvIsland>& islands,
                int material) const {
        uv::UvFaces own;
        for (const uv::UvFace& face : faces.faces)
            if (face.material == material) own.faces.push_back(face);
        const double overlap = uv::overlapOf(own).share;
        std::size_t count = 0, outside = 0, mirrored = 0, stretched = 0;
        double used = 0;
        for (const uv::UvIsland& island : islands) {
            if (island.material != material) continue;
            ++count, used += island.uvArea;
            outside += island.isOutside(), mirrored += island.isMirrored(),
                stretched += island.stretch > uv::muchStretch;
        }
        const glm::ivec2 size = uv::layoutSize(model, material, look_.size);
        if (json)
            print({{"path", out_},
                   {"width", size.x},
                   {"height", size.y},
                   {"islands", count},
                   {"used", used},
                   {"overlap", overlap},
                   {"outside", outside},
                   {"mirrored", mirrored},
                   {"stretched", stretched}});
        else
            std::cout << fmt::format(
                "wrote {} ({} × {} px): {}, {} % used, {} % twice; {} outside, {} mirrored, {} stretched\n",
                out_, size.x, size.y, showCount(long(count), "island", "islands"), showNumber(100 * used, 0),
                showNumber(100 * overlap, 1), outside, mirrored, stretched);
    }

    std::string file_, out_, material_;
    uv::LayoutLook look_;
};

} // namespace

std::unique_ptr<Command> makeUvLayout() {
    return std::make_unique<UvLayout>();
}

} // namespace zl::cli
