#include "core/learn/picture_packing.h"

#include "core/platform/role_endings.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::learn {

namespace {

using Channel = PictureFacts::Channel;

/// The mean of what all pictures say of a channel.
Channel meanOf(const std::vector<const PictureFacts*>& pictures, std::size_t k) {
    Channel out{1, 0, 0};
    for (const PictureFacts* picture : pictures) {
        const Channel& c = picture->channels[k];
        const double share = 1.0 / double(pictures.size());
        out.least = std::min(out.least, c.least), out.most = std::max(out.most, c.most);
        out.mean += share * c.mean, out.extremes += share * c.extremes, out.dark += share * c.dark;
        out.roughness += share * c.roughness;
        out.alongRed += share * c.alongRed, out.alongGreen += share * c.alongGreen;
    }
    return out;
}

bool isOneValue(const std::vector<const PictureFacts*>& pictures, std::size_t k) {
    return std::ranges::all_of(pictures, [k](const PictureFacts* p) { return p->channels[k].isOneValue(); });
}

/// How much a channel behaves like maps of a role do, from 0.
double behavesLike(std::string_view role, const Channel& c) {
    if (role == "emission") return c.dark > 0.6 ? 0.5 + 0.5 * c.dark : 0;
    if (role == "metalness") return c.extremes > 0.75 ? 0.4 + 0.5 * c.extremes - 0.3 * (c.dark > 0.9) : 0;
    if (role == "occlusion") return c.mean > 0.65 && c.most > 0.9 && c.dark < 0.1 ? 0.3 + 0.5 * c.mean : 0;
    if (role == "roughness") return c.extremes < 0.6 ? 0.55 + 0.2 * (1 - std::abs(2 * c.mean - 1.1)) : 0.1;
    return 0;
}

std::string number(double value) {
    return fmt::format("{}", std::round(value * 100) / 100);
}

class Recogniser {
public:
    Recogniser(const std::vector<const PictureFacts*>& pictures, std::string_view name)
        : pictures_(pictures) {
        isLone_ = name.empty();
        const auto parts =
            platform::partsOfName(std::string("x") + std::string(name), platform::usualRoleEndings());
        for (const auto& use : parts.uses) uses_.push_back(use);
        for (std::size_t k = 0; k < 4; ++k) means_[k] = meanOf(pictures, k);
        hasAlpha_ = std::ranges::any_of(pictures, [](const PictureFacts* p) { return p->alpha; });
    }

    Packing made() {
        double normals = 0, likeness = 0;
        bool grey = true;
        for (const PictureFacts* p : pictures_) {
            normals += p->normalShare / double(pictures_.size());
            likeness += p->likeness / double(pictures_.size());
            grey = grey && p->grey;
        }
        if (normals > 0.8)
            relief();
        else if (grey)
            oneMap();
        else if (isCalled(PictureRole::Colour) || (uses_.empty() && (likeness > 0.35 || isLone_)) ||
                 isCalled(PictureRole::Specular) || (isCalled(PictureRole::Emission) && uses_.size() == 1))
            painted();
        else
            maps();
        return std::move(out_);
    }

private:
    bool isCalled(PictureRole role) const {
        return std::ranges::any_of(uses_, [role](const auto& use) { return use.role == role; });
    }
    void say(std::string reason) { out_.reasons.push_back(std::move(reason)); }

    void relief() {
        out_.channels = {"normal.red", "normal.green", "normal.blue", ""};
        say("red, green and blue are directions");
        out_.isSure = true;
        if (!hasAlpha_) return;
        if (isOneValue(pictures_, 3)) {
            out_.channels[3] = number(means_[3].mean);
            return;
        }
        const Channel& alpha = means_[3];
        if (std::abs(alpha.alongRed) > 0.2) {
            const bool turned = alpha.alongRed < 0;
            out_.channels[3] = turned ? "1 - height" : "height";
            say(fmt::format("alpha goes with the slopes, as height does ({:.2f})", std::abs(alpha.alongRed)));
            // With the height known, green says which way its slopes count.
            if (alpha.alongRed * alpha.alongGreen < 0 && std::abs(alpha.alongGreen) > 0.2) {
                out_.channels[1] = "1 - normal.green";
                say("green is turned over: it falls where the height says that it rises");
            }
            return;
        }
        out_.channels[3] = behavesLike("metalness", alpha) > 0.8 ? "metalness" : "roughness";
        out_.isSure = false;
        say("alpha does not go with the slopes, so that it is no height");
    }

