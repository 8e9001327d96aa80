#include "core/chain/chain.h"
#include "core/base/words.h"

#include "core/base/error.h"
#include "core/chain/put_back.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::chain {

using formats::Aspect;

std::vector<platform::Leg> legsFrom(const std::string& list) {
    std::vector<platform::Leg> legs;
    for (std::size_t at = 0; at <= list.size();) {
        const std::size_t comma = std::min(list.find(',', at), list.size());
        std::string one = list.substr(at, comma - at);
        std::erase(one, ' ');
        if (!one.empty()) legs.push_back({.format = one});
        at = comma + 1;
    }
    if (legs.empty())
        throw Error("a chain needs a format at least", "--through", "Say for instance glb,dae,obj.");
    return legs;
}

std::vector<LegPlan> planned(const std::vector<platform::Leg>& chain, const platform::Sheet* sheet,
                             const std::string& name) {
    std::vector<LegPlan> plans;
    for (const platform::Leg& leg : chain) {
        const formats::Format* format = formats::formatWithId(leg.format);
        if (!format || !format->write) {
            std::vector<std::string_view> all;
            for (const auto& known : formats::allFormats())
                if (known.write) all.push_back(known.id);
            throw Error(fmt::format("there is no format \"{}\" that can be written", leg.format), "chain",
                        "Use some of " + inARow(all) + ".");
        }
        for (const auto* list : {&leg.loses, &leg.changes})
            for (const std::string& id : *list)
                if (!formats::aspectNamed(id))
                    throw Error(fmt::format("\"{}\" is nothing that a leg could lose", id), "chain",
                                "Expected ids such as names, uvs or clips.");
        LegPlan plan{leg, format, {name}};
        plan.options.metresPerUnit = leg.metresPerUnit > 0 ? leg.metresPerUnit
                                     : sheet               ? sheet->fileMetresPerUnit()
                                                           : 1;
        plan.options.up = leg.up == "Z" ? Up::Z : leg.up == "Y" ? Up::Y : sheet ? sheet->up : Up::Y;
        plan.options = formats::inFrameOf(*format, plan.options);
        plans.push_back(plan);
    }
    return plans;
}

Verdicts expected(const LegPlan& leg, const Facts& before) {
    Verdicts out = compared(before, before); // kept, or nothing of it
    const auto set = [&](Aspect aspect, Fate fate, std::string words) {
        if (out[aspect].fate != Fate::None) out[aspect] = {fate, std::move(words)};
    };
    for (const Aspect aspect : formats::allAspects()) {
        if (leg.format->loses.has(aspect)) set(aspect, Fate::Lost, {});
        if (leg.format->changes.has(aspect)) set(aspect, Fate::Changed, {});
    }
    // One object stays one object in a format that melts all into one.
    if (before.objects <= 1 && leg.format->loses.has(Aspect::Objects))
        out[Aspect::Objects] = {Fate::Kept, {}};
    if (!leg.format->saysFrame) {
        set(Aspect::Scale, Fate::Lost, "the file does not say its unit");
        set(Aspect::Up, Fate::Lost, "the file does not say its axes");
    }
    for (const std::string& id : leg.leg.loses) set(*formats::aspectNamed(id), Fate::Lost, leg.leg.note);
    for (const std::string& id : leg.leg.changes) set(*formats::aspectNamed(id), Fate::Changed, leg.leg.note);
    return out;
}

Result run(const Model& model, const std::vector<LegPlan>& legs, const std::filesystem::path& folder,
           const Progress& progress) {
    Result result;
    result.model = model;
    for (std::size_t i = 0; i < legs.size(); ++i) {
        const LegPlan& leg = legs[i];
        const Progress part = progress.between(double(i) / legs.size(), double(i + 1) / legs.size(),
                                               fmt::format("through {}", leg.format->name));
        LegResult done{std::string(leg.format->id)};
        const Facts before = factsOf(result.model);
        done.keeps = expected(leg, before);
        part.report(0.2);
        const auto files = formats::writeModel(*leg.format, result.model, leg.options, &done.dropped);
        const auto own = folder / fmt::format("{}-{}", i + 1, leg.format->id);
        writeAllOrNone(own, files);
        part.report(0.5);
        done.file = (own / files[0].name).string();
        Model came = formats::readModel(done.file);
        // A file that does not state its frame is looked at as a reader takes it: in what it assumes.
        done.measured = compared(before, factsOf(came));
        part.report(0.8);
        Model mended =
            putBack(result.model, std::move(came), {unitOfMetres(leg.options.metresPerUnit), leg.options.up});
        for (const auto& [aspect, verdict] : compared(before, factsOf(mended))) {
            Verdict& measured = done.measured[aspect];
            const bool was = measured.fate == Fate::Lost || measured.fate == Fate::Changed;
            if (was && verdict.fate == Fate::Kept)
                measured = {Fate::PutBack,
                            measured.words.empty() ? "from the recipe" : measured.words + ", put back"};
        }
        mended.travelled = result.model.travelled;
        mended.headingKnown = result.model.headingKnown;
        result.model = std::move(mended);
        result.legs.push_back(std::move(done));
        part.report(1);
    }
    return result;
}

} // namespace zl::chain
