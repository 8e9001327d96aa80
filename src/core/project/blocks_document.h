#pragma once
#include "core/model/block_build.h"
#include "core/project/document.h"

#include <array>
#include <map>
#include <optional>

namespace zl::project {

/// Blocks that are put by hand, and places where blocks are taken away: a build of its own as a source of a
/// piece, or laid over what a model was built to (the step "By hand"). Cells are numbered as blocks::Hull
/// has it.
class BlocksDocument final : public Document {
public:
    /// By Z, then Y, then X, so that files can be compared.
    struct Order {
        bool operator()(const glm::ivec3& a, const glm::ivec3& b) const {
            return std::array{a.z, a.y, a.x} < std::array{b.z, b.y, b.x};
        }
    };
    /// What is done in a cell: a block, or nothing where one is taken away.
    using Cells = std::map<glm::ivec3, std::optional<blocks::Block>, Order>;

    double edge = 0.25;
    std::vector<blocks::Paint> paints;
    Cells cells;

    nlohmann::ordered_json toJson() const override;
    Model model(const std::filesystem::path& folder, const Progress& progress) const override;
    std::unique_ptr<Document> copy() const override { return std::make_unique<BlocksDocument>(*this); }
    static std::unique_ptr<Document> read(const nlohmann::json& content);
};

inline constexpr DocumentKind blocksKind{"blocks", "Blocks", "blocks",
                                         [] { return std::unique_ptr<Document>(new BlocksDocument); },
                                         BlocksDocument::read};

/// What is to stand in cells in the end: a block, or nothing.
using InCells = std::map<glm::ivec3, std::optional<blocks::Block>, BlocksDocument::Order>;

/// Does something in cells: puts a block, takes one away, or (nothing at all) leaves the cell to what is
/// below again. Also sets what its blocks are, where `edge` is above 0. Throws Error for cells that are too
/// far off.
class BlocksChange final : public DocumentChange {
public:
    using Wanted = std::map<glm::ivec3, std::optional<std::optional<blocks::Block>>, BlocksDocument::Order>;

    explicit BlocksChange(Wanted wanted, double edge = 0, std::vector<blocks::Paint> paints = {})
        : wanted_(std::move(wanted)), edge_(edge), paints_(std::move(paints)) {}
    /// So that `cells` stand over `below` (null for nothing) as they are wanted: where that has the same
    /// already, nothing is done.
    static Wanted over(const blocks::Hull* below, const InCells& cells);
    void make(Document& document) override;
    void takeBack(Document& document) override { swap(static_cast<BlocksDocument&>(document)); }

private:
    void swap(BlocksDocument& document);
    Wanted wanted_; ///< and after make() what was there before
    double edge_;
    std::vector<blocks::Paint> paints_;
};

} // namespace zl::project
