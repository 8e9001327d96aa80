#include "core/steps/avatar_licence.h"

#include "core/avatar/licence.h"
#include "core/base/words.h"
#include "core/model/avatar.h"

namespace zl::steps {

namespace {

std::vector<std::string> namesIn(const std::string& text) {
    std::vector<std::string> out;
    for (std::size_t at = 0; at <= text.size();) {
        const std::size_t end = std::min(text.find(',', at), text.size());
        std::string_view one = std::string_view(text).substr(at, end - at);
        while (!one.empty() && one.front() == ' ') one.remove_prefix(1);
        while (!one.empty() && one.back() == ' ') one.remove_suffix(1);
        if (!one.empty()) out.emplace_back(one);
        at = end + 1;
    }
    return out;
}

} // namespace

Model AvatarLicence::apply(const Model& in, StepContext& context) const {
    if (!in.avatar) {
        context.note("it is no avatar yet");
        return in;
    }
    const Provenance known = context.around ? context.around->provenance() : Provenance{};
    Avatar own = *in.avatar;
    auto& licence = own.licence;
    auto names = namesIn(authors);
    if (names.empty()) names = known.authors;
    if (!names.empty()) licence["authors"] = names;
    // A set-up that was carried over says the other's name.
    if (const std::string name = !called.empty() ? called : known.name; !name.empty())
        licence["name"] = name;
    else if (!licence.contains("name") || licence["name"] == "")
        licence["name"] = in.name;
    if (!address.empty())
        licence["licenseUrl"] = address;
    else if (!licence.contains("licenseUrl"))
        licence["licenseUrl"] = avatar::standardLicence;
    if (wearer == Wearer::Project && !known.licence.empty() && !licence.contains("thirdPartyLicenses"))
        licence["thirdPartyLicenses"] = known.licence;
    // What is the maker's own or not allowed at all is for the author alone until somebody says otherwise.
    const Wearer who = wearer != Wearer::Project                    ? wearer
                       : known.allows == Provenance::Allows::Freely ? Wearer::Everyone
                       : known.allows == Provenance::Allows::Asked  ? Wearer::Asked
                                                                    : Wearer::Author;
    licence["avatarPermission"] = who == Wearer::Everyone ? "everyone"
                                  : who == Wearer::Asked  ? "onlySeparatelyLicensedPerson"
                                                          : "onlyAuthor";
    licence["commercialUsage"] = gain == Gain::Firm  ? "corporation"
                                 : gain == Gain::Own ? "personalProfit"
                                                     : "personalNonProfit";
    licence["creditNotation"] = credit ? "required" : "unnecessary";
    licence["allowRedistribution"] = passOn;
    licence["modification"] = change == Change::Passed ? "allowModificationRedistribution"
                              : change == Change::Yes  ? "allowModification"
                                                       : "prohibited";
    const auto missing = avatar::missingOfLicence(licence);
    context.facts = {{"licence", licence}, {"missing", missing}};
    if (names.empty() && licence.contains("authors"))
        for (const auto& one : licence["authors"]) names.push_back(one);
    if (!names.empty()) context.note("made by " + showNames(names));
    context.note(who == Wearer::Everyone ? "everyone may wear it"
                 : who == Wearer::Asked  ? "whoever was given leave may wear it"
                                         : "its author alone may wear it");
    if (!missing.empty())
        context.fellShort(names.empty() ? "nobody is named as its maker: name one here, or at Gather"
                                        : "does not say its " + showNames(missing));
    Model out = in;
    out.avatar = std::make_shared<const Avatar>(std::move(own));
    return out;
}

} // namespace zl::steps
