#pragma once
#include <string>
#include <vector>

namespace zl::platform {

/// How meshes are written in what is uploaded: as text, or as numbers.
enum class MeshFile { Obj, Glb };

/// What a platform can hold and draw; 0 for what it does not say.
struct SheetCost {
    double memoryMegabytes = 0; ///< of a whole world
    double uploadMegabytes = 0; ///< of one piece
    MeshFile meshFile = MeshFile::Obj;
    double copyBytes = 0;   ///< that a piece takes once more
    double frameMillis = 0; ///< that a picture of the world may take
    double trianglesPerMilli = 0, pixelsPerMilli = 0;
    /// What its importer makes of pictures, the finest first.
    struct Quality {
        std::string name;
        int edge = 0;       ///< longer ones are shrunk to it
        bool usual = false; ///< taken unless somebody changes a setting
    };
    std::vector<Quality> qualities;

    bool saysSomething() const { return memoryMegabytes > 0 || uploadMegabytes > 0 || frameMillis > 0; }
};

} // namespace zl::platform
