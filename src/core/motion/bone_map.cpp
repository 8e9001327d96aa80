#include "core/motion/bone_map.h"

#include "core/motion/attached.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <limits>
#include <map>
#include <set>

namespace zl::motion {

namespace {

constexpr double nearby = 1.0 / 12;

/// Words of a name: cut where letters change case, at digits and at anything else. Digits are words too.
std::vector<std::string> wordsOf(std::string_view name) {
    // What stands before the last colon names the file or the figure that it came from.
    if (const auto colon = name.rfind(':'); colon != std::string_view::npos) name.remove_prefix(colon + 1);
    std::vector<std::string> out;
    char before = ' ';
    for (const char c : name) {
        const auto letter = static_cast<unsigned char>(c);
        const bool isLetter = std::isalpha(letter) != 0 || letter >= 128, isDigit = std::isdigit(letter) != 0;
        const bool begins =
            (std::isupper(letter) && !std::isupper(static_cast<unsigned char>(before))) ||
            isDigit != (std::isdigit(static_cast<unsigned char>(before)) != 0) ||
            (!std::isalnum(static_cast<unsigned char>(before)) && static_cast<unsigned char>(before) < 128);
        if (isLetter || isDigit) {
            if (begins || out.empty()) out.emplace_back();
            out.back() += char(std::tolower(letter));
        }
        before = c;
    }
    return out;
}

/// Words that mean the same, the first of each row in place of the others.
constexpr std::array<std::array<std::string_view, 6>, 12> alike{
    {{"left", "l", "lft", "", "", ""},
     {"right", "r", "rgt", "", "", ""},
     {"hips", "hip", "pelvis", "", "", ""},
     {"chest", "thorax", "ribs", "ribcage", "", ""},
     {"shoulder", "clavicle", "collar", "collarbone", "", ""},
     {"thigh", "upleg", "upperleg", "femur", "", ""},
     {"shin", "calf", "lowerleg", "leg", "tibia", "knee"},
     {"foot", "ankle", "", "", "", ""},
     {"toes", "toe", "ball", "toebase", "", ""},
     {"upperarm", "arm", "uparm", "humerus", "", ""},
     {"forearm", "lowerarm", "elbow", "lowarm", "", ""},
     {"hand", "wrist", "palm", "", "", ""}}};

std::string plainWord(const std::string& word) {
    for (const auto& row : alike)
        if (std::ranges::find(row, std::string_view(word)) != row.end()) return std::string(row[0]);
    return word;
}

} // namespace

std::string plainBoneName(std::string_view name) {
    auto words = wordsOf(name);
    // "upper arm" and "fore arm" are one word here, wherever they were parted.
    for (std::size_t k = 0; k + 1 < words.size(); ++k) {
        static const std::set<std::string_view> firsts{"upper", "lower", "up",    "low",
                                                       "fore",  "toe",   "collar"};
        static const std::set<std::string_view> seconds{"arm", "leg", "base", "bone"};
        if (!firsts.contains(words[k]) || !seconds.contains(words[k + 1])) continue;
        words[k] += words[k + 1];
        words.erase(words.begin() + long(k) + 1);
    }
    std::string side, rest;
    for (const std::string& raw : words) {
        const std::string word = plainWord(raw);
        if (word == "left" || word == "right")
            side = word;
        else if (word != "bone" && word != "joint" && word != "jnt" && word != "def" && word != "bip")
            rest += std::ranges::all_of(word, [](char c) { return c >= '0' && c <= '9'; }) && rest.empty()
                        ? ""
                        : word;
    }
    return rest.empty() ? rest : side.empty() ? rest : rest + "." + side;
}

std::vector<int> bonesOf(const Model& model) {
    std::set<int> out;
    const auto withAbove = [&](int node) {
        for (; node >= 0 && out.insert(node).second; node = model.nodes[std::size_t(node)].parent) {
        }
    };
    for (const int joint : jointsOf(model)) withAbove(joint);
    if (out.empty())
        for (const auto& clip : model.clips)
            for (const Channel& channel : clip->channels) withAbove(channel.node);
    return {out.begin(), out.end()};
}

int BoneMap::toOf(int from) const {
    const auto found = std::ranges::find(matches, from, &BoneMatch::from);
    return found == matches.end() ? -1 : found->to;
}

std::size_t BoneMap::guessed() const {
    return std::size_t(
        std::ranges::count_if(matches, [](const BoneMatch& m) { return m.by != BoneMatch::By::Name; }));
}

namespace {

class Mapping {
public:
    Mapping(const Model& from, const Model& to)
        : from_(from), to_(to), fromBones_(bonesOf(from)), toBones_(bonesOf(to)) {}

