#include "core/learn/patterns.h"

#include <algorithm>
#include <regex>

namespace zl::learn {

namespace {

/// Whether files are called so with braces of their own, which no path of a sheet can say.
bool hasOwnBraces(const std::string& path) {
    static const std::regex place("\\{(name|object|material)(:[a-z-]+)?\\}");
    return std::regex_replace(path, place, "").find_first_of("{}") != std::string::npos;
}

} // namespace

std::vector<PatternFiles> patternFiles(const Evidence& evidence) {
    std::vector<PatternFiles> out;
    std::map<std::string, std::size_t> index;
    for (const Layout::Pattern& pattern : evidence.layout.patterns) {
        if (hasOwnBraces(pattern.path)) continue;
        index[pattern.path] = out.size();
        out.push_back({&pattern, {}, {}});
    }
    std::size_t groups = 0;
    std::vector<std::size_t> named(out.size());
    for (const Group& group : evidence.layout.groups) {
        if (group.refused) continue;
        ++groups;
        std::set<std::string> byModels;
        for (const Member& member : group.members)
            if (const FileFacts& file = evidence.files[member.file]; file.model)
                for (const std::string& picture : file.model->pictures)
                    byModels.insert((std::filesystem::path(file.path).parent_path() / picture)
                                        .lexically_normal()
                                        .generic_string());
        for (const Member& member : group.members) {
            const auto at = index.find(member.pattern);
            if (at == index.end()) continue;
            PatternFiles& pattern = out[at->second];
            if (member.part != pattern.pattern->part) continue;
            const FileFacts& file = evidence.files[member.file];
            pattern.files.push_back(&file);
            pattern.groups.push_back(&group);
            named[at->second] += byModels.contains(file.path);
        }
    }
    for (std::size_t i = 0; i < out.size(); ++i) {
        out[i].named = named[i] * 2 > out[i].files.size();
        out[i].usual = out[i].pattern->groups * 5 >= groups * 3;
    }
    return out;
}

bool PatternFiles::isPacked() const {
    return pattern->part == Part::Picture && usual && !named && isPlaced() && !ownPart(pattern->path).empty();
}

std::string ownPart(const std::string& pattern) {
    std::string out = std::filesystem::path(pattern).stem().string();
    for (std::size_t at; (at = out.find('{')) != std::string::npos;) {
        const std::size_t end = out.find('}', at);
        if (end == std::string::npos) break;
        out.erase(at, end - at + 1);
    }
    return out;
}

} // namespace zl::learn
