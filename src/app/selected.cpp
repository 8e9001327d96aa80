#include "app/selected.h"

#include "core/base/error.h"
#include "core/base/pattern.h"

namespace zl::app {

void Selected::set(std::set<NodePath> parts, std::set<std::string> materials,
                   std::vector<selection::StoredFaces> faces) {
    if (parts == parts_ && materials == materials_ && faces == faces_) return;
    parts_ = std::move(parts);
    materials_ = std::move(materials);
    faces_ = std::move(faces);
    Q_EMIT changed();
}

void Selected::setFaces(const Model& model, const selection::Chosen& chosen) {
    std::set<NodePath> parts;
    std::vector<selection::StoredFaces> faces;
    for (const selection::Term& term : selection::stored(model, chosen).terms) {
        if (const auto* whole = std::get_if<selection::OfParts>(&term.what))
            parts.insert(whole->paths.begin(), whole->paths.end());
        if (const auto* some = std::get_if<selection::OfFaces>(&term.what)) faces.push_back(some->stored);
    }
    set(std::move(parts), {}, std::move(faces));
}

selection::Selection Selected::asSelection() const {
    selection::Selection out;
    if (!parts_.empty()) out.terms.push_back({selection::OfParts{{}, {parts_.begin(), parts_.end()}}, false});
    if (!materials_.empty()) {
        selection::OfMaterials of;
        for (const std::string& name : materials_) of.names.push_back(patternFor(name));
        out.terms.push_back({std::move(of), false});
    }
    for (const auto& stored : faces_) out.terms.push_back({selection::OfFaces{stored}, false});
    return out;
}

selection::Chosen Selected::in(const Model& model) const {
    selection::Chosen sum{std::vector<std::vector<char>>(model.nodes.size())};
    for (const selection::Term& term : asSelection().terms) try {
            const auto found = selection::chosen(model, {{term}});
            for (std::size_t n = 0; n < sum.faces.size(); ++n) sum.join(n, found.faces[n]);
        } catch (const Error&) {
            continue; // its object is gone or made of other triangles now
        }
    return sum;
}

} // namespace zl::app
