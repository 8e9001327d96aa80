#include "core/package/references.h"

#include "core/base/error.h"
#include "core/formats/row_mesh.h"
#include "core/package/tokens.h"

#include <algorithm>
#include <map>

namespace zl::package {

namespace {

constexpr std::size_t keySize = 28; ///< of a key as text

bool isHex(char c) {
    return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'f') || (c >= 'A' && c <= 'F');
}

int hexValue(char c) {
    return c <= '9' ? c - '0' : (c | 0x20) - 'a' + 10;
}

/// A kind's two digits stand at `at`, and nothing that could belong to them in front.
bool kindAt(std::string_view text, std::size_t at) {
    return at + 3 < text.size() && isHex(text[at]) && isHex(text[at + 1]) &&
           (at == 0 || !isNamePart(text[at - 1]));
}

} // namespace

std::vector<Reference> referencesInText(std::string_view text) {
    std::vector<Reference> out;
    std::size_t end = 0; // of the last one: a name may look like the beginning of a key
    for (std::size_t mark = text.find_first_of(":@"); mark != std::string_view::npos;
         mark = text.find_first_of(":@", mark + 1)) {
        if (mark < end + 2 || !kindAt(text, mark - 2)) continue;
        const std::size_t at = mark - 2;
        Reference found{at, 0, {}, 0, {}};
        if (text[mark] == ':') {
            found.key = files::keyFrom(text.substr(at, keySize));
            if (!found.key ||
                (at + keySize < text.size() && isNamePart(text[at + keySize]) && text[at + keySize] != '.'))
                continue;
            found.size = keySize;
        } else {
            found.name = std::string(nameAt(text, mark + 1));
            if (found.name.empty()) continue;
            found.kind = std::uint32_t(hexValue(text[at]) * 16 + hexValue(text[at + 1]));
            found.size = 3 + found.name.size();
        }
        out.push_back(found);
        end = at + found.size;
        mark = end - 1;
    }
    return out;
}

namespace {

std::vector<Reference> referencesInGeometry(std::string_view bytes) {
    std::vector<Reference> out;
    try {
        for (const formats::RowGroup& group : formats::rowMeshHead(bytes, {}).groups)
            if (group.material.number != 0) out.push_back({group.keyAt, 16, group.material, 0, {}});
    } catch (const Error&) {
        out.clear(); // said where the geometry itself is read
    }
    return out;
}

} // namespace

bool isText(const Resource& resource) {
    return resource.key.is(ResourceKind::Text) || resource.key.is(ResourceKind::Material) ||
           resource.key.is(ResourceKind::Entry) || resource.key.is(ResourceKind::Pose);
}

std::vector<Reference> referencesIn(const Resource& resource) {
    if (resource.key.is(ResourceKind::Geometry)) return referencesInGeometry(*resource.bytes);
    return isText(resource) ? referencesInText(*resource.bytes) : std::vector<Reference>{};
}

Links::Links(const Package& package) : to_(package.resources.size()), by_(package.resources.size()) {
    std::map<ResourceKey, std::size_t> byKey;
    std::map<std::pair<std::uint32_t, std::string_view>, std::size_t> byName;
    for (std::size_t r = 0; r < package.resources.size(); ++r) {
        byKey.try_emplace(package.resources[r].key, r);
        byName.try_emplace({package.resources[r].key.kind, package.resources[r].name}, r);
    }
    for (std::size_t from = 0; from < package.resources.size(); ++from)
        for (Reference& reference : referencesIn(package.resources[from])) {
            std::optional<std::size_t> to;
            if (reference.key) {
                if (const auto found = byKey.find(*reference.key); found != byKey.end()) to = found->second;
            } else if (const auto found = byName.find({reference.kind, reference.name});
                       found != byName.end()) {
                to = found->second;
            }
            if (to) {
                to_[from].push_back(*to);
                by_[*to].push_back(from);
            }
            links_.push_back({from, std::move(reference), to});
        }
    for (auto* lists : {&to_, &by_})
        for (auto& list : *lists) {
            std::ranges::sort(list);
            list.erase(std::unique(list.begin(), list.end()), list.end());
        }
}

std::vector<std::size_t> Links::refersTo(std::size_t resource) const {
    return to_.at(resource);
}

std::vector<std::size_t> Links::referredBy(std::size_t resource) const {
    return by_.at(resource);
}

} // namespace zl::package
