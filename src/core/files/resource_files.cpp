#include "core/files/resource_files.h"

#include "core/files/containers.h"

#include "core/base/stamp.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::files {

namespace {

std::string_view endingOf(std::uint32_t kind, std::string_view head) {
    switch (ResourceKind(kind)) {
    case ResourceKind::Text:
        return ".txt";
    case ResourceKind::Geometry:
        return ".rowmesh";
    case ResourceKind::Material:
    case ResourceKind::Entry:
    case ResourceKind::Pose:
        return ".json";
    case ResourceKind::Picture:
        return head.starts_with("\x89PNG") ? ".png" : head.starts_with("DDS ") ? ".dds" : ".jpg";
    }
    return ".bin";
}

} // namespace

/// Places in its listing are rows.
ResourceFiles::ResourceFiles(const std::filesystem::path& file, const Limits& limits)
    : ListedFiles(file.string(), limits, stampOf(file)), file_(file),
      database_(Database::reading(file, limits)) {
    Statement all = database_.prepared("SELECT rowid, kind, \"group\", number, name, length(data), "
                                       "substr(data, 1, 4) FROM resources ORDER BY rowid");
    while (all.step()) {
        const ResourceKey key{std::uint32_t(all.integer(1)), std::uint32_t(all.integer(2)),
                              std::uint64_t(all.integer(3))};
        std::string name = all.text(4);
        std::ranges::replace(name, '/', '_');
        const auto path = [&](const std::string& called) {
            return fmt::format("{}/{}{}", kindWord(key.kind), called, endingOf(key.kind, all.bytes(6)));
        };
        std::string taken = path(name);
        if (listing_.placeOf(taken)) taken = path(fmt::format("{} {:016x}", name, key.number));
        listing_.add(taken, all.integer(0), std::uint64_t(all.integer(5)), false);
        paths_.try_emplace(textOf(key), taken);
        paths_.try_emplace(fmt::format("{:02x}@{}", key.kind, name), taken);
        keys_.try_emplace(taken, key);
    }
}

FileBytes ResourceFiles::open(std::string_view path, const Progress& progress) const {
    const std::int64_t row = listing_.mustHave(path);
    progress.checkCancel();
    demandStamp(stampOf(file_));
    Statement read = database_.prepared("SELECT data FROM resources WHERE rowid = ?1");
    if (!read.bind(1, row).step()) throwChanged();
    const std::string_view data = read.bytes(0);
    auto bytes = std::unique_ptr<char[]>(new char[data.size()]);
    std::ranges::copy(data, bytes.get());
    return {std::move(bytes), data.size()};
}

std::optional<std::string> ResourceFiles::find(std::string_view folder, std::string_view name) const {
    if (const auto found = paths_.find(name); found != paths_.end()) return found->second;
    return Files::find(folder, name);
}

std::optional<ResourceKey> ResourceFiles::keyAt(std::string_view path) const {
    const auto found = keys_.find(path);
    return found == keys_.end() ? std::nullopt : std::optional(found->second);
}

std::unique_ptr<Files> resourceFiles(const std::filesystem::path& file, const Terms& terms) {
    return std::make_unique<ResourceFiles>(file, terms.limits);
}

} // namespace zl::files
