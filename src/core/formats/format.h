#pragma once
#include "core/base/file_set.h"
#include "core/base/progress.h"
#include "core/files/source_file.h"
#include "core/formats/aspect.h"
#include "core/model/model.h"

namespace zl::formats {

struct WrittenPictures;

/// How a model is to be written.
struct WriteOptions {
    std::string name = "model"; ///< file name without extension; companions are named after it
    double metresPerUnit = 1.0; ///< the file's unit
    Up up = Up::Y;              ///< ignored by formats that fix their axes
    std::string front;          ///< axis that the front faces; empty is the usual one for `up`
    /// The folder beside it, with its '/', that its pictures go into. Empty puts them inside where the format
    /// can hold them, else beside it.
    std::string pictureFolder{};
    bool picturesBeside = false; ///< they go beside it, also where the format can hold them
    /// The pictures as another file of the same model has them beside it already: their names are used, and
    /// none is written again. Of formats that hold none.
    const WrittenPictures* written = nullptr;
};

/// A file format. A reader gives a Model whose frame says what the file declares and what is assumed, and
/// throws Error for what it cannot read. A writer takes the placed model and gives all files that belong
/// together, main file first; `dropped`, when given, receives what the format cannot hold.
struct Format {
    std::string_view id;
    std::string_view name;
    std::vector<std::string_view> extensions; ///< lower case, without dot
    Model (*read)(files::SourceFile&, const Progress&) = nullptr;
    std::vector<OutFile> (*write)(const Model&, const WriteOptions&,
                                  std::vector<std::string>* dropped) = nullptr;
    Aspects loses{};       ///< what its writer leaves out or the format cannot hold
    Aspects changes{};     ///< what comes back in another form
    bool saysFrame = true; ///< the file states its unit and axes
    /// Puts in the unit and axes that the format fixes, whatever was asked; null where it fixes none.
    void (*fixFrame)(WriteOptions&) = nullptr;
};

/// Every format, in the order in which they are offered.
std::span<const Format> allFormats();
/// By extension; throws Error listing those that can be read (or written).
const Format& formatToRead(const std::filesystem::path& path);
const Format& formatToWrite(const std::filesystem::path& path);

/// By id; null when there is none.
const Format* formatWithId(std::string_view id);

/// Reads any known format, also from inside archives (core/files/address.h), checks the result against
/// Model's promises, gives unnamed things names and the model the file's.
Model readModel(const std::filesystem::path& path, const Progress& progress = {});

/// What the format's writer makes of the model; `dropped`, when given, also receives what only few formats
/// have words for.
std::vector<OutFile> writeModel(const Format& format, const Model& model, const WriteOptions& options,
                                std::vector<std::string>* dropped);

/// The options as the format's writer can follow them: what it fixes itself takes the place of what was
/// asked.
WriteOptions inFrameOf(const Format& format, WriteOptions options);

/// Matrix from placed world space to the numbers of a file with these options.
glm::dmat4 worldToFile(const WriteOptions& options);

// The readers and writers; each is described in its own file.
Model readObj(files::SourceFile& source, const Progress& progress);
Model readStl(files::SourceFile& source, const Progress& progress);
Model readPly(files::SourceFile& source, const Progress& progress);
Model readGltf(files::SourceFile& source, const Progress& progress);
Model readThroughAssimp(files::SourceFile& source, const Progress& progress);
std::vector<OutFile> writeObj(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
std::vector<OutFile> writeStl(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
std::vector<OutFile> writePly(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
std::vector<OutFile> writeGlb(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
/// The model's set-up as VRM 1.0; throws Refused for a model without one.
std::vector<OutFile> writeVrm(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
std::vector<OutFile> writeCollada(const Model& model, const WriteOptions& options,
                                  std::vector<std::string>* dropped);
std::vector<OutFile> writeX3d(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
std::vector<OutFile> write3mf(const Model& model, const WriteOptions& options,
                              std::vector<std::string>* dropped);
/// 3MF is Z up, in the asked unit where it knows it, else in millimetres.
void fix3mfFrame(WriteOptions& options);
/// A build of blocks (hull_file.h) or a scene of solids (scene_file.h).
Model readXml(files::SourceFile& source, const Progress& progress);
Model readRowMesh(files::SourceFile& source, const Progress& progress);
Model readLevelText(files::SourceFile& source, const Progress& progress);
std::vector<OutFile> writeLevelText(const Model& model, const WriteOptions& options,
                                    std::vector<std::string>* dropped);

} // namespace zl::formats
