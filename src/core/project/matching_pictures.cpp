#include "core/project/matching_pictures.h"

#include "core/base/letters.h"
#include "core/base/pattern.h"
#include "core/steps/set_pictures.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

std::string folderOf(const std::string& path) {
    const auto slash = path.rfind('/');
    return slash == std::string::npos ? std::string() : path.substr(0, slash + 1);
}

std::string stemOf(const std::string& path) {
    return fs::path(path.substr(folderOf(path).size())).stem().string();
}

/// Folders to go up and down from one to the other.
int steps(const std::string& from, const std::string& to) {
    const auto differ = std::ranges::mismatch(from, to);
    const auto shared = from.substr(0, std::size_t(differ.in1 - from.begin())).rfind('/');
    const std::size_t kept = shared == std::string::npos ? 0 : shared + 1;
    return int(std::ranges::count(from.substr(kept), '/') + std::ranges::count(to.substr(kept), '/'));
}

bool brings(const Clothing& own, const std::string& path) {
    return own.pictures.contains(lowerCase(path.substr(folderOf(path).size())));
}

} // namespace

Clothing clothingOf(const Model& model) {
    Clothing out;
    for (const auto& image : model.images)
        if (image) out.pictures.insert(lowerCase(image->name));
    for (const Material& material : model.materials) out.materials.push_back(material.name);
    for (const PictureRole role : allPictureRoles)
        if (!model.materials.empty() &&
            std::ranges::all_of(model.materials, [&](const Material& m) { return bool(m.picture(role)); }))
            out.everywhere.insert(role);
    return out;
}

PictureShelf::PictureShelf(std::vector<std::string> pictures, platform::RoleEndings endings)
    : pictures_(std::move(pictures)), endings_(std::move(endings)) {
    std::ranges::sort(pictures_);
    parts_.reserve(pictures_.size());
    for (std::size_t i = 0; i < pictures_.size(); ++i) {
        parts_.push_back(partsOfName(stemOf(pictures_[i]), endings_));
        byStem_[parts_.back().stem].push_back(i);
        byName_[lowerCase(pictures_[i].substr(folderOf(pictures_[i]).size()))].push_back(i);
    }
}

std::vector<OfferedPicture> PictureShelf::matching(const std::string& model, const Clothing& own,
                                                   std::vector<OfferedPicture>* passedOver) const {
    const std::string folder = folderOf(model), stem = partsOfName(stemOf(model), endings_).stem;
    const std::string above = folder.empty() ? folder : folderOf(folder.substr(0, folder.size() - 1));
    struct Candidate {
        OfferedPicture picture;
        int away = 0;
    };
    std::vector<Candidate> candidates;
    const auto isNear = [&](const std::string& path) {
        return path.starts_with(folder) || (path.starts_with(above) && steps(folder, folderOf(path)) <= 2);
    };
    const auto add = [&](const std::string& called, const std::string& material, bool anywhere) {
        const auto found = byStem_.find(called);
        if (found == byStem_.end()) return;
        for (const std::size_t i : found->second) {
            const std::string& path = pictures_[i];
            if (brings(own, path) || !(anywhere || isNear(path))) continue;
            const int away = steps(folder, folderOf(path));
            const auto offer = [&](PictureRole role, PictureChannel channel) {
                if (!own.everywhere.contains(role))
                    candidates.push_back({{path, role, channel, material}, away});
            };
            if (parts_[i].uses.empty()) offer(PictureRole::Colour, PictureChannel::Colour);
            for (const auto& use : parts_[i].uses) offer(use.role, use.channel);
        }
    };
    add(stem, {}, true);
    for (const std::string& material : own.materials) {
        const std::string name = partsOfName(material, endings_).stem;
        if (name.empty()) continue;
        add(fmt::format("{}_{}", stem, name), material, true);
        if (name != stem) add(name, material, false);
    }
    std::ranges::stable_sort(candidates, {}, [](const Candidate& candidate) {
        const OfferedPicture& picture = candidate.picture;
        return std::tuple(picture.material, picture.role, candidate.away, picture.path);
    });
    std::vector<OfferedPicture> out;
    for (const Candidate& candidate : candidates)
        if (out.empty() || out.back().material != candidate.picture.material ||
            out.back().role != candidate.picture.role)
            out.push_back(candidate.picture);
        else if (passedOver && out.back() != candidate.picture)
            passedOver->push_back(candidate.picture);
    return out;
}

