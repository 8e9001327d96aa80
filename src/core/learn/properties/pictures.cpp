// What pictures have in common: kinds, sides, alpha.
#include "core/learn/all_properties.h"

#include <fmt/format.h>

#include <bit>

namespace zl::learn {

namespace {

using platform::RuleSpec;
using platform::Severity;

/// Every picture: files, and those inside models.
void forEachPicture(const Evidence& evidence, const auto& visit) {
    for (std::size_t i = 0; i < evidence.files.size(); ++i) {
        const FileFacts& file = evidence.files[i];
        if (file.picture) visit(i, *file.picture);
        if (file.model)
            for (const PictureFacts& inside : file.model->inside)
                if (inside.width > 0) visit(i, inside);
    }
}

Property powerOfTwo(const Evidence& evidence) {
    Property out{"power-of-two", "Picture sides are powers of two", ""};
    std::size_t holding = 0, refusedBreaking = 0, sizes = 0;
    std::set<std::pair<int, int>> seen;
    forEachPicture(evidence, [&](std::size_t i, const PictureFacts& picture) {
        const bool holds =
            std::has_single_bit(unsigned(picture.width)) && std::has_single_bit(unsigned(picture.height));
        const Seen one{i, holds ? 0.0 : 1.0, fmt::format("{} × {}", picture.width, picture.height)};
        if (evidence.files[i].refused) {
            out.refused.push_back(one), refusedBreaking += !holds;
            return;
        }
        out.accepted.push_back(one), holding += holds;
        sizes += seen.emplace(picture.width, picture.height).second;
        if (!holds) out.outliers.push_back(i);
    });
    const std::size_t all = out.accepted.size();
    if (holding * 2 < all) out.outliers.clear();
    if (all < 3 || holding < all) return out;
    Offer offer;
    // One size everywhere says more of its makers' habits than of the game.
    offer.isSure = all >= 5 || refusedBreaking > 0;
    offer.rule = usualRule("power-of-two", offer.isSure ? Severity::Must : Severity::Should,
                           "All pictures that the game took have such sides.");
    offer.confidence = fmt::format("{} have such sides, of {} different sizes",
                                   shareWords(holding, all, "picture", "pictures"), sizes);
    if (refusedBreaking > 0)
        offer.confidence += fmt::format("; {} refused {} not", refusedBreaking,
                                        refusedBreaking == 1 ? "one has" : "ones have");
    out.offered = std::move(offer);
    return out;
}

Property kinds(const Evidence& evidence) {
    Property out{"picture-format", "Kinds of pictures", ""};
    std::map<std::string, std::size_t> kinds;
    forEachPicture(evidence, [&](std::size_t i, const PictureFacts& picture) {
        (evidence.files[i].refused ? out.refused : out.accepted).push_back({i, 0, picture.format});
        if (!evidence.files[i].refused) ++kinds[picture.format];
    });
    if (out.accepted.empty()) return out;
    std::string list, words;
    for (const auto& [kind, count] : kinds) {
        list += (list.empty() ? "" : ", ") + kind;
        words += fmt::format("{}{} {}", words.empty() ? "" : ", ", count, kind);
    }
    Offer offer;
    offer.isSure = out.accepted.size() >= 3;
    RuleSpec rule =
        usualRule("picture-format", Severity::Should, "The game took no other kinds of pictures.");
    rule.texts["formats"] = list;
    offer.rule = std::move(rule);
    offer.confidence = words;
    out.offered = std::move(offer);
    return out;
}

/// Whether any picture of a colour has alpha that says something.
Property alpha(const Evidence& evidence) {
    Property out{"alpha", "Alpha", ""};
    std::size_t with = 0;
    forEachPicture(evidence, [&](std::size_t i, const PictureFacts& picture) {
        if (picture.normalShare > 0.8) return; // a relief's alpha is another thing
        const bool has = picture.alpha;
        (evidence.files[i].refused ? out.refused : out.accepted)
            .push_back({i, has ? 1.0 : 0.0,
                        !has                               ? "none"
                        : picture.channels[3].isOneValue() ? "one value"
                                                           : "says something"});
        if (!evidence.files[i].refused) with += has;
    });
    const std::size_t all = out.accepted.size();
    if (all < 5 || with > 0) return out;
    Offer offer;
    offer.isSure = std::ranges::any_of(out.refused, [](const Seen& seen) { return seen.value > 0; });
    offer.rule = usualRule("alpha-unwanted", offer.isSure ? Severity::Must : Severity::Should,
                           "No picture that the game took has alpha.");
    offer.confidence = fmt::format("{} have none", shareWords(all, all, "picture", "pictures"));
    out.offered = std::move(offer);
    return out;
}

} // namespace

void learnPictures(Basis& basis, std::vector<Property>& out) {
    for (auto made : {powerOfTwo, kinds, alpha})
        if (Property property = made(basis.evidence); !property.accepted.empty())
            out.push_back(std::move(property));
}

} // namespace zl::learn
