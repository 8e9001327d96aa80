#pragma once
#include "core/base/archive.h"
#include "core/formats/city_files.h"
#include "support/temporary_folder.h"

#include <fmt/format.h>

/// A small city's folder: two districts, three objects of others, so many collision files.
struct CityFolder {
    TemporaryFolder folder;
    explicit CityFolder(int collisionFiles = 2, const std::string& end = "\n") {
        const auto lines = [&](std::initializer_list<std::string> all) {
            std::string out;
            for (const std::string& line : all) out += line + end;
            return out;
        };
        folder.write("districts.csv", lines({"name,x0,y0,x1,y1", "east,0,0,100,100", "west,-100,0,0,100"}));
        folder.write("definitions.csv",
                     lines({"name,number,pictures,view,traits", "shed,40010,shed,100,solid",
                            "pole,40011,pole,60,", "wall,40013,wall,200,solid breaks"}));
        folder.write("placements-east.csv", lines({"name,x,y,z,qx,qy,qz,qw", "shed,10,10,0,0,0,0,1"}));
        folder.write("placements-west.csv",
                     lines({"name,x,y,z,qx,qy,qz,qw", "wall,-10,10,0,0,0,1,0", "pole,-20,10,0,0,0,0,-1"}));
        std::vector<zl::OutFile> entries;
        for (const char* name : {"shed", "pole", "wall"}) {
            zl::formats::CityMesh mesh;
            mesh.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 2}}, mesh.normals.assign(3, {0, 0, 1}),
            mesh.uvs.assign(3, {0, 0});
            mesh.indices = {0, 1, 2}, mesh.groups = {{"", glm::vec4(1), 0, 1}};
            entries.push_back({std::string(name) + ".mesh", zl::formats::writeCityMesh(mesh)});
            entries.push_back({std::string(name) + ".pictures", zl::formats::writeCityPictures({})});
        }
        for (int i = 0; i < collisionFiles; ++i)
            entries.push_back({fmt::format("extra-{}.contact", i),
                               zl::formats::writeContact({fmt::format("Maker {}", i),
                                                          {{i == 0 ? "shed" : fmt::format("thing-{}", i),
                                                            {"stone"},
                                                            {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}},
                                                            {{{0, 1, 2}, 0}}}}})});
        folder.write("objects.zip", zl::zipped(entries));
    }
    std::filesystem::path path() const { return folder.path(); }
    std::string text(const std::string& name) const { return zl::readText(folder.path() / name); }
    /// Everything in it, by path.
    std::map<std::string, std::string> all() const {
        std::map<std::string, std::string> out;
        for (const auto& entry : std::filesystem::recursive_directory_iterator(folder.path()))
            if (entry.is_regular_file())
                out[entry.path().lexically_relative(folder.path()).generic_string()] =
                    zl::readText(entry.path());
        return out;
    }
};
