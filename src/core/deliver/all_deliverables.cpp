#include "core/deliver/asset_folder.h"
#include "core/deliver/avatar_file.h"
#include "core/deliver/block_bundle.h"
#include "core/deliver/block_hull.h"
#include "core/deliver/city_object.h"
#include "core/deliver/console_headers.h"
#include "core/deliver/engine_prop.h"
#include "core/deliver/faced_thing.h"
#include "core/deliver/kart.h"
#include "core/deliver/outfit.h"
#include "core/deliver/own_files.h"
#include "core/deliver/race_car.h"
#include "core/deliver/row_package.h"

namespace zl::deliver {

namespace {

template <class... Deliverables>
std::vector<std::unique_ptr<Deliverable>> listOf() {
    std::vector<std::unique_ptr<Deliverable>> list;
    (list.push_back(std::make_unique<DeliverableOf<Deliverables>>()), ...);
    list.push_back(std::make_unique<OwnFiles>());
    return list;
}

} // namespace

std::span<const std::unique_ptr<Deliverable>> allDeliverables() {
    static const auto list = listOf<RowPackage, Outfit, RaceCar, AssetFolder, FacedThing, ConsoleHeaders,
                                    Kart, AvatarFile, BlockBundle, CityObject, EngineProp, BlockHull>();
    return list;
}

} // namespace zl::deliver