PictureShelf::Left PictureShelf::left(const std::string& model, const Clothing& own,
                                      const std::vector<OfferedPicture>& matching, std::size_t most) const {
    const std::string stem = partsOfName(stemOf(model), endings_).stem;
    const auto holds = [&](const std::string& in) {
        const auto first = std::ranges::lower_bound(pictures_, in);
        return first != pictures_.end() && first->starts_with(in);
    };
    // Models and pictures often have a folder each, side by side.
    std::string folder = folderOf(model);
    if (!folder.empty() && !holds(folder)) folder = folderOf(folder.substr(0, folder.size() - 1));
    std::set<std::size_t> spoken;
    for (const OfferedPicture& picture : matching)
        if (const auto at = std::ranges::lower_bound(pictures_, picture.path); at != pictures_.end())
            spoken.insert(std::size_t(at - pictures_.begin()));
    for (const std::string& name : own.pictures)
        if (const auto found = byName_.find(name); found != byName_.end())
            spoken.insert(found->second.begin(), found->second.end());
    // A folder's pictures are a run of the list; only as many of it are looked at as are shown.
    const auto first = std::ranges::lower_bound(pictures_, folder);
    const auto last = std::partition_point(first, pictures_.end(),
                                           [&](const std::string& path) { return path.starts_with(folder); });
    const std::size_t begin = std::size_t(first - pictures_.begin()),
                      end = std::size_t(last - pictures_.begin());
    std::set<std::size_t> listed;
    Left out;
    out.all = end - begin - std::size_t(std::distance(spoken.lower_bound(begin), spoken.lower_bound(end)));
    for (std::size_t i = begin; i < end && listed.size() < most; ++i)
        if (!spoken.contains(i)) listed.insert(i);
    for (auto at = byStem_.lower_bound(stem); at != byStem_.end() && at->first.starts_with(stem); ++at) {
        if (at->first != stem && at->first[stem.size()] != '_') continue;
        for (const std::size_t i : at->second)
            if ((i < begin || i >= end) && !spoken.contains(i)) ++out.all, listed.insert(i);
    }
    for (const std::size_t i : listed)
        if (out.first.size() < most) out.first.push_back(pictures_[i]);
    return out;
}

platform::RoleEndings roleEndingsFor(const std::vector<std::string>& platforms,
                                     const std::vector<std::shared_ptr<const platform::Sheet>>& sheets,
                                     const platform::RoleEndings& general) {
    platform::RoleEndings out;
    for (const std::string& id : platforms)
        for (const auto& sheet : sheets)
            if (sheet->id == id) out.add(sheet->endings);
    out.add(general);
    return out;
}

recipe::Recipe wearing(const std::vector<OfferedPicture>& pictures, const fs::path& container) {
    if (pictures.empty()) return {};
    steps::StepOf<steps::SetPictures> step;
    auto rows = nlohmann::json::array();
    for (const OfferedPicture& picture : pictures) {
        auto of = nlohmann::json::array();
        if (!picture.material.empty()) of.push_back(patternFor(picture.material));
        rows.push_back({{"of", of},
                        {"role", roleName(picture.role)},
                        {"channel", platform::channelName(picture.channel)},
                        {"picture", {{"file", (container / picture.path).generic_string()}}}});
    }
    step.setParams({{"pictures", rows}});
    return {{std::string(steps::SetPictures::info.id), true, step.params()}};
}

} // namespace zl::project
