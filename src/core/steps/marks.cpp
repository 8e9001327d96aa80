#include "core/steps/marks.h"

#include "core/base/words.h"
#include "core/contact/marks.h"

#include <algorithm>

namespace zl::steps {

std::vector<std::string> Marks::Wanted::known(const platform::Sheet& sheet) {
    std::vector<std::string> out;
    for (const contact::MarkPlace& one : sheet.touch.marks) out.push_back(one.name);
    return out;
}

Model Marks::apply(const Model& in, StepContext& context) const {
    if (!context.sheet || context.sheet->touch.marks.empty()) {
        context.fellShort(context.sheet ? fmt::format("{} reads no marks", context.sheet->name)
                                        : "no platform says what marks there are");
        return in;
    }
    const contact::Touch& touch = context.sheet->touch;
    const int holder = contact::holderOf(in);
    if (holder < 0) {
        context.fellShort("there is no one node around everything to put them on; add Holder before it");
        return in;
    }
    std::map<int, std::string> marks;
    for (const contact::MarkPlace* mark : contact::marksThatCount(in, touch))
        if (brought == Brought::Mended) marks[mark->place] = mark->name;
    for (const contact::OddMark& odd : contact::oddMarks(in, touch)) {
        if (brought == Brought::Mended && odd.meant) {
            marks[odd.meant->place] = odd.meant->name;
            context.note(fmt::format("\"{}\" in place {} → {} in place {}", odd.name, odd.place,
                                     odd.meant->name, odd.meant->place));
        } else {
            context.note(fmt::format("\"{}\" in place {} is left out", odd.name, odd.place));
        }
    }
    std::vector<std::string> unknown;
    for (const Wanted& row : wanted) {
        const std::string name = row.mark.empty() ? touch.marks[0].name : row.mark;
        const auto mark = std::ranges::find(touch.marks, name, &contact::MarkPlace::name);
        if (mark == touch.marks.end())
            unknown.push_back(name);
        else
            marks[mark->place] = mark->name;
    }
    if (!unknown.empty())
        context.fellShort(fmt::format("{} reads nothing called {}", context.sheet->name, showNames(unknown)));
    Model out = in;
    for (Node& node : out.nodes) node.marks.clear();
    std::vector<std::string> all;
    for (const auto& [place, name] : marks) all.push_back(fmt::format("{} in place {}", name, place));
    context.note(all.empty() ? "it has no marks" : showNames(all));
    context.facts["marks"] = nlohmann::json::object();
    for (const auto& [place, name] : marks) context.facts["marks"][std::to_string(place)] = name;
    out.nodes[std::size_t(holder)].marks = std::move(marks);
    return out;
}

} // namespace zl::steps
