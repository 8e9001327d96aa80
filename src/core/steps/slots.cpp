#include "core/steps/slots.h"

#include "core/base/words.h"
#include "core/motion/posed.h"
#include "core/steps/clip_meant.h"

#include <algorithm>
#include <map>

namespace zl::steps {

Model Slots::apply(const Model& in, StepContext& context) const {
    Model out = in;
    out.clipSlots.clear();
    const std::vector<std::string> known = context.sheet ? context.sheet->slots : std::vector<std::string>();
    std::vector<std::string> all = known;
    for (const Filled& row : filled)
        if (!row.slot.empty() && std::ranges::find(all, row.slot) == all.end()) {
            if (!known.empty())
                context.fellShort(
                    fmt::format("{} plays nothing called \"{}\"", context.sheet->name, row.slot));
            all.push_back(row.slot);
        }
    const int rest = others.name.empty() ? -1 : clipMeant(in, others);
    std::vector<std::string> empty;
    std::map<int, std::vector<std::string>> played; // slots by clip
    for (const std::string& slot : all) {
        const auto row = std::ranges::find_if(
            filled, [&](const Filled& one) { return one.slot == slot && !one.clip.name.empty(); });
        int clip = row != filled.end() ? clipMeant(in, row->clip) : clipNamed(in, slot);
        if (clip < 0) clip = rest;
        if (clip < 0) {
            empty.push_back(slot);
            continue;
        }
        out.clipSlots.push_back({slot, clip});
        played[clip].push_back(slot);
    }
    context.facts = {{"filled", out.clipSlots.size()}, {"slots", all.size()}};
    if (all.empty()) context.note("the platform plays nothing by slots");
    for (const auto& [clip, slots] : played)
        context.note(fmt::format("{}, {} s, for {}", in.clips[std::size_t(clip)]->name,
                                 showMeasure(motion::lengthOf(*in.clips[std::size_t(clip)])),
                                 showNames(slots)));
    if (!empty.empty()) {
        context.fellShort("nothing is played for " + showNames(empty));
        for (std::size_t k = 0; k < std::min<std::size_t>(in.clips.size(), 4); ++k) {
            const std::string& name = in.clips[k]->name;
            context.offer(fmt::format("All that are empty take {}", name), {{"others", name}});
        }
    }
    return out;
}

} // namespace zl::steps
