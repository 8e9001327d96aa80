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

/// A container that is gone through once and changes only as a whole.
class ListedFiles : public Files {
public:
    const std::vector<Entry>& list() const override { return listing_.entries(); }
    const std::vector<Passed>& passedOver() const override { return listing_.passed(); }
    std::string stamp(std::string_view path) const override {
        return listing_.placeOf(path) ? stamp_ : "missing";
    }

protected:
    ListedFiles(std::string where, const Limits& limits, std::string stamp)
        : where_(std::move(where)), limits_(limits), stamp_(std::move(stamp)), listing_(where_, limits) {}

    /// Throws Error when the container is not as it was when it was listed.
    void demandStamp(const std::string& now) const {
        if (now != stamp_) throwChanged();
    }
    [[noreturn]] void throwChanged() const;

    std::string where_; ///< for messages
    Limits limits_;
    std::string stamp_;
    Listing listing_;
};

} // namespace zl::files
