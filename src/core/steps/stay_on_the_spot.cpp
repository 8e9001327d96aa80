#include "core/steps/stay_on_the_spot.h"

#include "core/model/node_path.h"
#include "core/motion/posed.h"
#include "core/motion/travel.h"
#include "core/steps/changed_clips.h"

namespace zl::steps {

namespace {

glm::bvec3 axesOf(StayOnTheSpot::Axes axes) {
    using Axes = StayOnTheSpot::Axes;
    const bool all = axes == Axes::All, ground = axes == Axes::Ground || all;
    return {ground || axes == Axes::Sideways, all || axes == Axes::Up, ground || axes == Axes::Forward};
}

/// "1.84 m forward and 0.02 m up": what of a way can be seen.
std::string inWords(const glm::dvec3& way, const StepContext& context) {
    constexpr double seen = 5e-5;
    const std::pair<double, std::pair<const char*, const char*>> parts[] = {
        {way.z, {"forward", "back"}}, {way.x, {"to its left", "to its right"}}, {way.y, {"up", "down"}}};
    std::vector<std::string> words;
    for (const auto& [length, names] : parts)
        if (std::abs(length) >= seen)
            words.push_back(context.showLength(std::abs(length)) + " " +
                            (length > 0 ? names.first : names.second));
    return words.empty() ? "nothing" : fmt::format("{}", fmt::join(words, " and "));
}

/// How far places are from the straight way between the first and the last, at most.
double bobbing(const motion::Travel& travel) {
    double most = 0;
    for (std::size_t i = 0; i < travel.places.size(); ++i) {
        const double t = travel.seconds() > 0 ? (travel.times[i] - travel.times[0]) / travel.seconds() : 0;
        most = std::max(most, glm::distance(travel.places[i], travel.places[0] + t * travel.drift()));
    }
    return most;
}

} // namespace

Model StayOnTheSpot::apply(const Model& in, StepContext& context) const {
    int chosen = -1;
    if (!node.name.empty()) {
        const auto paths = nodesByPath(in);
        const auto path = paths.find(node.name);
        const auto name = std::ranges::find(in.nodes, node.name, &Node::name);
        if (path != paths.end())
            chosen = path->second;
        else if (name != in.nodes.end())
            chosen = int(name - in.nodes.begin());
        if (chosen < 0) {
            context.fellShort(fmt::format("there is no node \"{}\"", node.name));
            return in;
        }
    }
    auto facts = nlohmann::json::array();
    Model out = withClipsChanged(in, of, context, [&](const Clip& clip) -> std::shared_ptr<const Clip> {
        const motion::Travel was = motion::travelOf(in, clip, chosen);
        if (was.places.empty()) {
            context.note(fmt::format("nothing moves as a whole in {}", clip.name));
            return nullptr;
        }
        Clip stays = motion::standing(in, clip, was.node, {axesOf(axes), what == What::Steady});
        const motion::Travel is = motion::travelOf(in, stays, was.node);
        const glm::dvec3 taken = was.drift() - is.drift();
        if (keep && std::abs(glm::determinant(glm::dmat3(in.placement))) > 0)
            stays.way += glm::inverse(glm::dmat3(in.placement)) * taken;
        std::string told = fmt::format("took {} out of {}", inWords(taken, context), clip.name);
        if (const double left = bobbing(is); left > 5e-5)
            told += fmt::format("; {} of movement stay", context.showLength(left));
        // Below what moves by itself the movement is sampled anew.
        if (const std::size_t keys = motion::keysOf(stays), had = motion::keysOf(clip); keys != had)
            told += fmt::format("; {} → {} keys", showNumber(double(had), 0), showNumber(double(keys), 0));
        context.note(told);
        facts.push_back({{"clip", clip.name},
                         {"node", in.nodes[std::size_t(was.node)].name},
                         {"taken", {taken.x, taken.y, taken.z}},
                         {"seconds", was.seconds()},
                         {"left", is.groundDrift()}});
        return std::make_shared<const Clip>(std::move(stays));
    });
    context.facts["clips"] = std::move(facts);
    return out;
}

} // namespace zl::steps
