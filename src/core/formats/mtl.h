#pragma once
#include "core/files/source_file.h"
#include "core/model/model.h"

#include <map>
#include <set>

namespace zl::formats {

/// Materials of an OBJ file, read from its MTL libraries into a Model as they are used. Missing libraries,
/// materials and pictures become warnings; the model keeps its shape.
class MaterialLibrary {
public:
    /// Both must outlive it.
    MaterialLibrary(files::SourceFile& source, Model& model) : source_(source), model_(model) {}

    /// Reads one library named by an `mtllib` line (the whole line is one file name first, then several).
    void load(const std::string& names);
    /// Index of the material called `name`, made plain when no library has it.
    int use(const std::string& name);

private:
    void read(const files::SourceFile::Beside& file);
    /// What the words behind a picture statement say: options, and a file.
    PictureUse picture(std::string_view argument);
    int pictureFile(const std::string& name);

    files::SourceFile& source_;
    Model& model_;
    std::set<std::string> asked_, loaded_; ///< libraries: as they are named, and the files themselves
    std::map<std::string, Material> known_;
    std::map<std::string, int> used_;
    std::map<std::string, int> pictures_;
};

} // namespace zl::formats
