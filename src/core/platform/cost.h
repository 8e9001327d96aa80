#pragma once
#include "core/model/model.h"
#include "core/platform/sheet.h"

#include <optional>

namespace zl::platform {

/// Bytes that a model's meshes take on a graphics card: 32 a corner (place, normal, UV), 12 a triangle, each
/// mesh once. `copies`, when given, receives how many more times one is shown.
double meshMemory(const Model& model, std::size_t* copies = nullptr);

/// About how large the delivered files are, from counts: in the OBJ files written here a place takes 38
/// bytes, a normal 36, a UV 22 and a triangle 42; in GLB a corner with all of these 32 and a triangle 12;
/// pictures as their files are. Throws Error for a broken picture.
double uploadEstimate(const Model& model, MeshFile file);

/// What a piece takes on a platform, once and many times over.
struct Cost {
    std::size_t triangles = 0;
    double upload = 0; ///< bytes
    double mesh = 0;   ///< bytes in memory
    /// What its pictures take at each of the platform's levels of quality; one level where it has none.
    struct Quality {
        std::string name;
        int edge = 0; ///< that pictures are shrunk to; 0 for as they are
        bool usual = false;
        double pictures = 0; ///< bytes in memory
        double pixels = 0;   ///< of all pictures together
    };
    std::vector<Quality> qualities;

    const Quality& usual() const;
    /// Bytes in memory of so many copies: as one piece that is shown again, or each a piece of its own.
    double memory(double copies, bool shared, const Quality& quality, const SheetCost& sheet) const;
    /// Estimated milliseconds to draw so many copies; nothing where the sheet does not say how quick it is.
    std::optional<double> frame(double copies, bool shared, const Quality& quality,
                                const SheetCost& sheet) const;
};
Cost costOf(const Model& model, const Sheet& sheet);

/// One limit of a platform, and how many copies it takes at the usual quality.
struct CostLimit {
    std::string what; ///< "memory", "upload", "frame"
    double most = 0;  ///< bytes, or milliseconds
    double one = 0;   ///< what one copy takes of it
    /// The most copies that hold it, as one piece that is shown again and as pieces of their own; none where
    /// it does not matter how many there are.
    std::optional<long long> shared, unique;
};
std::vector<CostLimit> costLimits(const Cost& cost, const SheetCost& sheet);

} // namespace zl::platform
