#include "core/files/listing.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::files {

namespace {

/// Whether taking the entry out under its name could land outside the chosen folder.
bool leadsOut(std::string name) {
    std::ranges::replace(name, '\\', '/');
    return name.starts_with('/') || (name.size() > 1 && name[1] == ':') ||
           ("/" + name + "/").find("/../") != std::string::npos;
}

} // namespace

void Listing::add(const std::string& name, std::int64_t place, std::uint64_t bytes, bool locked) {
    limits_.checkEntries(entries_.size() + passed_.size() + 1, where_);
    const auto path = normalPath(name);
    if (leadsOut(name))
        passed_.push_back({name, "its name leads out of the archive"});
    else if (!path)
        passed_.push_back({name, "it has no name"});
    else if (!places_.try_emplace(*path, place).second)
        passed_.push_back({name, "it stands there twice; the first is taken"});
    else
        entries_.push_back({*path, bytes, locked});
}

std::optional<std::int64_t> Listing::placeOf(std::string_view path) const {
    const auto found = places_.find(path);
    return found == places_.end() ? std::nullopt : std::optional(found->second);
}

std::int64_t Listing::mustHave(std::string_view path) const {
    if (const auto place = placeOf(path)) return *place;
    throw Error(fmt::format("does not hold \"{}\"", path), where_, "Choose one of the files in it.");
}

void ListedFiles::throwChanged() const {
    throw Error("was changed by another program", where_,
                "Wait until that program is done, then read it again.");
}

} // namespace zl::files
