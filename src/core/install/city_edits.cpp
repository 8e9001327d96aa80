#include "core/install/city_edits.h"

#include "core/base/error.h"
#include "core/install/journal.h"

namespace fs = std::filesystem;

namespace zl::install {

std::string* Edits::text(const std::string& path) {
    const auto [entry, fresh] = files_.try_emplace(path);
    File& file = entry->second;
    if (fresh) {
        try {
            if (game_.hashAt(path)) file.before = game_.bytesAt(path);
            file.now = file.before.value_or("");
        } catch (const Error& fault) {
            file.isBroken = true;
            game_.say(fault.sentence());
        }
    }
    return file.isBroken ? nullptr : &file.now;
}

ZipRecords* Edits::archive(const std::string& path) {
    std::string* bytes = text(path);
    if (!bytes) return nullptr;
    File& file = files_.at(path);
    if (!file.archive) {
        try {
            file.archive.emplace(*bytes, (game_.path() / path).string());
        } catch (const Error& fault) {
            file.isBroken = true;
            game_.say(fault.sentence());
            return nullptr;
        }
    }
    return &*file.archive;
}

bool Edits::isThere(const std::string& path) {
    return text(path) && files_.at(path).before.has_value();
}

void Edits::replace(const std::string& path, std::string bytes) {
    if (!text(path)) return;
    files_.at(path).now = std::move(bytes), files_.at(path).archive.reset();
}

void Edits::note(const std::string& path, std::string detail) {
    files_.at(path).details.push_back(std::move(detail));
}

void Edits::drop(const std::string& path) {
    File& file = files_.at(path);
    file.goes = true, file.now.clear(), file.archive.reset();
}

void Edits::settle() {
    for (auto& [path, file] : files_) {
        if (file.isBroken) continue;
        file.settled = file.goes ? std::nullopt : std::optional(bytesOf(file));
        file.isSettled = true;
    }
}

std::optional<std::string> Edits::original(const std::string& path) const {
    const auto found = files_.find(path);
    if (found == files_.end()) return std::nullopt;
    return found->second.isSettled ? found->second.settled : found->second.before;
}

std::map<std::string, Hash> Edits::give() {
    std::map<std::string, Hash> hashes;
    for (auto& [path, file] : files_) {
        if (file.isBroken) continue;
        std::string bytes = bytesOf(file);
        hashes[path] = hashText(bytes);
        if (file.goes)
            game_.leave(path);
        else if (!file.before || bytes != *file.before)
            game_.write(path, std::move(bytes), file.before ? Change::Kind::Extended : Change::Kind::Added,
                        file.details);
    }
    return hashes;
}

} // namespace zl::install
