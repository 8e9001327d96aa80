#include "core/steps/unit_and_up.h"

namespace zl::steps {

Model UnitAndUp::apply(const Model& in, StepContext& context) const {
    SourceFrame frame;
    frame.unit = unit == UnitChoice::Custom ? unitOfMetres(metresPerUnit)
                                            : unitNamed(units[static_cast<int>(unit)].id);
    frame.up = up == UpChoice::Y ? Up::Y : Up::Z;
    frame.unitAssumed = frame.upAssumed = false;
    context.note(fmt::format("the file is in {}, {} is up", frame.unit.name, upName(frame.up)));
    return withFrame(in, frame);
}

} // namespace zl::steps
