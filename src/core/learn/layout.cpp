#include "core/learn/layout.h"

#include "core/base/letters.h"

#include <algorithm>
#include <map>

namespace zl::learn {

namespace {

std::string folderOf(const std::string& path) {
    const std::size_t slash = path.rfind('/');
    return slash == std::string::npos ? "" : path.substr(0, slash + 1);
}
std::string nameOf(const std::string& path) {
    return path.substr(folderOf(path).size());
}
/// Without any of its endings: "tide-bell" of "tide-bell.table.json".
std::string stemOf(const std::string& path) {
    const std::string name = nameOf(path);
    return name.substr(0, name.find('.', 1));
}

bool isBodyStem(std::string_view stem) {
    const std::string small = lowerCase(stem);
    static constexpr std::string_view endings[] = {
        "-collider", "_collider", "-collision", "_collision", "-col",     "_col",  "-body",
        "_body",     "-hull",     "_hull",      "-physics",   "_physics", "-phys", "_phys"};
    return std::ranges::any_of(endings, [&](std::string_view ending) { return small.ends_with(ending); });
}

Part partOf(const FileFacts& file) {
    if (file.model) return isBodyStem(stemOf(file.path)) ? Part::Body : Part::Model;
    if (file.picture) return Part::Picture;
    if (file.text) return Part::Text;
    return Part::Other;
}

/// Folders at the top that are each a piece: every one has a model, and none lies beside them.
std::vector<std::string> pieceFolders(const std::vector<FileFacts>& files, bool refused) {
    std::map<std::string, std::vector<std::size_t>> byFolder;
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (files[i].refused != refused) continue;
        const std::size_t slash = files[i].path.find('/');
        if (slash == std::string::npos) {
            if (partOf(files[i]) == Part::Model) return {};
            continue;
        }
        byFolder[files[i].path.substr(0, slash + 1)].push_back(i);
    }
    std::vector<std::string> out;
    for (const auto& [folder, held] : byFolder) // others hold shared pictures, say
        if (std::ranges::any_of(held, [&](std::size_t i) { return partOf(files[i]) == Part::Model; }))
            out.push_back(folder);
    // A folder "models" beside a folder "textures" is none.
    if (out.size() < 2) {
        const bool own = out.size() == 1 && byFolder.size() == 1 &&
                         std::ranges::any_of(byFolder.begin()->second, [&](std::size_t i) {
                             return styledName(stemOf(files[i].path), NameStyle::Joined) ==
                                    styledName(out[0].substr(0, out[0].size() - 1), NameStyle::Joined);
                         });
        return own ? out : std::vector<std::string>{};
    }
    return out;
}

/// One name in ten may be another's: a copy that somebody left there, a file of another maker.
bool areNearlyAll(std::size_t some, std::size_t all) {
    return some >= 2 && 10 * some >= 9 * all;
}

/// How pieces' names are written: the style that nearly all have already.
NameStyle styleOfAll(const std::vector<std::string>& names) {
    const auto nearlyAll = [&](NameStyle style) {
        const auto have =
            std::ranges::count_if(names, [&](const auto& n) { return styledName(n, style) == n; });
        return areNearlyAll(std::size_t(have), names.size()) || std::size_t(have) == names.size();
    };
    const bool line =
        std::ranges::any_of(names, [](const auto& n) { return n.find('_') != std::string::npos; });
    if (line && nearlyAll(NameStyle::Underscores)) return NameStyle::Underscores;
    for (const NameStyle style : {NameStyle::Hyphens, NameStyle::Capitals})
        if (nearlyAll(style)) return style;
    return NameStyle::AsItIs;
}

/// What nearly all names begin with, up to a border between words, where they go on behind it; the longest.
std::string prefixOfAll(const std::vector<std::string>& names) {
    if (names.size() < 3) return {};
    std::map<std::string, std::size_t> prefixes;
    for (const std::string& name : names)
        for (std::size_t at = 0; (at = name.find_first_of("_-.", at)) != std::string::npos; ++at)
            if (at > 0) ++prefixes[name.substr(0, at + 1)];
    std::string best;
    for (const auto& [prefix, count] : prefixes)
        if (areNearlyAll(count, names.size()) && prefix.size() > best.size() &&
            std::ranges::find(names, prefix) == names.end())
            best = prefix;
    return best;
}

/// `text` with the style of `name` that stands in it as a place, at a border of words; empty where it has
/// none. The layout's own style is looked for first.
std::string placed(const std::string& text, const std::string& name, const std::string& place,
                   NameStyle own) {
    if (name.empty()) return {};
    const auto isWord = [](char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0; };
    std::size_t best = std::string::npos, length = 0;
    int bestStyle = 0;
    std::vector<NameStyle> styles{own};
    for (std::size_t style = 0; style < nameStyleWords().size(); ++style)
        if (NameStyle(style) != own) styles.push_back(NameStyle(style));
    for (const NameStyle style : styles) {
        const std::string word = styledName(name, style);
        for (std::size_t at = 0; (at = text.find(word, at)) != std::string::npos; ++at) {
            const std::size_t end = at + word.size();
            if ((at > 0 && isWord(text[at - 1])) || (end < text.size() && isWord(text[end]))) continue;
            if (word.size() > length) best = at, length = word.size(), bestStyle = int(style);
            break;
        }
    }
    if (best == std::string::npos) return {};
    std::string as = std::string("{") + place;
    if (bestStyle > 0) as += ":" + std::string(nameStyleWords()[std::size_t(bestStyle)]);
    return text.substr(0, best) + as + "}" + text.substr(best + length);
}

/// All of `text`'s folders and its name with the piece's name as a place.
std::string withName(std::string text, const std::string& name, NameStyle style) {
    for (int k = 0; k < 4; ++k) {
        // What became a place is left alone.
        const std::size_t from = text.rfind('}') == std::string::npos ? 0 : text.rfind('}') + 1;
        const std::string rest = placed(text.substr(from), name, "name", style);
        if (rest.empty()) break;
        text = text.substr(0, from) + rest;
    }
    return text;
}

class Grouping {
public:
    explicit Grouping(const std::vector<FileFacts>& files) : files_(files) {}

