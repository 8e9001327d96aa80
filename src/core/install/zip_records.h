#pragma once
#include "core/base/file_set.h"

#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace zl::install {

/// A zip archive taken apart into the records that it is made of, each as its bytes stand (PKWARE's
/// APPNOTE 6.3.10, without spanning, encryption of the directory and zip64), so that entries can be added and
/// taken out with every other byte left as it is.
class ZipRecords {
public:
    /// Throws Error for bytes that are no such archive: a wrong directory, records that lie over one another
    /// or outside of it, names twice.
    explicit ZipRecords(std::string bytes, const std::string& where);

    std::vector<std::string> names() const;
    bool has(std::string_view name) const;
    /// How large an entry is unpacked, as the directory says.
    std::size_t sizeOf(std::string_view name) const;
    /// What an entry holds. Throws Error when it is not there, larger than `mostBytes` or broken.
    std::string contentOf(std::string_view name, std::size_t mostBytes = 64u << 20) const;

    /// Puts entries behind all others, packed; throws Refused for a name that is there.
    void add(const std::vector<OutFile>& files);
    /// Gives an entry that is there another content, in its place among the others.
    void replace(const OutFile& file);
    /// Takes one out, with its record; nothing happens for one that is not there.
    void remove(std::string_view name);
    /// Puts an entry in as it stands in another archive, bytes and all, in place of one of its name.
    void takeOver(const ZipRecords& from, std::string_view name);

    /// The archive as it is now. Adding and then removing the same gives the same bytes.
    std::string bytes() const;

private:
    struct Entry {
        std::string name;
        std::string local;   ///< its header, data and whatever follows up to the next
        std::string central; ///< its line of the directory; the place in it is set anew
        std::size_t size = 0, packed = 0;
        unsigned method = 0, flags = 0;
    };
    const Entry& entry(std::string_view name) const;
    void number(); ///< makes `places_` anew

    std::string where_;
    std::string front_;                                      ///< what stands before the first record
    std::vector<Entry> entries_;                             ///< in the order of their data
    std::vector<std::size_t> order_;                         ///< of the directory
    std::map<std::string, std::size_t, std::less<>> places_; ///< of entries by name
    std::string end_;                                        ///< the end record, with its comment
};

} // namespace zl::install
