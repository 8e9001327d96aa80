#include "core/catalogue/take_out_as.h"

#include "core/base/file_set.h"
#include "core/files/safe_name.h"

#include <fmt/format.h>

#include <cassert>

namespace zl::catalogue {

namespace {

std::string withoutPrefix(const std::string& code, const std::vector<std::string>& prefixes) {
    std::size_t longest = 0;
    for (const std::string& prefix : prefixes)
        if (code.starts_with(prefix) && prefix.size() < code.size())
            longest = std::max(longest, prefix.size());
    return code.substr(longest);
}

std::string filledIn(std::string_view pattern, const Entry& entry, const std::vector<std::string>& prefixes) {
    std::string out;
    while (!pattern.empty()) {
        const auto take = [&](std::string_view word, const std::string& value) {
            if (!pattern.starts_with(word)) return false;
            out += value;
            pattern.remove_prefix(word.size());
            return true;
        };
        if (take("{title}", entry.title) || take("{code}", entry.code) || take("{pack}", entry.pack) ||
            take("{number}", std::to_string(entry.number)) ||
            take("{item}", withoutPrefix(entry.code, prefixes)))
            continue;
        out += pattern.front();
        pattern.remove_prefix(1);
    }
    return out;
}

} // namespace

std::vector<std::string> namesBy(const std::string& pattern, const std::vector<const Entry*>& entries,
                                 const std::vector<std::string>& prefixes) {
    files::UniquePaths once;
    std::vector<std::string> names;
    for (const Entry* entry : entries) {
        std::string name = filledIn(pattern.empty() ? "{title}" : pattern, *entry, prefixes);
        for (char& c : name)
            if (c == '/' || c == '\\') c = '-';
        const bool blank = name.find_first_not_of(" .") == std::string::npos;
        names.push_back(once.given(files::safePath(blank ? "item" : name)));
    }
    return names;
}

std::vector<std::filesystem::path> takeOutAs(const std::filesystem::path& file,
                                             const std::vector<Entry>& entries,
                                             const std::vector<std::string>& names,
                                             const std::filesystem::path& folder, const files::Limits& limits,
                                             const Progress& progress) {
    assert(names.size() == entries.size());
    std::filesystem::create_directories(folder);
    files::UniquePaths once;
    for (const auto& there : std::filesystem::directory_iterator(folder))
        once.take(there.path().filename().string());
    std::vector<std::filesystem::path> out;
    for (std::size_t e = 0; e < entries.size(); ++e) {
        progress.report(double(e) / double(entries.size()), "taking out " + entries[e].title);
        auto item =
            package::readItem(file, {std::uint32_t(files::ResourceKind::Entry), 0, entries[e].resource},
                              limits, progress.silent());
        if (entries[e].isOthersWork()) item.maker = entries[e].maker;
        if (item.maker.empty()) item.maker = entries[e].pack;
        out.push_back(folder / once.given(names[e] + ".rowpackage"));
        writeFile(out.back(), bytesOf(item));
    }
    return out;
}

} // namespace zl::catalogue
