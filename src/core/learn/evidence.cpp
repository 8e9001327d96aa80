#include "core/learn/evidence.h"

#include "core/base/error.h"
#include "core/files/contents.h"
#include "core/files/take_out.h"
#include "core/learn/all_properties.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <mutex>

namespace fs = std::filesystem;

namespace zl::learn {

namespace {

/// Files that are looked at, at most.
constexpr std::size_t mostFiles = 100'000;

/// A place as a folder: itself, or what is in the archive, taken out for as long as it is looked at.
fs::path folderOf(const fs::path& place, Evidence& evidence, const Progress& progress) {
    std::error_code ignored;
    if (fs::is_directory(place, ignored)) return place;
    if (!fs::is_regular_file(place, ignored))
        throw Error("is not there", place.string(),
                    "Choose a folder or an archive of files that the game takes.");
    const auto terms = files::termsOf(place);
    const auto contents = files::contentsOf(place, terms, progress.between(0, 0.3));
    std::vector<std::string> chosen;
    for (const auto& held : contents.held) chosen.push_back(held.path);
    if (chosen.empty()) throw Error("holds no files", place.string());
    auto passing = std::make_shared<PassingFolder>("examples");
    if (passing->path().empty())
        throw Error("no passing folder can be made", fs::temp_directory_path().string());
    const auto out = files::takeOut(place, chosen, passing->path(), terms, progress.between(0.3, 1));
    auto& unreadable = evidence.unreadable;
    unreadable.insert(unreadable.end(), contents.refused.begin(), contents.refused.end());
    unreadable.insert(unreadable.end(), out.refused.begin(), out.refused.end());
    evidence.takenOut.push_back(passing);
    return passing->path();
}

void lookAt(const fs::path& folder, bool refused, Evidence& evidence, const Progress& progress) {
    const auto held = files::folderFiles(folder);
    std::vector<std::string> paths;
    for (const auto& entry : held->list()) {
        const std::string name = fs::path(entry.path).filename().string();
        if (!name.starts_with('.')) paths.push_back(entry.path);
    }
    evidence.unreadable.insert(evidence.unreadable.end(), held->passedOver().begin(),
                               held->passedOver().end());
    if (paths.size() > mostFiles)
        throw Error("holds too many files", folder.string(),
                    "Choose a folder with fewer; a few hundred say enough.");
    std::ranges::sort(paths);
    std::vector<FileFacts> facts(paths.size());
    std::atomic<std::size_t> done = 0;
    std::mutex reporting;
    tbb::parallel_for(std::size_t(0), paths.size(), [&](std::size_t i) {
        progress.checkCancel();
        facts[i] = factsOf(folder, paths[i], progress);
        facts[i].refused = refused;
        const std::lock_guard lock(reporting);
        progress.report(double(++done) / double(paths.size()), paths[i]);
    });
    for (FileFacts& file : facts) {
        if (!file.problem.empty()) evidence.unreadable.push_back({file.path, file.problem});
        evidence.files.push_back(std::move(file));
    }
}

} // namespace

void summarise(Property& property) {
    const auto byValue = [](const Seen& a, const Seen& b) { return a.value < b.value; };
    std::ranges::stable_sort(property.accepted, byValue);
    std::ranges::stable_sort(property.refused, byValue);
    if (property.accepted.empty()) return;
    const std::size_t n = property.accepted.size();
    const auto at = [&](double share) { return property.accepted[std::size_t(share * double(n - 1))].value; };
    property.least = at(0), property.middle = at(0.5), property.most = at(1);
    if (n < 6) return;
    const auto ratio = [](double v) { return std::log(std::max(v, 1e-9)); };
    const double low = ratio(at(0.25)), high = ratio(at(0.75)), width = std::max(high - low, 0.2);
    for (const Seen& seen : property.accepted)
        if (ratio(seen.value) > high + 3 * width || ratio(seen.value) < low - 3 * width)
            property.outliers.push_back(seen.file);
}

const Property* Evidence::property(std::string_view id) const {
    for (const Property& one : properties)
        if (one.id == id) return &one;
    return nullptr;
}

void concludeFrom(Evidence& evidence) {
    evidence.layout = layoutOf(evidence.files);
    for (FileFacts& file : evidence.files) file.isBody = false;
    for (const Group& group : evidence.layout.groups)
        for (const Member& member : group.members)
            if (member.part == Part::Body) evidence.files[member.file].isBody = true;
    evidence.properties.clear();
    Basis basis{evidence};
    std::vector<Property> made;
    for (const PropertyKind kind : allPropertyKinds()) kind(basis, made);
    evidence.properties = std::move(made);
}

Evidence evidenceOf(const Examples& examples, const Progress& progress) {
    Evidence evidence;
    evidence.root = folderOf(examples.accepted, evidence, progress.between(0, 0.1));
    lookAt(evidence.root, false, evidence, progress.between(0.1, examples.refused.empty() ? 0.95 : 0.6));
    if (!examples.refused.empty()) {
        evidence.refusedRoot = folderOf(examples.refused, evidence, progress.between(0.6, 0.65));
        lookAt(evidence.refusedRoot, true, evidence, progress.between(0.65, 0.95));
    }
    if (std::ranges::none_of(evidence.files,
                             [](const FileFacts& f) { return f.model || f.picture || f.text; }))
        throw Error("holds nothing that can be read", examples.accepted.string(),
                    "Choose a folder of files that the game takes: models, pictures, texts.");
    progress.report(0.96, "comparing");
    concludeFrom(evidence);
    return evidence;
}

} // namespace zl::learn
