#include "core/steps/clips_from.h"

#include "core/base/pattern.h"
#include "core/base/unique_names.h"
#include "core/base/words.h"
#include "core/motion/taken_clip.h"

namespace zl::steps {

namespace {

std::string namesOf(const Model& model, const std::vector<int>& nodes) {
    std::vector<std::string> names;
    for (const int node : nodes) names.push_back(model.nodes[std::size_t(node)].name);
    return showNames(names);
}

} // namespace

Model ClipsFrom::apply(const Model& in, StepContext& context) const {
    if (from.name.empty()) {
        context.note("no other piece is named");
        return in;
    }
    const Companion other = context.input(from);
    const Model& donor = *other.model;
    if (donor.clips.empty()) throw Error("it has no clips", other.name, "Choose a piece that moves.");
    motion::BoneMap map = motion::mappedBones(donor, in);
    putByHand(map, pairs, donor, in);
    if (map.matches.empty())
        throw Error("none of its bones goes together with one of this piece", other.name,
                    "Name pairs of bones, or choose a piece with bones more like these.");

    Model out = in;
    const NamePatterns wanted(clips.patterns);
    UniqueNames names;
    for (const auto& clip : in.clips) names.take(clip->name);
    std::vector<std::string> taken;
    for (const auto& clip : donor.clips) {
        if (!wanted.match(clip->name)) continue;
        context.progress.checkCancel();
        Clip made = motion::takenClip(donor, *clip, in, map);
        made.name = names.made(clip->name);
        taken.push_back(made.name);
        out.clips.push_back(std::make_shared<const Clip>(std::move(made)));
    }
    if (taken.empty())
        throw Error(fmt::format("none of its clips is called \"{}\"", patternsText(clips.patterns)),
                    other.name, "Choose among its clips.");
    std::set<int> moved;
    for (const auto& clip : donor.clips)
        if (wanted.match(clip->name))
            for (const Channel& channel : clip->channels) moved.insert(channel.node);
    std::vector<int> unmoved;
    for (const int bone : map.leftFrom)
        if (moved.contains(bone)) unmoved.push_back(bone);
    std::vector<std::string> guessed;
    for (const auto& match : map.matches)
        if (match.by != motion::BoneMatch::By::Name)
            guessed.push_back(donor.nodes[std::size_t(match.from)].name + " → " +
                              in.nodes[std::size_t(match.to)].name);
    context.facts = {
        {"clips", taken}, {"bones", map.matches.size()}, {"guessed", guessed}, {"unmapped", unmoved.size()}};
    context.note(fmt::format("{} of {} over {}", showNames(taken), other.name,
                             showCount(long(map.matches.size()), "bone", "bones")));
    if (!guessed.empty()) context.note("by where they are: " + showNames(guessed));
    if (!map.leftTo.empty()) context.note("stay as they are: " + namesOf(in, map.leftTo));
    if (!unmoved.empty()) context.fellShort("moves nothing here: " + namesOf(donor, unmoved));
    return out;
}

} // namespace zl::steps
