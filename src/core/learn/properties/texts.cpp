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

/// Questions that a sheet can have (platform/sheet_files.cpp).
constexpr std::size_t mostQuestions = 8;

std::string questionOf(const Unexplained& ask) {
    std::string out = fmt::format("[[ask]]\nname = {}\nlabel = {}\n", tomlText(ask.name), tomlText(ask.name));
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
    return out;
}

/// What a sheet cannot ask any more is written as most texts have it.
void askLess(TextShape& shape, std::set<std::string>& asked, Escaping as) {
    std::erase_if(shape.asks, [&](const Unexplained& ask) {
        if (asked.contains(ask.name) || asked.size() < mostQuestions) {
            asked.insert(ask.name);
            return false;
        }
        const std::string place = "{{answers." + ask.name + "}}", usual = asWritten(literally(ask.usual), as);
        for (std::size_t at = 0; (at = shape.text.find(place, at)) != std::string::npos; at += usual.size())
            shape.text.replace(at, place.size(), usual);
        shape.guessed.push_back(ask.name), shape.isWhole = false;
        return true;
    });
}

std::string sectionOf(const std::string& path, const std::string& text, bool windowsLines) {
    const auto isPlain = [](unsigned char c) { return (c >= 0x20 && c != 0x7f) || c == '\n' || c == '\t'; };
    const bool plain = text.find("'''") == std::string::npos && std::ranges::all_of(text, isPlain);
    return fmt::format("[[text]]\npath = {}\n{}text = {}\n", tomlText(path),
                       windowsLines ? "lines = \"windows\"\n" : "",
                       plain ? "'''\n" + text + "'''" : tomlText(text));
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
        TextShape shape = shapeOf(samples, escapingFor(path));
        askLess(shape, asked, escapingFor(path));
        if (shape.text.empty()) continue; // the commonest text is an empty one
        Offer offer;
        const auto windows =
            std::ranges::count_if(samples, [](const auto& s) { return s.text->windowsLines; });
        offer.sections = sectionOf(path, shape.text, 2 * std::size_t(windows) > samples.size());
        for (const Unexplained& ask : shape.asks) offer.asks[ask.name] = questionOf(ask);
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