    void oneMap() {
        std::string role;
        for (const auto& use : uses_)
            if (isScalar(use.role)) role = roleName(use.role);
        if (role.empty() && isCalled(PictureRole::Colour)) return painted();
        out_.isSure = !role.empty();
        if (role.empty()) {
            double best = 0;
            for (const std::string_view one : {"roughness", "metalness", "occlusion"})
                if (const double like = behavesLike(one, means_[0]); like > best) best = like, role = one;
        }
        if (isOneValue(pictures_, 0)) role = number(means_[0].mean);
        out_.channels = {role, role, role, ""};
        say("red, green and blue are one map");
        if (hasAlpha_ && !isOneValue(pictures_, 3)) out_.channels[3] = "opacity";
    }

    void painted() {
        const std::string role = isCalled(PictureRole::Emission)   ? "emission"
                                 : isCalled(PictureRole::Specular) ? "specular"
                                                                   : "colour";
        for (std::size_t k = 0; k < 3; ++k) out_.channels[k] = fmt::format("{}.{}", role, channelWord(k));
        say("red, green and blue are painted");
        out_.isSure = true;
        if (!hasAlpha_) return;
        if (isOneValue(pictures_, 3))
            out_.channels[3] = number(means_[3].mean);
        else
            out_.channels[3] = "opacity", say("alpha says something");
    }

    /// Each channel a map of its own: the roles go where they are called so, then where they behave like it.
    void maps() {
        say("each channel is a map of its own");
        std::vector<std::string_view> left{"emission", "metalness", "occlusion", "roughness"};
        std::array<bool, 4> done{};
        out_.isSure = true;
        for (const auto& use : uses_) {
            if (use.channel == PictureChannel::Colour || !isScalar(use.role)) continue;
            const std::size_t k = std::size_t(use.channel) - std::size_t(PictureChannel::Red);
            if (isOneValue(pictures_, k)) continue;
            out_.channels[k] = roleName(use.role), done[k] = true;
            std::erase(left, roleName(use.role));
        }
        for (std::size_t k = 0; k < 4; ++k)
            if (!done[k] && (k < 3 || hasAlpha_) && isOneValue(pictures_, k))
                out_.channels[k] = number(means_[k].mean), done[k] = true;
        for (int round = 0; round < 4; ++round) { // the clearest first
            double best = 0.25;
            std::size_t where = 4;
            std::string_view role;
            for (std::size_t k = 0; k < 4; ++k)
                for (const std::string_view one : left)
                    if (!done[k] && (k < 3 || hasAlpha_))
                        if (const double like = behavesLike(one, means_[k]); like > best)
                            best = like, where = k, role = one;
            if (where == 4) break;
            out_.channels[where] = role, done[where] = true;
            say(fmt::format("{} behaves like {}", channelWord(where), role));
            std::erase(left, role);
        }
        for (std::size_t k = 0; k < 4; ++k)
            if (!done[k] && (k < 3 || hasAlpha_)) {
                out_.channels[k] = left.empty() ? "height" : std::string(left.front());
                if (!left.empty()) left.erase(left.begin());
                out_.isSure = false;
                say(fmt::format("{} is anything", channelWord(k)));
            }
    }

    const std::vector<const PictureFacts*>& pictures_;
    std::vector<platform::RoleEndings::Ending> uses_;
    std::array<Channel, 4> means_;
    bool hasAlpha_ = false;
    bool isLone_ = false; ///< nothing behind its name: the one picture of what it is called after
    Packing out_;
};

} // namespace

Packing packingOf(const std::vector<const PictureFacts*>& pictures, std::string_view name) {
    return Recogniser(pictures, name).made();
}

} // namespace zl::learn
