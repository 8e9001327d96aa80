#include "core/steps/engine_version.h"

namespace zl::steps {

std::vector<std::string> EngineVersion::known(const platform::Sheet& sheet) {
    if (sheet.touch.engine.empty()) return {};
    std::vector<std::string> out{sheet.touch.engine};
    out.insert(out.end(), sheet.touch.earlier.begin(), sheet.touch.earlier.end());
    return out;
}

Model EngineVersion::apply(const Model& in, StepContext& context) const {
    const std::string wanted = !version.empty() ? version : context.sheet ? context.sheet->touch.engine : "";
    if (wanted.empty()) {
        context.fellShort(context.sheet ? fmt::format("{} asks for no version", context.sheet->name)
                                        : "no platform says what versions there are");
        return in;
    }
    Model out = in;
    out.madeFor = wanted;
    context.note(in.madeFor.empty() || in.madeFor == wanted
                     ? fmt::format("made for {}", wanted)
                     : fmt::format("made for {}, no longer {}", wanted, in.madeFor));
    return out;
}

} // namespace zl::steps
