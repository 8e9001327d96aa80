#pragma once
#include "core/files/files.h"

#include <map>

namespace zl::files {

/// What an archive or a package holds, as its entries are come by: those with a name that can be used, and
/// where each is.
class Listing {
public:
    Listing(std::string where, const Limits& limits) : where_(std::move(where)), limits_(limits) {}

    /// `place` is the container's own number of the entry. Throws Error when there are too many.
    void add(const std::string& name, std::int64_t place, std::uint64_t bytes, bool locked);
    /// Nothing when there is no such file.
    std::optional<std::int64_t> placeOf(std::string_view path) const;
    /// The same, but throws Error.
    std::int64_t mustHave(std::string_view path) const;

    const std::vector<Entry>& entries() const { return entries_; }
    const std::vector<Passed>& passed() const { return passed_; }

private:
    std::string where_;
    Limits limits_;
    std::vector<Entry> entries_;
    std::vector<Passed> passed_;
    std::map<std::string, std::int64_t, std::less<>> places_;
};

} // namespace zl::files
