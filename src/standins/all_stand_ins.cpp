#include "standins/circuit/circuit_arena.h"
#include "standins/city/city_arena.h"
#include "standins/console/console_arena.h"
#include "standins/dressing/dressing_arena.h"
#include "standins/field/field_arena.h"
#include "standins/files/files_arena.h"
#include "standins/house/house_arena.h"
#include "standins/island/island_arena.h"
#include "standins/level/level_arena.h"
#include "standins/mirror/mirror_arena.h"
#include "standins/region/region_visit.h"
#include "standins/shed/shed_arena.h"
#include "standins/site/site_arena.h"
#include "standins/slip/slip_arena.h"
#include "standins/stand_in.h"
#include "standins/table/table_arena.h"
#include "standins/table/table_tests.h"
#include "standins/track/track_arena.h"
#include "standins/tunnel/tunnel_arena.h"
#include "standins/wardrobe/wardrobe.h"
#include "standins/yard/yard_arena.h"

namespace zl::standins {

const std::vector<StandIn>& allStandIns() {
    static const std::vector<StandIn> list{{"table", "table", "u", table::tryFolder, table::open},
                                           {"level", "level", "u", level::tryFolder, level::open},
                                           {"site", "site", "u", site::tryFolder, site::open},
                                           {"yard", "yard", "dm", yard::tryFolder, yard::open},
                                           {"house", "row house", "m", house::tryFolder, house::open},
                                           {"wardrobe", "wardrobe", "u", wardrobe::tryFolder, wardrobe::open},
                                           {"circuit", "circuit", "m", circuit::tryFolder, circuit::open},
                                           {"shed", "display shed", "m", shed::tryFolder, shed::open},
                                           {"island", "island", "cm", island::tryFolder, island::open},
                                           {"dressing-room", "dressing room", "m", dressing::tryFolder,
                                            dressing::open, dressing::nameFor, region::visit, "test main"},
                                           {"console", "console", "u", console::tryFolder, console::open},
                                           {"track", "track", "u", track::tryFolder, track::open},
                                           {"mirror", "mirror", "m", mirror::tryFolder, mirror::open},
                                           {"field", "block field", "blocks", field::tryFolder, field::open},
                                           {"city", "harbour city", "m", city::tryFolder, city::open},
                                           {"tunnel", "test tunnel", "u", tunnel::tryFolder, tunnel::open},
                                           {"slip", "slip", "blocks", slip::tryFolder, slip::open},
                                           {"files",
                                            "trial ground",
                                            "u",
                                            files::tryFolder,
                                            files::open,
                                            nullptr,
                                            nullptr,
                                            {},
                                            files::tryUnder,
                                            files::openUnder}};
    return list;
}

std::vector<std::string_view> standInIds() {
    std::vector<std::string_view> ids;
    for (const StandIn& standIn : allStandIns()) ids.push_back(standIn.id);
    return ids;
}

const StandIn* standInNamed(std::string_view id) {
    for (const StandIn& standIn : allStandIns())
        if (standIn.id == id) return &standIn;
    return nullptr;
}

} // namespace zl::standins
