#include "core/steps/platform_settings.h"

#include "core/base/words.h"
#include "core/model/clothe_bare.h"

namespace zl::steps {

Model PlatformSettings::apply(const Model& in, StepContext& context) const {
    if (!context.sheet || context.sheet->surface.settings.empty()) {
        context.note("the platform wants no settings of its own");
        return in;
    }
    Model out = in;
    clotheBare(out, "material"); // bare faces have nowhere to keep them
    std::size_t changed = 0;
    std::vector<std::string> names;
    for (const auto& [name, value] : context.sheet->surface.settings) names.push_back(name);
    for (Material& material : out.materials) {
        const MaterialSettings before = material.settings;
        for (const auto& [name, value] : context.sheet->surface.settings) material.settings[name] = value;
        changed += material.settings != before;
    }
    context.facts = {{"changed", changed}};
    context.note(changed == 0 ? "every material has them already"
                              : fmt::format("{}: {}", showCount(long(changed), "material", "materials"),
                                            showNames(names)));
    return out;
}

} // namespace zl::steps
