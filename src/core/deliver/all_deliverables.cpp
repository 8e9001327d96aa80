#include "core/deliver/deliver.h"

namespace zl::deliver {

std::span<const Deliverable> allDeliverables() {
    static const std::vector<Deliverable> deliverables{
        {"table-figure", "Figure for the table", makeTableFigure},
    };
    return deliverables;
}

} // namespace zl::deliver
