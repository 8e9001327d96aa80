#pragma once
#include "app/pages/cards.h"
#include "app/surface/surface_look.h"

namespace zl::app {

/// What may be pointed out of a layout.
enum class LayoutFault { Overlapping, Outside, Mirrored, Stretched };

/// How a material's parts lie on its picture, in numbers; what of it is lit; and the layout as a file.
class LayoutCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    void show(const SurfaceLook& look, const MaterialLook& material);
    /// Whether an island has a fault that is to be lit.
    bool lights(const SurfaceLook& look, std::size_t island) const;

Q_SIGNALS:
    void litChanged();
    void saveAsked(bool svg);

private:
    std::array<bool, 4> lit_{true, true, false, true};
};

} // namespace zl::app
