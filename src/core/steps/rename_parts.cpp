#include "core/steps/rename_parts.h"

#include "core/base/letters.h"
#include "core/base/pattern.h"
#include "core/platform/name_pattern.h"

#include <set>
#include <unordered_map>

namespace zl::steps {

namespace {

/// As many letters as the platform's rule for names takes, up to those that nearly everything takes.
std::size_t longestOn(const platform::Sheet* sheet) {
    std::size_t longest = 31;
    if (!sheet) return longest;
    for (const platform::RuleSpec* rule : sheet->rulesOf("names")) {
        const platform::NamePattern allowed(rule->texts.at("pattern"));
        std::size_t fits = longest;
        while (fits > 0 && !allowed.matches(std::string(fits, 'a'))) --fits;
        if (fits > 0) longest = fits;
    }
    return longest;
}

/// Lower-case letters, digits and single underscores; never empty.
std::string madeLegal(const std::string& name, std::size_t longest) {
    std::string out;
    for (const char c : lowerCase(name)) {
        const bool fine = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9');
        if (fine)
            out += c;
        else if (!out.empty() && out.back() != '_')
            out += '_';
    }
    out = out.substr(0, longest);
    while (!out.empty() && out.back() == '_') out.pop_back();
    return out.empty() ? "part" : out;
}

/// Names that are told apart without regard to case; numbered ones stay legal where they are to be.
class FreeNames {
public:
    /// Without a `longest`, names need not be legal.
    explicit FreeNames(std::optional<std::size_t> longest) : longest_(longest) {}

    void take(const std::string& name) { taken_.insert(lowerCase(name)); }
    /// `name`, or with a number behind it when it is taken.
    std::string made(const std::string& name) {
        std::string candidate = name;
        int& n = next_.try_emplace(lowerCase(name), 2).first->second;
        for (; !taken_.insert(lowerCase(candidate)).second; ++n) {
            const std::string number = fmt::format("{}{}", longest_ ? "_" : "-", n);
            const std::size_t room = longest_ ? *longest_ - std::min(*longest_, number.size()) : name.size();
            candidate = name.substr(0, room) + number;
        }
        return candidate;
    }

private:
    std::optional<std::size_t> longest_;
    std::set<std::string> taken_;
    std::unordered_map<std::string, int> next_; ///< the number to try next, by name
};

} // namespace

Model RenameParts::apply(const Model& in, StepContext& context) const {
    Model out = in;
    std::size_t count = 0;
    auto list = nlohmann::json::array();
    const std::size_t longest = longestOn(context.sheet);
    const auto rename = [&](auto& things, const auto& nameOf) {
        FreeNames taken(legal ? std::optional(longest) : std::nullopt);
        // Names that stay as they are come first, so that a renamed one steps aside for them.
        std::vector<std::optional<std::string>> fresh(things.size());
        int number = 0;
        for (std::size_t i = 0; i < things.size(); ++i) {
            const auto captured = matchPattern(find, nameOf(things[i]));
            if (captured) {
                std::string name = filledTemplate(become, *captured, nameOf(things[i]), ++number);
                fresh[i] = legal ? madeLegal(name, longest) : name.empty() ? nameOf(things[i]) : name;
            } else {
                taken.take(nameOf(things[i]));
            }
        }
        for (std::size_t i = 0; i < things.size(); ++i) {
            if (!fresh[i]) continue;
            const std::string name = taken.made(*fresh[i]);
            if (name == nameOf(things[i])) continue;
            list.push_back({nameOf(things[i]), name});
            nameOf(things[i]) = name;
            ++count;
        }
    };
    const auto ofThing = [](auto& thing) -> auto& {
        return thing.name;
    };
    if (what != What::Materials) rename(out.nodes, ofThing);
    if (what != What::Objects) rename(out.materials, ofThing);
    context.note(fmt::format("gave {}", showCount(static_cast<long long>(count), "new name", "new names")));
    for (std::size_t i = 0; i < std::min<std::size_t>(list.size(), 8); ++i)
        context.note(fmt::format("{} → {}", list[i][0].get<std::string>(), list[i][1].get<std::string>()));
    if (list.size() > 8) context.note(fmt::format("and {} more", list.size() - 8));
    context.facts = {{"renamed", list}};
    return out;
}

} // namespace zl::steps
