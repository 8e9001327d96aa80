#include "core/package/reference_check.h"

#include "core/package/references.h"
#include "core/package/tokens.h"

#include "core/base/error.h"
#include "core/formats/row_mesh.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstring>
#include <map>
#include <set>

namespace zl::package {

namespace {

std::string wordsFor(const Resource& resource) {
    return fmt::format("{} \"{}\"", files::kindWord(resource.key.kind), resource.name);
}

/// A name that nobody writes by chance: of several parts, or with a digit or a capital within.
bool isCoded(std::string_view name) {
    return name.find_first_of("-_0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ", 1) != std::string_view::npos;
}

/// UTF-16's letters of every second byte, other bytes as spaces, so that names are found there too.
std::string everySecond(std::string_view bytes, std::size_t first) {
    std::string out;
    for (std::size_t i = first; i + 1 < bytes.size(); i += 2) out += bytes[i + 1] == 0 ? bytes[i] : ' ';
    return out;
}

class Checker {
public:
    Checker(const Package& package, const std::vector<Index>& others, const Index* original)
        : package_(package), others_(others), original_(original) {
        for (const Resource& resource : package.resources) {
            own_.insert(resource.key.number);
            ownNames_.add(resource.name);
        }
        if (original) learn(*original, true); // first: what is there twice is the original's
        for (const Index& other : others) learn(other, false);
    }

    ReferenceCheck checked() {
        numbersOnce();
        links();
        for (const Resource& resource : package_.resources) {
            oldNames(resource);
            if (!isText(resource) && !resource.key.is(ResourceKind::Geometry)) oldNumbers(resource);
        }
        return std::move(check_);
    }

private:
    /// Where a key or a name of another package is.
    using Where = const Index*;

    void learn(const Index& other, bool isOriginal) {
        for (const auto& [key, name] : other.resources) {
            theirs_.try_emplace(key, &other);
            numbers_.try_emplace(key.number, &other);
            named_.try_emplace({key.kind, name}, &other);
            if (isOriginal || isCoded(name)) names_.add(name, other.file.string());
        }
    }
    static std::string fileOf(Where where) { return where->file.filename().string(); }

    void numbersOnce() {
        std::set<ResourceKey> seen;
        const auto collides = [this](const Resource& resource, const std::string& what,
                                     const std::string& other) {
            check_.collisions.push_back(
                {wordsFor(resource), what,
                 fmt::format("the {} has {}, and so has {}", wordsFor(resource), what, other)});
        };
        for (const Resource& resource : package_.resources) {
            const std::string number = fmt::format("the number {:016x}", resource.key.number);
            if (!seen.insert(resource.key).second) collides(resource, number, "another one in this package");
            const auto other = numbers_.find(resource.key.number);
            const auto name = named_.find({resource.key.kind, resource.name});
            const bool takes = other != numbers_.end(), named = name != named_.end();
            if (takes && other->second != original_ && hasSame(other->second->file, resource)) continue;
            if (takes) collides(resource, number, fileOf(other->second));
            if (named) collides(resource, "this name", fileOf(name->second));
        }
    }

    void links() {
        const Links links(package_);
        check_.references = links.all().size();
        for (const Links::Link& link : links.all()) {
            if (link.to) continue;
            const Resource& from = package_.resources[link.from];
            const std::string what = link.reference.key
                                         ? textOf(*link.reference.key)
                                         : fmt::format("{:02x}@{}", link.reference.kind, link.reference.name);
            Where where = nullptr;
            if (link.reference.key) {
                if (const auto found = theirs_.find(*link.reference.key); found != theirs_.end())
                    where = found->second;
            } else if (const auto found = named_.find({link.reference.kind, link.reference.name});
                       found != named_.end()) {
                where = found->second;
            }
            if (where)
                check_.foreign.push_back(
                    {wordsFor(from), what,
                     fmt::format("the {} points into {} ({})", wordsFor(from), fileOf(where), what)});
            else
                check_.dangling.push_back(
                    {wordsFor(from), what,
                     fmt::format("the {} points at {}, which nothing here has", wordsFor(from), what)});
        }
    }

