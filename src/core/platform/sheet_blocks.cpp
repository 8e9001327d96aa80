#include "core/platform/sheet_blocks.h"

#include "core/platform/table_reader.h"

namespace zl::platform {

SheetBlocks readBlocks(TableReader& root, const std::filesystem::path& file) {
    SheetBlocks out;
    if (const toml::table* table = root.table("blocks", false)) {
        TableReader blocks(*table, file);
        out.edge = blocks.positive("edge");
        if (blocks.get("kilograms", false)) out.kilograms = blocks.positive("kilograms");
        blocks.refuseOthers();
    }
    constexpr std::size_t most = 256;
    for (const toml::table* table : root.tables("paint", false)) {
        TableReader paint(*table, file);
        out.paints.push_back({paint.text("name"), paint.colour("colour")});
        paint.refuseOthers();
        if (out.paints.size() > most)
            root.fail(table, "these are too many paints", fmt::format("up to {}", most));
    }
    return out;
}

} // namespace zl::platform
