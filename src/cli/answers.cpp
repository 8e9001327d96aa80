#include "cli/command.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/words.h"
#include "core/steps/surface_kind.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>

namespace zl::cli {

namespace {

constexpr const char* frontHelp = "Say +z, +x, -z or -x, or degrees from +z towards +x.";
constexpr const char* sizeHelp = "Say height=1.4m, width=22dm or length=7ft; without a unit it is metres.";

/// The number that `text` begins with; `rest` receives what is behind it.
std::optional<double> numberAt(std::string_view text, std::string_view& rest) {
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || !std::isfinite(value)) return std::nullopt;
    rest = text.substr(std::size_t(end - text.data()));
    return value;
}

nlohmann::json headingParams(const std::string& front) {
    for (const char* known : {"+z", "+x", "-z", "-x"})
        if (front == known) return {{"front", front}};
    std::string_view rest;
    const auto degrees = numberAt(front, rest);
    if (!degrees || !rest.empty())
        throw Error(fmt::format("\"{}\" is no direction", front), "--front", frontHelp);
    return {{"front", "angle"}, {"angle", *degrees}};
}

nlohmann::json sizeParams(const std::string& size) {
    const std::size_t equals = size.find('=');
    const std::string by = size.substr(0, equals);
    std::string_view rest;
    const auto number = equals == std::string::npos
                            ? std::nullopt
                            : numberAt(std::string_view(size).substr(equals + 1), rest);
    if ((by != "height" && by != "width" && by != "length") || !number || !(*number > 0))
        throw Error(fmt::format("\"{}\" is no size", size), "--size", sizeHelp);
    while (rest.starts_with(' ')) rest.remove_prefix(1);
    return {{"by", by}, {"measure", *number * (rest.empty() ? 1 : unitNamed(rest).metres)}};
}

void demandKind(const std::string& name, const platform::Sheet& sheet) {
    const auto names = steps::SurfaceKind::OfMaterial::known(sheet);
    if (std::ranges::find(names, name) != names.end()) return;
    throw Error(fmt::format("{} knows no surface kind \"{}\"", sheet.name, name), "--made-of",
                names.empty() ? "Leave it out." : fmt::format("It knows {}.", showNames(names)));
}

} // namespace

void AnswerOptions::declare(CLI::App& app) {
    app.add_option("--front", front, "with --suggest: where its front points now; +z, +x, -z, -x or degrees");
    app.add_option("--size", size, "with --suggest: how large it really is, like height=1.4m or length=7ft");
    app.add_option("--made-of", madeOf,
                   "with --suggest: what all of it is made of, a surface kind of the platform");
    app.add_flag("--stretch", stretch, "with --suggest: its sides may be stretched to whole blocks");
}

std::string AnswerOptions::asking(const planner::Question& question) {
    const auto how = [&] {
        if (question.step == "size") return "--size, as height=1.4m, width=22dm or length=7ft";
        if (question.step == "surface-kind")
            return "--made-of, with one of the platform's surface kinds; parts of other kinds can be painted "
                   "in the window";
        if (question.step == "reshape") return "--stretch";
        return "--front, as +z, +x, -z, -x or degrees";
    };
    std::string out = fmt::format("{} Say it with {}.", question.words, how());
    if (!question.goesBy.empty()) out += fmt::format(" Until then it is {}.", question.goesBy);
    return out;
}

recipe::Recipe AnswerOptions::steps(bool asked, const platform::Sheet* sheet) const {
    recipe::Recipe out;
    const auto add = [&](const char* id, const nlohmann::json& params) {
        out.push_back({id, true, steps::makeStep(id, params)->params()});
    };
    if (!size.empty()) add("size", sizeParams(size));
    if (!front.empty()) add("heading", headingParams(front));
    if (!madeOf.empty()) {
        if (sheet) demandKind(madeOf, *sheet);
        add("surface-kind", {{"kind", madeOf}});
    }
    if (stretch) add("reshape", nlohmann::json::object());
    if (!asked && !out.empty())
        throw Error("they answer what a suggestion asks", "--front, --size, --made-of and --stretch",
                    "Add --suggest.");
    return out;
}

} // namespace zl::cli
