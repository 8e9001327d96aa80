// Texts beside models: what they have in common is a template, what differs is explained by the files or
// asked.
#include "core/base/toml_text.h"
#include "core/base/words.h"
#include "core/learn/group_data.h"
#include "core/learn/patterns.h"
#include "core/learn/text_shape.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::learn {

namespace {

constexpr std::size_t mostSamples = 40; ///< more say the same

std::string sectionsOf(const std::string& path, const TextShape& shape, bool windowsLines,
                       std::set<std::string>& asked) {
    std::string out;
    for (const Unexplained& ask : shape.asks) {
        if (!asked.insert(ask.name).second) continue;
        out += fmt::format("[[ask]]\nname = {}\nlabel = {}\n", tomlText(ask.name), tomlText(ask.name));
        // A few words that come again are all there are; texts that are all different are free.
        const bool few =
            ask.seen.size() >= 2 && ask.seen.size() <= 6 &&
            std::ranges::none_of(ask.seen, [](const auto& text) { return text.empty() || text.size() > 24; });
        if (few) {
            std::vector<std::string> quoted;
            for (const std::string& text : ask.seen) quoted.push_back(tomlText(text));
            out += fmt::format("options = [{}]\n", inARow(quoted));
        } else if (!ask.usual.empty() && ask.seen.size() < 2) {
            out += fmt::format("usual = {}\n", tomlText(ask.usual));
        }
        out += "\n";
    }
    const auto isPlain = [](unsigned char c) { return (c >= 0x20 && c != 0x7f) || c == '\n' || c == '\t'; };
    const bool plain =
        shape.text.find("'''") == std::string::npos && std::ranges::all_of(shape.text, isPlain);
    return out + fmt::format("[[text]]\npath = {}\n{}text = {}\n", tomlText(path),
                             windowsLines ? "lines = \"windows\"\n" : "",
                             plain ? "'''\n" + shape.text + "'''" : tomlText(shape.text));
}

} // namespace

void learnTexts(Basis& basis, std::vector<Property>& out) {
    const Evidence& evidence = basis.evidence;
    std::set<std::string> asked;
    std::map<const Group*, nlohmann::json> data;
    for (const PatternFiles& own : patternFiles(evidence)) {
        if (own.pattern->part != Part::Text || !own.usual) continue;
        const std::string& path = own.pattern->path;
        Property property{"text:" + path, "Text " + path, ""};
        std::vector<Sample> samples;
        std::map<std::string, std::map<std::string, std::size_t>> fields;
        for (std::size_t i = 0; i < own.files.size(); ++i) {
            const FileFacts& file = *own.files[i];
            property.accepted.push_back({std::size_t(&file - evidence.files.data()), 0, file.path});
            if (samples.size() >= mostSamples) continue;
            auto found = data.find(own.groups[i]);
            if (found == data.end())
                found = data.emplace(own.groups[i], groupData(*own.groups[i], evidence.files,
                                                              titleOf(*own.groups[i], evidence.files)))
                            .first;
            samples.push_back({&*file.text, &found->second});
        }
        const TextShape shape = shapeOf(samples, escapingFor(path));
        if (shape.text.empty()) continue; // the commonest text is an empty one
        Offer offer;
        const auto windows =
            std::ranges::count_if(samples, [](const auto& s) { return s.text->windowsLines; });
        offer.sections = sectionsOf(path, shape, 2 * std::size_t(windows) > samples.size(), asked);
        offer.isSure = shape.isWhole;
        offer.confidence =
            shareWords(own.files.size(), own.files.size(), "text is one template", "texts are one template");
        if (!shape.asks.empty()) {
            std::vector<std::string> names;
            for (const Unexplained& ask : shape.asks) names.push_back(ask.name);
            offer.confidence += "; asked at delivery: " + showNames(names);
        }
        if (!shape.guessed.empty()) offer.confidence += "; guessed: " + showNames(shape.guessed);
        property.offered = std::move(offer);
        out.push_back(std::move(property));
    }
}

} // namespace zl::learn
