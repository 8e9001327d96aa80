#include "core/files/take_out.h"

#include "core/base/file_set.h"
#include "core/base/pattern.h"
#include "core/files/safe_name.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace fs = std::filesystem;

namespace zl::files {

namespace {

bool isBelow(std::string_view path, std::string_view folder) {
    return path.size() > folder.size() && path.starts_with(folder) && path[folder.size()] == '/';
}

/// The innermost folder that holds all, with its '/'; empty when there is none.
std::string commonFolder(const std::vector<std::string>& paths) {
    std::string common = paths.empty() ? "" : paths[0].substr(0, paths[0].rfind('/') + 1);
    for (const std::string& path : paths)
        while (!path.starts_with(common)) {
            common.pop_back();
            common.resize(common.rfind('/') + 1); // npos + 1 is 0
        }
    return common;
}

/// The same path with archives as folders: "kit.zip/a.obj" as "kit/a.obj".
std::string withoutEndings(std::string_view path) {
    std::string out;
    for (std::size_t end; (end = path.find('/')) != std::string_view::npos; path.remove_prefix(end + 1)) {
        std::string part(path.substr(0, end));
        while (isContainer(part) && part.rfind('.') > 0) part.resize(part.rfind('.')); // ".tar.gz" has two
        out += part + "/";
    }
    return out + std::string(path);
}

/// A folder of the disk in which files are put, and never beside it.
class Chest {
public:
    explicit Chest(const fs::path& folder) : folder_(folder) {
        std::error_code error;
        fs::create_directories(folder, error);
        if (!error) root_ = fs::canonical(folder, error);
        if (error)
            throw Refused(fmt::format("cannot be made ({})", error.message()), folder.string(),
                          "Choose another folder.");
    }

    /// Puts it under `name`, or one like it; gives the file, and whether it is another.
    std::pair<fs::path, bool> put(const std::string& name, std::string_view bytes) {
        const fs::path safe = safePath(name);
        const fs::path parent = ready(safe.parent_path());
        const std::string given = names_.given((parent / safe.filename()).generic_string());
        writeFile(folder_ / given, bytes);
        return {folder_ / given, given != name};
    }

private:
    /// A folder below, made where it is missing, once it is known what is in it. Where a file has its name it
    /// is another.
    const fs::path& ready(const fs::path& below) {
        const auto [known, isNew] = ready_.try_emplace(below.generic_string());
        if (!isNew) return known->second;
        fs::path& folder = known->second;
        std::error_code error;
        if (!below.empty()) {
            const fs::path wanted = ready(below.parent_path()) / below.filename();
            folder = wanted;
            for (int number = 2; isFile(folder_ / folder); ++number)
                folder = wanted.string() + "-" + std::to_string(number);
            fs::create_directory(folder_ / folder, error);
        }
        const fs::path real = error ? fs::path() : fs::canonical(folder_ / folder, error);
        if (error)
            throw Refused(fmt::format("cannot be made ({})", error.message()), (folder_ / folder).string(),
                          "Choose another folder.");
        const auto [end, at] = std::mismatch(root_.begin(), root_.end(), real.begin(), real.end());
        if (end != root_.end())
            throw Refused("leads out of the chosen folder by a link", (folder_ / folder).string(),
                          "Choose a folder without links in it.");
        for (const auto& there : fs::directory_iterator(folder_ / folder, error))
            names_.take((folder / there.path().filename()).generic_string());
        return folder;
    }
    static bool isFile(const fs::path& path) {
        std::error_code error;
        return fs::exists(fs::symlink_status(path, error)) && !fs::is_directory(path, error);
    }

    fs::path folder_, root_;
    UniquePaths names_;
    std::map<std::string, fs::path> ready_; ///< where each folder is, below
};

} // namespace

std::vector<std::string> chosenOf(const Contents& contents, const std::vector<std::string>& chosen) {
    std::vector<bool> taken(contents.held.size(), false);
    for (const std::string& wanted : chosen) {
        const std::string path = normalPath(wanted).value_or("");
        bool any = false;
        std::string within; // an archive that is taken as it is
        for (std::size_t i = 0; i < taken.size(); ++i) {
            const std::string& held = contents.held[i].path;
            if (!within.empty() && isBelow(held, within)) continue;
            if (held != path && !isBelow(held, path) && !matchPattern(wanted, held)) continue;
            taken[i] = any = true;
            if (isContainer(held)) within = held;
        }
        if (!any)
            throw Error(fmt::format("there is no file \"{}\" in it", wanted), {},
                        "Look at its contents for what there is.");
    }
    std::vector<std::string> out;
    for (std::size_t i = 0; i < taken.size(); ++i)
        if (taken[i]) out.push_back(contents.held[i].path);
    return out;
}

TakenOut takeOut(const fs::path& container, const std::vector<std::string>& insides, const fs::path& folder,
                 const Terms& terms, const Progress& progress) {
    const std::set<std::string> wanted(insides.begin(), insides.end());
    const std::string common = commonFolder(insides);
    TakenOut out;
    Chest chest(folder);
    const auto enters = [&](const Held& archive) { // only for what is wanted in it
        const auto next = wanted.lower_bound(archive.path + "/");
        return next != wanted.end() && isBelow(*next, archive.path);
    };
    std::size_t done = 0;
    const auto passed = goThrough(container, terms, progress, enters,
                                  [&](const Held& held, const Files& files, const std::string& path) {
                                      if (!wanted.contains(held.path)) return;
                                      progress.report(double(done++) / double(wanted.size()), held.path);
                                      try {
                                          const FileBytes bytes = files.open(path, progress.silent());
                                          const auto [file, renamed] = chest.put(
                                              withoutEndings(held.path.substr(common.size())), bytes.text());
                                          out.files.push_back({held.path, file, renamed});
                                      } catch (const KeyNeeded&) {
                                          throw;
                                      } catch (const Refused&) {
                                          throw; // the disk's word counts for all
                                      } catch (const Error& error) {
                                          out.refused.push_back({held.path, error.what()});
                                      }
                                  });
    for (const Passed& archive : passed) // in which something was wanted
        if (isContainer(archive.path) && enters({archive.path, 0, false, 0})) out.refused.push_back(archive);
    return out;
}

} // namespace zl::files
