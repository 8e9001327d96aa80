#include "core/project/blocks_document.h"

#include "core/base/error.h"
#include "core/blocks/greedy_mesh.h"
#include "core/blocks/turns.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace zl::project {

namespace {

constexpr int furthest = 1000; ///< from the middle, in blocks

bool isNear(const glm::ivec3& cell) {
    return glm::all(glm::lessThanEqual(glm::abs(cell), glm::ivec3(furthest)));
}

[[noreturn]] void refuse(const std::string& what) {
    throw Error(what, {}, "Restore it from a copy.");
}

int whole(const nlohmann::json& list, std::size_t at, int least, int most) {
    if (!list.is_array() || list.size() <= at || !list[at].is_number_integer())
        refuse("has a block that is none");
    const auto value = list[at].get<long long>();
    if (value < least || value > most) refuse(fmt::format("has a block with a number {}", value));
    return int(value);
}

glm::ivec3 cellOf(const nlohmann::json& list) {
    return {whole(list, 0, -furthest, furthest), whole(list, 1, -furthest, furthest),
            whole(list, 2, -furthest, furthest)};
}

} // namespace

nlohmann::ordered_json BlocksDocument::toJson() const {
    using Json = nlohmann::ordered_json;
    Json out{{"edge", edge}, {"paints", Json::array()}, {"put", Json::array()}, {"taken", Json::array()}};
    for (const blocks::Paint& paint : paints)
        out["paints"].push_back(
            {{"name", paint.name}, {"colour", {paint.colour.r, paint.colour.g, paint.colour.b}}});
    for (const auto& [cell, block] : cells) {
        Json row{cell.x, cell.y, cell.z};
        if (block)
            row.insert(row.end(), {Json(int(block->kind)), Json(int(block->turn)), Json(int(block->colour))});
        out[block ? "put" : "taken"].push_back(std::move(row));
    }
    return out;
}

std::unique_ptr<Document> BlocksDocument::read(const nlohmann::json& content) {
    if (!content.is_object()) refuse("holds no blocks");
    auto out = std::make_unique<BlocksDocument>();
    const auto list = [&](const char* name) -> const nlohmann::json& {
        static const nlohmann::json none = nlohmann::json::array();
        const auto found = content.find(name);
        if (found == content.end()) return none;
        if (!found->is_array()) refuse(fmt::format("has no list \"{}\"", name));
        return *found;
    };
    const auto edge = content.find("edge");
    if (edge == content.end() || !edge->is_number()) refuse("does not say how large its blocks are");
    out->edge = edge->get<double>();
    if (!(out->edge > 1e-6) || !(out->edge < 1e6)) refuse("has blocks of no size");
    for (const auto& one : list("paints")) {
        blocks::Paint paint;
        if (!one.is_object() || !one.contains("name") || !one["name"].is_string() ||
            !one.contains("colour") || !one["colour"].is_array() || one["colour"].size() != 3)
            refuse("has a paint that is none");
        paint.name = one["name"];
        for (int k = 0; k < 3; ++k) {
            const auto& part = one["colour"][std::size_t(k)];
            if (!part.is_number()) refuse("has a paint that is none");
            paint.colour[k] = std::clamp(part.get<float>(), 0.0f, 1.0f);
        }
        if (out->paints.size() == 256) refuse("has more than 256 paints");
        out->paints.push_back(std::move(paint));
    }
    const int colours = std::max(1, int(out->paints.size()));
    const auto add = [&](glm::ivec3 cell, std::optional<blocks::Block> block) {
        if (!out->cells.emplace(cell, block).second)
            refuse(fmt::format("does two things at {} {} {}", cell.x, cell.y, cell.z));
    };
    for (const auto& row : list("put"))
        add(cellOf(row), blocks::Block{blocks::Kind(whole(row, 3, 0, int(std::size(blocks::kindNames)) - 1)),
                                       blocks::Turn(whole(row, 4, 0, blocks::turnCount - 1)),
                                       std::uint8_t(whole(row, 5, 0, colours - 1))});
    for (const auto& row : list("taken")) add(cellOf(row), std::nullopt);
    return out;
}

Model BlocksDocument::model(const std::filesystem::path&, const Progress&) const {
    blocks::Hull hull;
    hull.edge = edge, hull.paints = paints;
    glm::ivec3 least(furthest), most(-furthest);
    bool any = false;
    for (const auto& [cell, block] : cells) {
        if (!block) hull.taken.push_back(cell);
        if (block) least = glm::min(least, cell), most = glm::max(most, cell), any = true;
    }
    if (any) {
        hull.first = least;
        hull.build = blocks::Build(most - least + 1);
        for (const auto& [cell, block] : cells)
            if (block) hull.build.put(cell - least, *block);
    }
    Model out = blocks::modelOf(std::move(hull), "blocks");
    out.frame = {unitNamed("m"), Up::Y, false, false};
    out.headingKnown = true;
    return out;
}

void BlocksChange::swap(BlocksDocument& document) {
    for (auto& [cell, wanted] : wanted_) {
        const auto there = document.cells.find(cell);
        std::optional<std::optional<blocks::Block>> before;
        if (there != document.cells.end()) before = there->second;
        if (wanted)
            document.cells[cell] = *wanted;
        else if (there != document.cells.end())
            document.cells.erase(there);
        wanted = before;
    }
    if (edge_ > 0) std::swap(document.edge, edge_), std::swap(document.paints, paints_);
}

BlocksChange::Wanted BlocksChange::over(const blocks::Hull* below, const InCells& cells) {
    Wanted out;
    for (const auto& [cell, wanted] : cells) {
        const blocks::Block* there = below ? below->at(cell) : nullptr;
        if (there ? wanted && *wanted == *there : !wanted)
            out[cell] = std::nullopt;
        else
            out[cell] = std::optional(wanted);
    }
    return out;
}

void BlocksChange::make(Document& document) {
    for (const auto& [cell, wanted] : wanted_)
        if (!isNear(cell)) throw Error("that is too far away from the build", {}, "Put it nearer.");
    swap(static_cast<BlocksDocument&>(document));
}

} // namespace zl::project