    Layout made() {
        for (const bool refused : {false, true}) group(refused);
        std::vector<std::string> names;
        for (const Group& group : out_.groups)
            if (!group.refused) names.push_back(group.name);
        out_.prefix = prefixOfAll(names);
        for (std::string& name : names)
            if (name.starts_with(out_.prefix)) name.erase(0, out_.prefix.size());
        out_.style = styleOfAll(names);
        for (Group& group : out_.groups) {
            if (group.name.starts_with(out_.prefix)) group.name.erase(0, out_.prefix.size());
            name(group);
        }
        count();
        return std::move(out_);
    }

private:
    void group(bool refused) {
        const auto folders = pieceFolders(files_, refused);
        if (!refused) out_.ownFolders = !folders.empty();
        if (!folders.empty()) {
            std::map<std::string, Group> groups;
            for (const std::string& folder : folders)
                groups[folder] = {folder.substr(0, folder.size() - 1), folder, refused, {}};
            for (std::size_t i = 0; i < files_.size(); ++i) {
                if (files_[i].refused != refused) continue;
                const std::size_t slash = files_[i].path.find('/');
                const auto found = slash == std::string::npos
                                       ? groups.end()
                                       : groups.find(files_[i].path.substr(0, slash + 1));
                if (found == groups.end())
                    out_.lone.push_back(i);
                else
                    found->second.members.push_back({i, partOf(files_[i]), {}, {}, {}});
            }
            for (auto& [folder, made] : groups) out_.groups.push_back(std::move(made));
            return;
        }
        byNames(refused);
    }

