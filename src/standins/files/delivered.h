#pragma once
#include "standins/world/shape.h"
#include "standins/stand_in.h"

#include "core/base/passing_folder.h"
#include "core/platform/file_terms.h"

#include <map>
#include <memory>
#include <set>

namespace zl::standins::files {

/// A model file as it was read here.
struct Read {
    std::string path;
    struct Object {
        std::string name, above; ///< what it hangs below; empty for none
        std::string material;
        world::Shape shape;  ///< in the file's numbers and axes
        std::string picture; ///< path below the folder; empty for none, or one inside
        glm::vec3 colour{0.8f};
        std::shared_ptr<const std::string> inside{}; ///< a picture's bytes, which objects may share
    };
    std::vector<Object> objects;
    std::vector<std::string> nodes, materials; ///< names
    std::size_t triangles = 0, corners = 0;    ///< corners of the largest object
    double metres = 0;                         ///< of its unit, where the file says it
    std::string up;                            ///< "Y" or "Z", where it says that
    std::set<std::string> names;               ///< files that it names, as paths below the folder
    bool partly = false;                       ///< it holds faces that were passed over
    std::string problem;                       ///< why nothing is known of it
};

/// A folder as a game finds it: every file of it, read by readers that the delivery does not share.
struct Delivered {
    std::filesystem::path folder;
    std::map<std::string, std::uint64_t> files; ///< paths below it, with bytes
    std::vector<Read> models;
    std::map<std::string, std::pair<int, int>> pictures; ///< paths, with width and height; 0 for broken ones
    std::map<std::string, std::string> texts;
    std::string archive;                          ///< that all of it lies in; empty for a folder
    std::shared_ptr<const PassingFolder> passing; ///< keeps what was taken out of it
    std::vector<std::string> unreadable;          ///< models of formats that are not read here
};

/// Reads all of it; an archive that is alone is opened. What is wrong becomes a message.
Delivered readDelivered(const std::filesystem::path& folder, TryReport& report);

/// How a model file is read.
using ModelReader = std::optional<Read> (*)(const std::filesystem::path& folder, const std::string& path);
/// The same for some files of a folder, with their sizes by path. What is wrong with them is not said.
Delivered readFiles(const std::filesystem::path& folder, std::map<std::string, std::uint64_t> files,
                    ModelReader reader);
/// What an archive holds (zip, 7z, tar), in a passing folder; null where it cannot be opened, which is said.
std::shared_ptr<const PassingFolder> opened(const std::filesystem::path& archive, TryReport& report);

/// Of what the game takes, the files of one piece, the nearest to ours: `like` is a folder of one or many
/// pieces, an archive of them, or a model file, which stands for its piece. Nothing where there is no model
/// that is read here.
std::optional<Delivered> exampleFor(const std::filesystem::path& like, const Delivered& mine);

/// A delivered model, by readers that the product does not share: of every format that one can be delivered
/// in. Nothing for a file of another.
std::optional<Read> readModelFile(const std::filesystem::path& folder, const std::string& path);
/// A model that the game takes, whoever wrote it: where the readers here do not get through, as the product
/// reads it. Nothing for a file that is no model.
std::optional<Read> readExampleFile(const std::filesystem::path& folder, const std::string& path);
/// Whether it is a model by its ending, of a format that examples may have.
bool isModel(const std::string& path);

/// Checks it against what the sheet says of files: what is there and what is missing, names, sizes, limits,
/// and that every file that another names is there.
void checkDelivered(const Delivered& delivered, const platform::FileTerms& terms, TryReport& report);

/// One thing in which two deliveries are compared.
struct Compared {
    std::string what, here, there;
    bool differs = false;
};
/// The delivery beside one that the game takes, differences first.
std::vector<Compared> compared(const Delivered& delivered, const Delivered& like,
                               const platform::FileTerms& terms);

/// The box around all of it in the shown world; its corners the wrong way round where there is nothing.
std::pair<glm::vec3, glm::vec3> shownBox(const Delivered& delivered, const platform::FileTerms& terms);

/// From a file's numbers and axes, as it states them itself or else as the sheet says, to the shown world's:
/// Y up, +Z to the viewer, in the platform's units.
glm::mat4 toShown(const Read& model, const platform::FileTerms& terms);

} // namespace zl::standins::files
