#pragma once
#include "standins/world/shape.h"

#include <filesystem>
#include <string>
#include <vector>

namespace zl::standins::tunnel {

/// What the engine's compiler says of a line: in the manner of compilers.
struct Complaint {
    std::string file;
    std::size_t line = 0; ///< 0 for the whole file
    bool isError = true;
    std::string text;
};

/// A prop as the compiler hands it to the engine, in the shown world's axes and the engine's units.
struct Prop {
    std::string name, credit;
    struct Part {
        world::Shape shape;
        std::string picture; ///< relative to the folder; empty for a colour
        glm::vec3 colour{0.7f};
    };
    std::vector<Part> parts;
    struct Piece {
        world::Shape shape;
        std::string surface;
    };
    std::vector<Piece> pieces;
    struct Placed {
        glm::vec3 at{0};
        float turn = 0; ///< radians, against the clock seen from above
    };
    std::vector<Placed> places;
};

struct Compiled {
    Prop prop;
    std::vector<Complaint> complaints;
    bool isFine() const;
};

/// Compiles the one script in a folder, in a process of its own that a bad file may bring down.
Compiled compile(const std::filesystem::path& folder);

/// The same within this process.
Compiled compiledHere(const std::filesystem::path& folder);

/// What the engine makes of a surface: a word for a step on it and what flies up. Null for one that it does
/// not know.
struct Surface {
    std::string_view name, sound, throws;
    glm::vec3 colour;
};
const Surface* surfaceNamed(std::string_view name);
std::vector<std::string_view> surfaceNames();

} // namespace zl::standins::tunnel