    /// Models give groups their names; other files go with the longest name that theirs begins with, or that
    /// a model names.
    void byNames(bool refused) {
        std::map<std::string, Group> groups;
        std::map<std::string, std::string> named; // a file that a model names, and the group's key
        for (std::size_t i = 0; i < files_.size(); ++i) {
            if (files_[i].refused != refused || partOf(files_[i]) != Part::Model) continue;
            const std::string stem = stemOf(files_[i].path), key = lowerCase(stem);
            Group& made = groups[key];
            if (made.name.empty()) made = {stem, {}, refused, {}};
            made.members.push_back({i, Part::Model, {}, {}, {}});
            for (const std::string& picture : files_[i].model->pictures)
                named[(std::filesystem::path(folderOf(files_[i].path)) / picture)
                          .lexically_normal()
                          .generic_string()] = key;
        }
        for (std::size_t i = 0; i < files_.size(); ++i) {
            if (files_[i].refused != refused || partOf(files_[i]) == Part::Model) continue;
            auto found = groups.end();
            if (const auto by = named.find(files_[i].path); by != named.end())
                found = groups.find(by->second);
            const std::string stem = lowerCase(nameOf(files_[i].path));
            for (std::size_t length = stem.size(); length > 0 && found == groups.end(); --length) {
                if (length < stem.size() && std::isalnum(static_cast<unsigned char>(stem[length]))) continue;
                found = groups.find(stem.substr(0, length));
            }
            if (found == groups.end())
                out_.lone.push_back(i);
            else
                found->second.members.push_back({i, partOf(files_[i]), {}, {}, {}});
        }
        for (auto& [key, made] : groups) out_.groups.push_back(std::move(made));
    }

    /// Patterns of its files' paths.
    void name(Group& group) {
        std::vector<const ModelFacts*> models;
        for (const Member& member : group.members)
            if (member.part == Part::Model) models.push_back(&*files_[member.file].model);
        std::vector<std::string> materials;
        for (const ModelFacts* model : models)
            materials.insert(materials.end(), model->materialNames.begin(), model->materialNames.end());
        std::ranges::sort(materials, [](const auto& a, const auto& b) {
            return a.size() != b.size() ? a.size() > b.size() : a < b;
        });
        const bool several = models.size() > 1;
        for (Member& member : group.members) {
            const std::string path = files_[member.file].path.substr(group.folder.size());
            member.pattern = withName(path, group.name, out_.style);
            if (member.pattern.find("{name") != std::string::npos) continue;
            if (member.part == Part::Model && several && files_[member.file].model->parts.size() == 1) {
                member.object = files_[member.file].model->parts[0].name;
                if (const std::string made = placed(path, member.object, "object", out_.style); !made.empty())
                    member.pattern = made;
            }
            if (member.part == Part::Picture)
                for (const std::string& material : materials)
                    if (const std::string made = placed(path, material, "material", out_.style);
                        !made.empty()) {
                        member.material = material, member.pattern = made;
                        break;
                    }
            // A material's file beside an object's model, say, is called like it.
            if (member.part == Part::Other && several)
                for (const Member& other : group.members)
                    if (!other.object.empty() && stemOf(files_[other.file].path) == stemOf(path))
                        if (const std::string made = placed(path, other.object, "object", out_.style);
                            !made.empty())
                            member.pattern = made;
        }
    }

    /// What a pattern is, most of its files say: one that cannot be read is no picture, and no text.
    void count() {
        std::map<std::string, std::map<Part, Layout::Pattern>> patterns;
        for (const Group& group : out_.groups) {
            if (group.refused) continue;
            std::set<std::pair<std::string, Part>> had;
            for (const Member& member : group.members) {
                auto& pattern = patterns[member.pattern][member.part];
                pattern.path = member.pattern, pattern.part = member.part;
                ++pattern.files;
                if (had.insert({member.pattern, member.part}).second) ++pattern.groups;
            }
        }
        for (const auto& [path, parts] : patterns)
            out_.patterns.push_back(std::ranges::max_element(parts, {}, [](const auto& part) {
                                        return part.second.files;
                                    })->second);
        std::ranges::stable_sort(out_.patterns, std::greater<>(), &Layout::Pattern::groups);
    }

    const std::vector<FileFacts>& files_;
    Layout out_;
};

} // namespace

std::string_view partWord(Part part) {
    constexpr std::string_view words[] = {"model", "body", "picture", "text", "file"};
    return words[std::size_t(part)];
}

Layout layoutOf(const std::vector<FileFacts>& files) {
    return Grouping(files).made();
}

} // namespace zl::learn
