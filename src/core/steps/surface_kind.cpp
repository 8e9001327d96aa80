#include "core/steps/surface_kind.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/contact/surfaces.h"

#include <algorithm>

namespace zl::steps {

namespace {

/// Offers what the names of materials say, where they say it of something that is not set so.
void offerGuess(const Model& before, const Model& out, StepContext& context) {
    if (!context.sheet || context.sheet->touch.surfaces.empty()) return;
    const auto guessed = contact::guessedSurfaces(before, context.sheet->touch);
    const auto counts = contact::surfaceCounts(out);
    if (guessed.empty() || !counts.used().contains(-1)) return;
    auto rows = nlohmann::json::array();
    std::vector<std::string> said;
    for (const auto& [material, kind] : guessed) {
        const std::string& name = before.materials[std::size_t(material)].name;
        rows.push_back({{"material", name}, {"kind", kind}});
        said.push_back(fmt::format("{} is {}", name, kind));
    }
    context.offer(fmt::format("As the names say: {}", showNames(said)),
                  {{"by", "materials"}, {"materials", rows}});
}

} // namespace

std::vector<std::string> SurfaceKind::OfMaterial::known(const platform::Sheet& sheet) {
    std::vector<std::string> out;
    for (const contact::SurfaceKind& one : sheet.touch.surfaces) out.push_back(one.name);
    return out;
}

Model SurfaceKind::apply(const Model& in, StepContext& context) const {
    const auto known = context.sheet ? OfMaterial::known(*context.sheet) : std::vector<std::string>();
    Model out = in;
    const auto indexOf = [&](std::string name) {
        if (name.empty() && !known.empty()) name = known[0];
        if (name.empty()) return -1;
        if (!known.empty() && std::ranges::find(known, name) == known.end()) {
            const std::string_view near = nearestWord(name, {known.begin(), known.end()});
            context.fellShort(fmt::format("{} knows no \"{}\"{}", context.sheet->name, name,
                                          near.empty() ? "" : fmt::format("; {} perhaps", near)));
        }
        return surfaceKindIn(out, name);
    };
    std::vector<int> ofMaterial(in.materials.size(), -1);
    std::optional<selection::Chosen> chosen;
    int all = -1;
    if (by == By::Faces) {
        if (kind.empty() && known.empty()) {
            context.fellShort(context.sheet
                                  ? fmt::format("{} knows no kinds of surfaces", context.sheet->name)
                                  : "no platform says what kinds there are");
            return in;
        }
        chosen = context.chosenOrAll(in, faces);
        all = indexOf(kind);
    } else {
        std::vector<std::string> unused;
        for (const OfMaterial& row : materials) {
            if (row.material.empty()) continue;
            const NamePatterns wanted({row.material});
            const int index = indexOf(row.kind);
            bool used = false;
            for (std::size_t m = 0; m < in.materials.size(); ++m)
                if (wanted.match(in.materials[m].name)) {
                    used = true;
                    if (ofMaterial[m] < 0) ofMaterial[m] = index;
                }
            if (!used) unused.push_back(row.material);
        }
        if (!unused.empty()) context.fellShort("there is no material " + showNames(unused));
    }
    std::map<int, std::size_t> painted;
    for (std::size_t n = 0; n < in.nodes.size(); ++n) {
        if (in.nodes[n].mesh < 0 || (chosen && chosen->countOf(n) == 0)) continue;
        const Mesh& mesh = *in.meshes[std::size_t(in.nodes[n].mesh)];
        auto wear = triangleWear(mesh);
        for (std::size_t t = 0; t < wear.size(); ++t) {
            const int material = materialOf(wear[t]);
            const int of = chosen         ? chosen->has(n, t) ? all : -1
                           : material < 0 ? -1
                                          : ofMaterial[std::size_t(material)];
            if (of < 0) continue;
            wear[t] = wearOf(material, of);
            ++painted[of];
        }
        Mesh made = mesh;
        dress(made, wear);
        out.nodes[n].mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(made)));
    }
    for (const auto& [index, count] : painted)
        context.note(fmt::format("{} of {}", showCount(long(count), "face is", "faces are"),
                                 out.surfaceKinds[std::size_t(index)]));
    if (painted.empty()) context.note("nothing is chosen");
    contact::surfacesOntoBodies(out);
    const auto counts = contact::surfaceCounts(out);
    auto& facts = context.facts;
    facts["kinds"] = nlohmann::json::object();
    for (const auto& [index, count] : counts.used())
        if (index >= 0) facts["kinds"][out.surfaceKinds[std::size_t(index)]] = count;
    facts["unset"] = counts.used().contains(-1) ? counts.used().at(-1) : 0;
    if (facts["unset"] != 0)
        context.note(
            fmt::format("{} of nothing yet", showCount(facts["unset"].get<long>(), "face is", "faces are")));
    offerGuess(in, out, context);
    return out;
}

} // namespace zl::steps
