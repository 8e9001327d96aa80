#include "standins/files/delivered.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::standins::files {

namespace {

std::string row(const std::set<std::string>& words) {
    std::string out;
    std::size_t n = 0;
    for (const std::string& word : words) {
        if (++n > 2) return out + fmt::format(" and {} more", words.size() - 2);
        out += (out.empty() ? "" : ", ") + word;
    }
    return out.empty() ? "none" : out;
}

/// What a delivery is in a few words and numbers; of numbers the second is what differs by a factor.
struct Told {
    std::map<std::string, std::pair<std::string, double>> facts;
    std::vector<std::string> order;

    void say(const std::string& what, std::string words, double value = 0) {
        order.push_back(what);
        facts[what] = {std::move(words), value};
    }
};

Told told(const Delivered& delivered, const platform::FileTerms& terms) {
    Told out;
    std::set<std::string> endings, pictureEndings, materials, nodes, sides;
    double triangles = 0, objects = 0, bytes = 0, corners = 0;
    const auto [low, high] = shownBox(delivered, terms);
    int depth = 0;
    bool uvs = false;
    for (const auto& [path, size] : delivered.files) {
        endings.insert(fs::path(path).extension().string());
        depth = std::max(depth, int(std::ranges::count(path, '/')));
        bytes += double(size);
    }
    for (const auto& [path, size] : delivered.pictures) {
        pictureEndings.insert(fs::path(path).extension().string());
        sides.insert(fmt::format("{} × {}", size.first, size.second));
    }
    std::set<std::string> pictured;
    for (const Read& model : delivered.models) {
        triangles += double(model.triangles), corners = std::max(corners, double(model.corners));
        materials.insert(model.materials.begin(), model.materials.end());
        nodes.insert(model.nodes.begin(), model.nodes.end());
        for (const auto& object : model.objects) {
            objects += 1;
            uvs |=
                std::ranges::any_of(object.shape.uvs, [](const glm::vec2& uv) { return uv != glm::vec2(0); });
            if (!object.picture.empty() || object.inside) pictured.insert(object.name);
        }
    }
    out.say("Kinds of files", row(endings));
    out.say("Folders deep", std::to_string(depth));
    out.say("Files", std::to_string(delivered.files.size()), double(delivered.files.size()));
    out.say("All together", showBytes(bytes), bytes);
    out.say("Triangles", showNumber(triangles, 0), triangles);
    out.say("Corners of a mesh", showNumber(corners, 0), corners);
    out.say("Objects", showNumber(objects, 0), objects);
    out.say("Names of nodes", row(nodes));
    out.say("Materials", row(materials));
    out.say("Kinds of pictures", row(pictureEndings));
    out.say("Sides of pictures", row(sides));
    out.say("Objects with a picture", std::to_string(pictured.size()), double(pictured.size()));
    out.say("Has UVs", uvs ? "yes" : "no");
    if (low.x <= high.x) {
        const char* names[] = {"Width", "Height", "Length"};
        for (int k = 0; k < 3; ++k)
            out.say(names[k], fmt::format("{} {}", showMeasure(high[k] - low[k]), terms.unitName),
                    high[k] - low[k]);
        out.say("Lowest point", fmt::format("{} {}", showMeasure(low.y), terms.unitName), 0);
        const glm::vec3 middle = (low + high) * 0.5f;
        out.say("Middle from origin", fmt::format("{}, {}", showMeasure(middle.x), showMeasure(middle.z)), 0);
    }
    return out;
}

} // namespace

std::vector<Compared> compared(const Delivered& delivered, const Delivered& like,
                               const platform::FileTerms& terms) {
    const Told here = told(delivered, terms), there = told(like, terms);
    std::vector<std::pair<double, Compared>> rows;
    for (const std::string& what : here.order) {
        const auto found = there.facts.find(what);
        if (found == there.facts.end()) continue;
        const auto& [words, value] = here.facts.at(what);
        const auto& [otherWords, other] = found->second;
        double weight = 0;
        if (value > 0 && other > 0)
            weight =
                std::abs(std::log(value / other)) > std::log(1.5) ? 1 + std::abs(std::log(value / other)) : 0;
        else if (words != otherWords)
            weight =
                value == other ? 3 : 2; // words that differ, and something that one has and the other has not
        rows.push_back({weight, {what, words, otherWords, weight > 0}});
    }
    std::ranges::stable_sort(rows, [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<Compared> out;
    for (auto& [weight, one] : rows) out.push_back(std::move(one));
    return out;
}

} // namespace zl::standins::files
