#pragma once
#include "core/base/file_set.h"
#include "core/model/model.h"

namespace zl::formats {

// The files that the city's archive holds of an object (docs/formats/city-object.md): NAME.mesh,
// NAME.pictures and NAME.contact. Numbers are little-endian, lengths in the platform's own unit and axes.

/// Triangles in groups, each with one picture. Corners have a normal and a UV.
struct CityMesh {
    struct Group {
        std::string picture; ///< of the object's pictures, without ending; empty for a plain colour
        glm::vec4 colour{1};
        std::uint32_t first = 0, count = 0; ///< triangles
    };
    std::vector<Group> groups;
    std::vector<glm::vec3> positions, normals;
    std::vector<glm::vec2> uvs;
    std::vector<std::uint32_t> indices;
};

/// A model whose corners are in the file's numbers already.
CityMesh cityMeshOf(const Model& model);
std::string writeCityMesh(const CityMesh& mesh);
/// Throws Error for bytes that are none.
CityMesh readCityMesh(std::string_view bytes, const std::string& where);

/// Pictures by name, in one file.
std::string writeCityPictures(const std::vector<OutFile>& pictures);

/// What physics uses of one object: faces, each of a surface kind.
struct ContactBody {
    std::string name; ///< of the object that it belongs to
    std::vector<std::string> kinds;
    std::vector<glm::vec3> corners;
    struct Face {
        std::uint32_t corner[3] = {0, 0, 0};
        int kind = -1;
    };
    std::vector<Face> faces;
};
/// A contact file: whose it is, and bodies of one object or several.
struct ContactFile {
    std::string by;
    std::vector<ContactBody> bodies;
};
std::string writeContact(const ContactFile& file);
/// The lines of one body as they stand in such a file.
std::string writeContactBody(const ContactBody& body);
/// Throws Error with the line for a text that is none.
ContactFile readContactFile(std::string_view text, const std::string& where);

/// The model's bodies as one, in the file's numbers.
ContactBody contactBodyOf(const Model& model, const std::string& name, const glm::dmat4& toFile);

} // namespace zl::formats
