// Limits of how many, how much and how large: each of core/learn/count_kinds is one property.
#include "core/learn/all_properties.h"
#include "core/learn/count_kinds.h"

#include <algorithm>

namespace zl::learn {

namespace {

/// What most sets each refused file apart: the property in which it is furthest above all that was accepted,
/// by ratio; of those that are about as far the first, as corners go with triangles.
using SetApart = std::map<std::size_t, std::pair<double, std::string>>; ///< by file

void noteSetApart(const Property& property, SetApart& files) {
    for (const Seen& seen : property.refused) {
        if (seen.value <= property.most) continue;
        const double ratio = seen.value / std::max(property.most, 1e-9);
        auto& most = files[seen.file];
        if (most.second.empty() || ratio > 1.25 * most.first) most = {ratio, property.id};
    }
}

/// The least value for which a file was refused.
std::optional<double> refusedFrom(const Property& property, const SetApart& files) {
    std::optional<double> out;
    for (const Seen& seen : property.refused) {
        const auto apart = files.find(seen.file);
        if (seen.value <= property.most || apart == files.end() || apart->second.second != property.id)
            continue;
        if (!out || seen.value < *out) out = seen.value;
    }
    return out;
}

} // namespace

void learnCounts(Basis& basis, std::vector<Property>& out) {
    std::vector<std::pair<const CountKind*, Property>> made;
    SetApart files;
    for (const CountKind& count : countKinds()) {
        Property property{count.id, count.label, count.many};
        for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
            const FileFacts& file = basis.evidence.files[i];
            if (const auto value = count.of(file))
                (file.refused ? property.refused : property.accepted).push_back({i, *value, {}});
        }
        if (property.accepted.empty()) continue;
        summarise(property);
        if (count.check && count.offers) noteSetApart(property, files);
        made.emplace_back(&count, std::move(property));
    }
    for (auto& [count, property] : made) {
        if (!basis.isByObjects() || std::string_view(count->id) != "objects") // there each is one
            property.offered =
                limitOffer(*count, property, refusedFrom(property, files), basis.isByObjects());
        out.push_back(std::move(property));
    }
}

} // namespace zl::learn
