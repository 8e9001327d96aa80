#include "core/files/contents.h"

#include "core/base/letters.h"
#include "core/files/source_file.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::files {

std::span<const std::string_view> containerEndings() {
    static constexpr std::string_view endings[] = {
        ".zip",     ".7z",   ".tar", ".tgz",   ".tar.gz",     ".tar.bz2",     ".tar.xz",
        ".tar.zst", ".tbz2", ".txz", ".sqlar", ".rowpackage", ".rowcatalogue"};
    return endings;
}

bool isContainer(std::string_view name) {
    const std::string small = lowerCase(name);
    return std::ranges::any_of(containerEndings(),
                               [&](std::string_view ending) { return small.ends_with(ending); });
}

namespace {

class Walk {
public:
    Walk(const Terms& terms, const Progress& progress, const std::function<bool(const Held&)>& enters,
         const std::function<void(const Held&, const Files&, const std::string&)>& visit)
        : terms_(terms), progress_(progress), enters_(enters), visit_(visit) {}

    void go(const Files& files, const std::string& before, const std::string& where, int depth) {
        for (const Passed& passed : files.passedOver())
            refused_.push_back({before + passed.path, passed.why});
        for (const Entry& entry : files.list()) {
            progress_.checkCancel();
            const Held held{before + entry.path, entry.bytes, entry.locked, depth};
            visit_(held, files, entry.path);
            if (isContainer(entry.path) && enters_(held)) enter(held, files, entry.path, where);
        }
    }

    std::vector<Passed> refused() { return std::move(refused_); }

private:
    void enter(const Held& archive, const Files& files, const std::string& path, const std::string& where) {
        std::unique_ptr<Files> within;
        const std::string inner = where + "/" + path;
        try {
            if (archive.depth >= terms_.limits.depth)
                throw Error(fmt::format("it lies in {} archives within one another", terms_.limits.depth));
            FileBytes bytes = files.open(path, progress_.silent());
            unpacked_ += bytes.size();
            terms_.limits.checkBytes(unpacked_, path, where);
            within = filesIn(std::move(bytes), inner, terms_);
            entries_ += within->list().size();
            terms_.limits.checkEntries(entries_, where);
        } catch (const KeyNeeded& locked) {
            refused_.push_back({archive.path, locked.wrong() ? "the key does not open it"
                                                             : "it is locked, and no key was given"});
            return;
        } catch (const Error& error) {
            refused_.push_back({archive.path, error.what()});
            return;
        }
        go(*within, archive.path + "/", inner, archive.depth + 1);
    }

    const Terms& terms_;
    const Progress& progress_;
    const std::function<bool(const Held&)>& enters_;
    const std::function<void(const Held&, const Files&, const std::string&)>& visit_;
    std::vector<Passed> refused_;
    std::size_t entries_ = 0;
    std::uint64_t unpacked_ = 0; ///< of archives within
};

} // namespace

std::vector<Passed>
goThrough(const std::filesystem::path& file, const Terms& terms, const Progress& progress,
          const std::function<bool(const Held&)>& enters,
          const std::function<void(const Held&, const Files&, const std::string&)>& visit) {
    Walk walk(terms, progress, enters, visit);
    const auto files = filesIn(file, terms);
    walk.go(*files, {}, file.string(), 1);
    return walk.refused();
}

void tryKey(const std::filesystem::path& file, const Contents& contents, const Terms& terms,
            const Progress& progress) {
    const Held* smallest = nullptr;
    for (const Held& held : contents.held)
        if (held.locked && (!smallest || held.bytes < smallest->bytes)) smallest = &held;
    if (!smallest) throw Error("holds nothing that is locked", file.string(), "It needs no key.");
    SourceFile({file, smallest->path}, terms, progress).bytes();
}

Contents contentsOf(const std::filesystem::path& file, const Terms& terms, const Progress& progress) {
    Contents out;
    out.refused = goThrough(
        file, terms, progress, [](const Held&) { return true; },
        [&](const Held& held, const Files&, const std::string&) { out.held.push_back(held); });
    return out;
}

} // namespace zl::files
