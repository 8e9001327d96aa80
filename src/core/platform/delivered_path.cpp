#include "core/platform/delivered_path.h"

#include "core/base/error.h"
#include "core/base/name_styles.h"
#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/files/files.h"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

namespace fs = std::filesystem;

namespace zl::platform {

std::string nameOfPlace(const std::string& place) {
    return place.substr(0, place.find(':'));
}

std::string pathPattern(std::string_view path) {
    std::string out;
    while (!path.empty()) {
        const std::size_t begin = path.find('{'), end = path.find('}', std::min(begin, path.size()));
        out += patternFor(path.substr(0, end == path.npos ? path.npos : begin));
        if (end == path.npos) break;
        if (!out.ends_with('*') || out.ends_with("\\*")) out += '*';
        path.remove_prefix(end + 1);
    }
    return out;
}

std::vector<std::string> placesIn(const std::string& path) {
    std::vector<std::string> out;
    for (std::size_t at = 0; (at = path.find('{', at)) != std::string::npos;) {
        const std::size_t end = path.find('}', at);
        if (end == std::string::npos) break;
        out.push_back(path.substr(at + 1, end - at - 1));
        at = end + 1;
    }
    return out;
}

std::string filledPath(const std::string& path, const std::map<std::string, std::string>& values) {
    std::string out;
    std::size_t from = 0;
    for (const std::string& place : placesIn(path)) {
        const std::size_t at = path.find('{', from);
        out += path.substr(from, at - from);
        from = at + place.size() + 2;
        const auto found = values.find(nameOfPlace(place));
        if (found == values.end()) {
            std::vector<std::string_view> known;
            known.reserve(values.size());
            for (const auto& [name, value] : values) known.push_back(name);
            const auto near = nearestWord(nameOfPlace(place), known);
            throw Error(fmt::format("there is no {{{}}} here", place), path,
                        near.empty() ? "Use one of " + inARow(known) + "."
                                     : fmt::format("{{{}}} perhaps?", near));
        }
        const std::size_t colon = place.find(':');
        NameStyle style = NameStyle::Hyphens;
        if (colon != std::string::npos) {
            const auto& words = nameStyleWords();
            const auto word = std::ranges::find(words, std::string_view(place).substr(colon + 1));
            if (word == words.end())
                throw Error(fmt::format("no name is written {}", place.substr(colon + 1)), path,
                            "Use one of " + inARow(words) + ".");
            style = NameStyle(word - words.begin());
        }
        out += styledName(found->second, style);
    }
    out += path.substr(from);
    const auto inside = files::normalPath(out);
    if (!inside || fs::path(out).is_absolute())
        throw Error(fmt::format("\"{}\" leads out of the delivered folder", out), path,
                    "Expected a path below it.");
    if (out.ends_with('/')) return *inside + "/";
    return *inside;
}

} // namespace zl::platform
