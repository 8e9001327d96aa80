// The files of an SQLite package: the table "sqlar" of SQLite's own archives (sqlite.org/sqlar.html), whose
// rows are a name, a length and bytes, packed by zlib where that made them shorter.
#include "core/files/containers.h"

#include "core/files/listing.h"
#include "core/files/sqlite.h"

#include "core/base/error.h"
#include "core/base/stamp.h"

#include <fmt/format.h>
#include <zlib.h>

#include <algorithm>

namespace zl::files {

namespace {

/// Places in its listing are rows.
class PackageFiles final : public ListedFiles {
public:
    PackageFiles(const std::filesystem::path& file, const Limits& limits)
        : ListedFiles(file.string(), limits, stampOf(file)), file_(file),
          database_(Database::reading(file, limits)) {
        walk();
    }

    FileBytes open(std::string_view path, const Progress& progress) const override {
        const std::int64_t row = listing_.mustHave(path);
        progress.checkCancel();
        demandStamp(stampOf(file_));
        Statement read = database_.prepared("SELECT sz, data FROM sqlar WHERE rowid = ?1");
        if (!read.bind(1, row).step()) throwChanged();
        const std::int64_t size = read.integer(0);
        const std::string_view data = read.bytes(1);
        const std::size_t held = data.size();
        limits_.checkBytes(std::uint64_t(size), path, where_);
        limits_.checkRatio(std::uint64_t(size), held, path, where_);
        auto bytes = std::unique_ptr<char[]>(new char[std::size_t(size)]);
        if (std::uint64_t(size) == held) {
            std::ranges::copy(data, bytes.get());
        } else {
            uLongf got = uLongf(size);
            if (::uncompress(reinterpret_cast<Bytef*>(bytes.get()), &got,
                             reinterpret_cast<const Bytef*>(data.data()), held) != Z_OK ||
                got != uLongf(size))
                throw Error(fmt::format("holds \"{}\", which is broken", path), where_,
                            "Copy the package again.");
        }
        return {std::move(bytes), std::size_t(size)};
    }

private:
    void walk() {
        // A folder has no bytes at all, a link the length -1.
        Statement all = database_.prepared(
            "SELECT rowid, name, sz FROM sqlar WHERE data IS NOT NULL AND sz >= 0 ORDER BY rowid");
        while (all.step()) listing_.add(all.text(1), all.integer(0), std::uint64_t(all.integer(2)), false);
    }

    std::filesystem::path file_;
    Database database_;
};

} // namespace

std::unique_ptr<Files> packageFiles(const std::filesystem::path& file, const Terms& terms) {
    const Database database = Database::reading(file, terms.limits);
    if (database.hasTable("resources")) return resourceFiles(file, terms);
    if (!database.hasTable("sqlar"))
        throw Error("is an SQLite file without files (\"sqlar\") or resources", file.string(),
                    "Choose an archive that SQLite made, or a game's package.");
    return std::make_unique<PackageFiles>(file, terms.limits);
}

} // namespace zl::files
