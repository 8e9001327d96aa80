#pragma once
#include "core/base/progress.h"

#include <glm/glm.hpp>

#include <array>
#include <cstdint>
#include <filesystem>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace zl::learn {

/// What is kept of a picture: its header, and how its channels behave.
struct PictureFacts {
    std::string format; ///< id of a kind of picture
    int width = 0, height = 0;
    bool alpha = false; ///< it has a fourth channel
    bool grey = false;  ///< red, green and blue equal everywhere
    struct Channel {
        double least = 0, most = 0, mean = 0; ///< 0 to 1
        double extremes = 0;                  ///< share of pixels within 3 % of 0 or of 1
        double dark = 0;                      ///< share of pixels within 3 % of 0
        double roughness = 0;                 ///< mean step between neighbours
        /// How it goes with what red, or green, says of slopes: near 1 where it is the height of which they
        /// are the slopes, near -1 where they are turned over, 0 where it is something else.
        double alongRed = 0, alongGreen = 0;

        bool isOneValue() const { return most - least < 0.02; }
    };
    std::array<Channel, 4> channels;
    double likeness = 1;    ///< of red, green and blue among themselves: the least correlation of two of them
    double normalShare = 0; ///< share of pixels whose red, green and blue are a direction of length one
};

/// What is kept of a model file. Lengths are the file's own numbers, along its own axes.
struct ModelFacts {
    std::string format;
    bool saysFrame = false; ///< the file states unit and up axis
    double metres = 1;      ///< the unit that it states, or that its format has
    bool upIsZ = false;
    glm::dvec3 low{0}, high{0};
    std::array<double, 3> footShare{0, 0, 0};                                   ///< for each axis as up
    std::size_t triangles = 0, corners = 0, mostCorners = 0, mostTriangles = 0; ///< most of one mesh
    std::size_t objects = 0, materials = 0, mostMaterials = 0, uvSets = 0, keys = 0;
    std::size_t bones = 0, weights = 0, morphs = 0, clips = 0, slivers = 0;
    std::size_t transforms = 0, scales = 0, wrappers = 0; ///< nodes that carry a transform; a scale; nothing
    bool colours = false, compressed = false;
    double longestClip = 0;
    struct Part {
        std::string name;
        glm::dvec3 middle{0};
        std::size_t triangles = 0;
        std::string material; ///< the first that it wears
    };
    std::vector<Part> parts; ///< shown objects
    std::vector<std::string> materialNames, nodeNames, boneNames, clipNames;
    std::vector<std::string> bodies;   ///< objects that are for physics by their names
    bool saysFront = false;            ///< the file states where its front is
    std::optional<glm::dvec3> front;   ///< where its shape seems to look, along the file's axes
    std::vector<std::string> pictures; ///< files beside it that it names and that are there
    std::vector<PictureFacts> inside;  ///< pictures that it holds
    std::set<std::string> roles;       ///< that its materials' pictures have
};

/// What is kept of a text: itself, its lines ending in LF alone, and its fields by path ("unit.name"), as far
/// as its kind has any.
struct TextFacts {
    enum class Form { Json, Xml, Toml, Ini, Csv, Plain } form = Form::Plain;
    std::string text;
    bool windowsLines = false; ///< its lines ended in CR and LF, every one
    std::map<std::string, std::string> fields;
};

struct FileFacts {
    std::string path;     ///< below the folder of examples, '/' between folders
    bool refused = false; ///< the game did not take it
    bool isBody = false;  ///< a body for physics beside a model, by the layout
    std::uint64_t bytes = 0;
    std::string problem; ///< why nothing more is known; empty where all is
    std::optional<ModelFacts> model;
    std::optional<PictureFacts> picture;
    std::optional<TextFacts> text;

    /// Whether it is a model that shows anything, and no body for physics.
    bool hasShape() const { return model && !isBody && model->triangles > 0; }
};

/// Looks at one file by its ending and its bytes. Whatever is wrong with it becomes its `problem`; throws
/// Cancelled alone.
FileFacts factsOf(const std::filesystem::path& root, const std::string& path, const Progress& progress = {});

// Each in a file of its own. They throw Error for what cannot be read.
ModelFacts modelFacts(const std::filesystem::path& file, const Progress& progress);
PictureFacts pictureFacts(std::string_view bytes);
/// `name` tells the form where the text itself does not.
TextFacts textFacts(std::string text, std::string_view name);

/// "red" … "alpha".
std::string_view channelWord(std::size_t channel);

} // namespace zl::learn