    BoneMap map() {
        byName();
        byHierarchy();
        byPlace();
        for (const int bone : fromBones_)
            if (!takenFrom_.contains(bone)) out_.leftFrom.push_back(bone);
        for (const int bone : toBones_)
            if (!takenTo_.contains(bone)) out_.leftTo.push_back(bone);
        return std::move(out_);
    }

private:
    void match(int from, int to, BoneMatch::By by) {
        out_.matches.push_back({from, to, by});
        takenFrom_[from] = to, takenTo_[to] = from;
    }

    void byName() {
        // The same to the letter goes before what only means the same.
        std::map<std::string, int> exact;
        std::map<std::string, std::vector<int>> plain;
        for (const int bone : toBones_) exact.try_emplace(to_.nodes[std::size_t(bone)].name, bone);
        for (const int bone : fromBones_) {
            const auto found = exact.find(from_.nodes[std::size_t(bone)].name);
            if (found != exact.end() && !takenTo_.contains(found->second))
                match(bone, found->second, BoneMatch::By::Name);
        }
        for (const int bone : toBones_)
            if (!takenTo_.contains(bone))
                plain[plainBoneName(to_.nodes[std::size_t(bone)].name)].push_back(bone);
        for (const int bone : fromBones_) {
            if (takenFrom_.contains(bone)) continue;
            const std::string name = plainBoneName(from_.nodes[std::size_t(bone)].name);
            const auto found = plain.find(name);
            if (name.empty() || found == plain.end() || found->second.empty()) continue;
            match(bone, found->second.front(), BoneMatch::By::Name);
            found->second.erase(found->second.begin());
        }
    }

    /// Bones without a match right below `above`.
    static std::vector<int> leftBelow(const Model& model, const std::vector<int>& bones, int above,
                                      const std::map<int, int>& taken) {
        std::vector<int> out;
        for (const int bone : bones)
            if (model.nodes[std::size_t(bone)].parent == above && !taken.contains(bone)) out.push_back(bone);
        return out;
    }

    void byHierarchy() {
        // From above to below, so that what was found carries on.
        for (const int bone : fromBones_) {
            const auto found = takenFrom_.find(bone);
            if (found == takenFrom_.end()) continue;
            const auto own = leftBelow(from_, fromBones_, bone, takenFrom_),
                       other = leftBelow(to_, toBones_, found->second, takenTo_);
            if (own.size() == 1 && other.size() == 1) match(own[0], other[0], BoneMatch::By::Hierarchy);
        }
    }

    /// Where bones stand, from 0 to 1 of the skeleton's height, about its middle and its foot.
    static std::map<int, glm::dvec3> placesOf(const Model& model, const std::vector<int>& bones) {
        const auto world = worldMatrices(model);
        glm::dvec3 low(std::numeric_limits<double>::max()), high(std::numeric_limits<double>::lowest());
        for (const int bone : bones)
            low = glm::min(low, glm::dvec3(world[std::size_t(bone)][3])),
            high = glm::max(high, glm::dvec3(world[std::size_t(bone)][3]));
        const double tall = std::max({high.x - low.x, high.y - low.y, high.z - low.z, 1e-9});
        std::map<int, glm::dvec3> out;
        for (const int bone : bones)
            out[bone] = (glm::dvec3(world[std::size_t(bone)][3]) -
                         glm::dvec3((low.x + high.x) / 2, low.y, (low.z + high.z) / 2)) /
                        tall;
        return out;
    }

    void byPlace() {
        const auto own = placesOf(from_, fromBones_), other = placesOf(to_, toBones_);
        const auto nearest = [](const glm::dvec3& place, const std::map<int, glm::dvec3>& all,
                                const std::map<int, int>& taken) {
            int best = -1;
            double far = nearby;
            for (const auto& [bone, at] : all)
                if (!taken.contains(bone) && glm::distance(place, at) < far)
                    far = glm::distance(place, at), best = bone;
            return best;
        };
        for (const int bone : fromBones_) {
            if (takenFrom_.contains(bone)) continue;
            const int to = nearest(own.at(bone), other, takenTo_);
            if (to >= 0 && nearest(other.at(to), own, takenFrom_) == bone)
                match(bone, to, BoneMatch::By::Place);
        }
    }

    const Model &from_, &to_;
    std::vector<int> fromBones_, toBones_;
    std::map<int, int> takenFrom_, takenTo_;
    BoneMap out_;
};

} // namespace

BoneMap mappedBones(const Model& from, const Model& to) {
    return Mapping(from, to).map();
}

} // namespace zl::motion
