#include "core/package/make_mine.h"

#include "core/package/references.h"
#include "core/package/tokens.h"

#include "core/base/error.h"
#include "core/base/hash.h"
#include "core/base/letters.h"
#include "core/base/unique_names.h"
#include "core/formats/row_mesh.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <map>

namespace zl::package {

namespace {

constexpr std::size_t longestName = 200;

/// Values of an entry that are words of the game or people's names, and never a resource's.
constexpr std::array<std::string_view, 9> setWords{"kind", "place",   "bone",       "body", "pack",
                                                   "link", "licence", "permission", "maker"};

void demandUsable(const Mine& mine) {
    const auto isAllowed = [](char c) {
        return isNamePart(c) && static_cast<unsigned char>(c) < 0x80 && c != '.';
    };
    if (mine.name.empty() || mine.name.size() > longestName / 2 ||
        !std::ranges::all_of(mine.name, isAllowed) ||
        !std::isalnum(static_cast<unsigned char>(mine.name.front())))
        throw Error(fmt::format("\"{}\" cannot be the name of a package", mine.name), {},
                    "Use letters, digits, '-' and '_', at most 100.");
    if (mine.maker.empty())
        throw Error("nobody is named as the maker", {}, "Say whose the copy is; the numbers rest on it.");
}

class Copy {
public:
    Copy(const Package& original, const Mine& mine, const std::set<std::uint64_t>& taken)
        : original_(original), mine_(mine), stem_(stemOf(original, mine.prefixes)) {
        if (lowerCase(stem_) == lowerCase(mine.name))
            throw Error(fmt::format("the original is called \"{}\" too", mine.name), original.file.string(),
                        "Choose another name.");
        stems_.add(stem_, mine.name);
        giveNames();
        giveNumbers(taken);
    }

    Copied made() {
        copied_.package = {{}, mine_.maker, original_.credit, {}};
        for (std::size_t r = 0; r < original_.resources.size(); ++r) {
            const Resource& old = original_.resources[r];
            const auto& change = copied_.changes[r];
            copied_.package.resources.push_back({change.newKey, change.newName, rewritten(old)});
        }
        return std::move(copied_);
    }

private:
    void giveNames() {
        UniqueNames once;
        for (const Resource& resource : original_.resources) {
            if (resource.name.empty() || resource.name.size() > longestName)
                throw Error(fmt::format("the {} {:016x} has {}", files::kindWord(resource.key.kind),
                                        resource.key.number,
                                        resource.name.empty() ? "no name" : "a name of over 200 letters"),
                            original_.file.string(), "Give it a name in the original first.");
            std::string name = stems_.replacedIn(resource.name);
            if (name == resource.name) name = mine_.name + "-" + name;
            // Of one kind no name is used twice, unless it was so before.
            const auto known = named_.find({resource.key.kind, resource.name});
            if (known == named_.end()) {
                const std::string marked = fmt::format("{}/", resource.key.kind);
                name = once.made(marked + name).substr(marked.size());
                named_[{resource.key.kind, resource.name}] = name;
                names_.add(resource.name, name);
            } else {
                name = known->second;
            }
            copied_.changes.push_back({resource.key, resource.key, resource.name, std::move(name)});
        }
        names_.add(stem_, mine_.name);
    }

    void giveNumbers(const std::set<std::uint64_t>& taken) {
        std::set<std::uint64_t> used = taken;
        for (const Resource& resource : original_.resources) used.insert(resource.key.number);
        for (auto& change : copied_.changes) {
            const auto known = numbers_.find(change.oldKey);
            if (known == numbers_.end()) {
                std::uint64_t number = 0;
                for (int turn = 0; number == 0 || used.contains(number); ++turn)
                    number = hashText(fmt::format("{}\n{}\n{}\n{}", mine_.maker, mine_.name,
                                                  textOf(change.oldKey), turn)) |
                             std::uint64_t(1) << 63;
                used.insert(number);
                change.newKey.number = number;
                numbers_[change.oldKey] = change.newKey;
            } else {
                change.newKey = known->second;
            }
        }
    }

    std::shared_ptr<const std::string> rewritten(const Resource& old) {
        if (old.key.is(ResourceKind::Geometry)) return geometry(old);
        if (!isText(old)) return old.bytes;
        // References first: they are as long as before, but for those by name, which are names.
        std::string text = *old.bytes;
        for (const Reference& reference : referencesIn(old))
            if (const auto known = reference.key ? numbers_.find(*reference.key) : numbers_.end();
                known != numbers_.end()) {
                text.replace(reference.at, reference.size, textOf(known->second));
                ++copied_.references;
            }
        return std::make_shared<const std::string>(old.key.is(ResourceKind::Text) ? renamed(text)
                                                                                  : renamedJson(text));
    }

    std::string renamed(std::string_view text) {
        return names_.replacedIn(text, &copied_.namesInTexts);
    }

    std::string renamedJson(const std::string& text) {
        std::string out;
        std::size_t done = 0;
        for (const StringValue& value : stringValues(text)) {
            if (std::ranges::find(setWords, value.key) != setWords.end()) continue;
            out += std::string_view(text).substr(done, value.at - done);
            out += renamed(std::string_view(text).substr(value.at, value.size));
            done = value.at + value.size;
        }
        return out += std::string_view(text).substr(done);
    }

    std::shared_ptr<const std::string> geometry(const Resource& old) {
        auto groups = [&] {
            try {
                return formats::rowMeshHead(*old.bytes, old.name).groups;
            } catch (const Error& error) {
                throw Error(
                    fmt::format("the geometry \"{}\" cannot be rewritten: it {}", old.name, error.what()),
                    original_.file.string(), error.mend());
            }
        }();
        for (formats::RowGroup& group : groups) {
            group.name = renamed(group.name);
            if (const auto known = numbers_.find(group.material); known != numbers_.end()) {
                group.material = known->second;
                ++copied_.references;
            }
        }
        return std::make_shared<const std::string>(formats::withRowGroups(*old.bytes, old.name, groups));
    }

    const Package& original_;
    const Mine& mine_;
    std::string stem_;
    Copied copied_;
    Names stems_, names_; ///< the stem; it and all names
    std::map<ResourceKey, ResourceKey> numbers_;
    std::map<std::pair<std::uint32_t, std::string>, std::string> named_;
};

} // namespace

std::string stemOf(const Package& package, const std::vector<std::string>& prefixes) {
    const Resource* named = package.first(ResourceKind::Entry);
    if (!named) named = package.first(ResourceKind::Geometry);
    if (!named) return {};
    std::string_view longest;
    for (const std::string& prefix : prefixes)
        if (prefix.size() > longest.size() && named->name.size() > prefix.size() &&
            lowerCase(named->name).starts_with(lowerCase(prefix)))
            longest = prefix;
    return named->name.substr(longest.size());
}

Copied makeMine(const Package& original, const Mine& mine, const std::set<std::uint64_t>& taken) {
    demandUsable(mine);
    return Copy(original, mine, taken).made();
}

std::set<std::uint64_t> numbersOf(const std::vector<Index>& packages) {
    std::set<std::uint64_t> numbers;
    for (const Index& index : packages)
        for (const auto& [key, name] : index.resources) numbers.insert(key.number);
    return numbers;
}

} // namespace zl::package