    void oldNames(const Resource& resource) {
        oldNames(resource, resource.name);
        if (resource.key.is(ResourceKind::Geometry)) {
            try {
                for (const auto& group : formats::rowMeshHead(*resource.bytes, {}).groups)
                    oldNames(resource, group.name);
            } catch (const Error&) {
                return; // said where the geometry itself is read
            }
            return;
        }
        if (resource.key.is(ResourceKind::Picture)) return; // pixels
        oldNames(resource, *resource.bytes);
        if (resource.bytes->find('\0') != std::string::npos)
            for (const std::size_t first : {0, 1}) oldNames(resource, everySecond(*resource.bytes, first));
    }

    void oldNames(const Resource& resource, std::string_view text) {
        if (names_.empty()) return;
        const auto own = ownNames_.in(text);
        for (const Names::Found& found : names_.in(text)) {
            const bool isOwn = std::ranges::any_of(own, [&](const Names::Found& o) {
                return o.at <= found.at && found.at + found.size <= o.at + o.size;
            });
            const std::string name(text.substr(found.at, found.size));
            const std::string file = std::filesystem::path(std::string(found.with)).filename().string();
            if (isOwn || !said_.insert({wordsFor(resource), name}).second) continue;
            check_.foreign.push_back({wordsFor(resource), name,
                                      fmt::format("the {} still names \"{}\" of {}", wordsFor(resource), name,
                                                  file.empty() ? "the original" : file)});
        }
    }

    /// Keys that stand as text in bytes that nobody here can read.
    void oldKeys(const Resource& resource, std::string_view text) {
        for (const Reference& reference : referencesInText(text)) {
            if (!reference.key) continue; // names are found by themselves
            const auto found = theirs_.find(*reference.key);
            if (found == theirs_.end() || found->second != original_) continue;
            const std::string key = textOf(*reference.key);
            if (said_.insert({wordsFor(resource), key}).second)
                check_.foreign.push_back(
                    {wordsFor(resource), key,
                     fmt::format("the {} still names {} of the original, and its kind is "
                                 "not known here",
                                 wordsFor(resource), key)});
        }
    }

    /// Numbers in bytes that nobody here can read. Small ones would be found by chance.
    void oldNumbers(const Resource& resource) {
        if (!original_ || resource.key.is(ResourceKind::Picture)) return;
        const std::string_view bytes = *resource.bytes;
        oldKeys(resource, bytes);
        for (const std::size_t first : {0, 1}) oldKeys(resource, everySecond(bytes, first));
        for (std::size_t at = 0; at + 8 <= bytes.size(); ++at) {
            std::uint64_t little = 0;
            std::memcpy(&little, bytes.data() + at, 8);
            for (const std::uint64_t number : {little, __builtin_bswap64(little)}) {
                const auto found = numbers_.find(number);
                if (number >> 24 == 0 || found == numbers_.end() || found->second != original_) continue;
                check_.foreign.push_back(
                    {wordsFor(resource), fmt::format("{:016x}", number),
                     fmt::format("the {} holds the original's number {:016x} at byte {}, and its kind is not "
                                 "known here",
                                 wordsFor(resource), number, at)});
            }
        }
    }

    const Package& package_;
    const std::vector<Index>& others_;
    const Index* original_;
    std::set<std::uint64_t> own_;
    Names ownNames_, names_;
    std::map<ResourceKey, Where> theirs_;
    std::map<std::uint64_t, Where> numbers_;
    std::map<std::pair<std::uint32_t, std::string>, Where> named_;
    std::set<std::pair<std::string, std::string>> said_;
    ReferenceCheck check_;
};

} // namespace

ReferenceCheck checkReferences(const Package& package, const std::vector<Index>& others,
                               const Index* original) {
    return Checker(package, others, original).checked();
}

void demandClean(const ReferenceCheck& check) {
    const std::size_t all = check.dangling.size() + check.foreign.size() + check.collisions.size();
    for (const auto* list : {&check.foreign, &check.collisions, &check.dangling})
        if (!list->empty())
            throw Refused(list->front().why + (all > 1 ? fmt::format(" (and {} more)", all - 1) : ""), {},
                          "Change what is named there; the package would collide with others.");
}

} // namespace zl::package
