#include "rough_file.h"

#include <fmt/format.h>

namespace torture {

namespace {

std::string number(Dice& dice) {
    static const std::string odd[] = {"nan",    "inf",  "-inf", "1e999", "-0", "+1",
                                      "1e-400", "0x10", "1,5",  "",      "."};
    return dice.chance(0.04) ? dice.of(odd) : fmt::format("{}", dice.pm1());
}

std::string name(Dice& dice) {
    static const std::string names[] = {
        "K\xf6rper", "\xff\xfe\xfd", "T\xe9l\xe9phone", "plain", "two words",
        "",          "\xe2\x82",     "..\\..\\x",       "a/b",   std::string(400, '\xe4')};
    return dice.of(names);
}

std::string index(Dice& dice, int count) {
    if (dice.chance(0.02)) return dice.chance(0.5) ? "-2147483648" : "99999999999";
    if (dice.chance(0.05)) return std::to_string(dice.between(-count - 2, count + 2));
    return std::to_string(dice.chance(0.2) ? -dice.between(1, std::max(1, count))
                                           : dice.between(1, std::max(1, count)));
}

std::string obj(Dice& dice) {
    std::string out;
    int corners = 0, uvs = 0, normals = 0;
    for (int line = dice.between(1, 120); line-- > 0;) {
        switch (dice.below(13)) {
        case 0:
        case 1:
        case 2:
        case 3:
            out += fmt::format("v {} {} {}", number(dice), number(dice), number(dice)), ++corners;
            if (dice.chance(0.1)) out += " 0.5 0.5 " + number(dice);
            break;
        case 4:
            out += fmt::format("vt {} {}", number(dice), number(dice)), ++uvs;
            break;
        case 5:
            out += fmt::format("vn {} {} {}", number(dice), number(dice), number(dice)), ++normals;
            break;
        case 6:
            out += (dice.chance(0.5) ? "o " : "g ") + name(dice);
            break;
        case 7:
            out += "usemtl " + name(dice);
            break;
        case 8:
            out += dice.chance(0.3) ? "mtllib" : "mtllib " + name(dice) + ".mtl";
            break;
        case 9:
            out += dice.chance(0.5) ? "s off" : "l 1 2\np 1\ncurv 0 1 1 2";
            break;
        default: {
            out += "f";
            for (int k = dice.chance(0.7) ? 3 : dice.between(1, 9); k-- > 0;) {
                out += " " + index(dice, corners);
                if (dice.chance(0.5)) out += "/" + (dice.chance(0.3) ? "" : index(dice, uvs));
                if (dice.chance(0.3)) out += "/" + index(dice, normals);
            }
        }
        }
        if (dice.chance(0.03)) out += " \\";
        out += dice.chance(0.1) ? "\r\n" : "\n";
    }
    return out;
}

std::string ply(Dice& dice) {
    const int corners = dice.between(0, 12), faces = dice.between(0, 8);
    std::string out = fmt::format("ply\nformat ascii 1.0\ncomment {}\nelement vertex {}\n", name(dice),
                                  dice.chance(0.03) ? 2000000000 : corners);
    const bool uvs = dice.chance(0.3), colours = dice.chance(0.3);
    out += "property float x\nproperty float y\nproperty float z\n";
    if (uvs) out += "property float s\nproperty float t\n";
    if (colours) out += "property uchar red\nproperty uchar green\nproperty uchar blue\n";
    out += fmt::format("element face {}\nproperty list uchar int vertex_indices\n", faces);
    if (dice.chance(0.2)) out += "element edge 1\nproperty int vertex1\n";
    out += "end_header\n";
    for (int i = 0; i < corners; ++i) {
        for (int k = 0; k < 3 + 2 * uvs; ++k) out += number(dice) + " ";
        if (colours) out += "255 0 300";
        out += "\n";
    }
    for (int i = 0; i < faces; ++i) {
        const int count = dice.chance(0.8) ? 3 : dice.between(0, 7);
        out += std::to_string(count);
        for (int k = 0; k < count; ++k) out += " " + index(dice, corners);
        out += "\n";
    }
    return out;
}

std::string stl(Dice& dice) {
    std::string out = "solid " + name(dice) + "\n";
    for (int i = dice.between(0, 12); i-- > 0;) {
        out += "facet normal 0 0 1\nouter loop\n";
        for (int k = dice.chance(0.9) ? 3 : dice.between(0, 5); k-- > 0;)
            out += fmt::format("vertex {} {} {}\n", number(dice), number(dice), number(dice));
        out += "endloop\nendfacet\n";
    }
    return out + "endsolid\n";
}

std::string gltf(Dice& dice) {
    const char* targets[] = {"", R"("targets": [{"POSITION": 1}],)",
                             R"("targets": [{"POSITION": 2}, {"NORMAL": 0}],)"};
    return fmt::format(
        R"({{"asset": {{"version": "2.0"}}, "scene": 0, "scenes": [{{"nodes": [{}]}}],
"nodes": [{{"mesh": 0, "name": "x", "scale": [{}, 1, 1]}}, {{"children": [{}]}}],
"meshes": [{{"primitives": [{{{} "attributes": {{"POSITION": 0, "TEXCOORD_0": {}}}, "material": {}}}]}}],
"materials": [{{"pbrMetallicRoughness": {{"baseColorTexture": {{"index": 0}}}}}}],
"textures": [{{"source": {}}}], "images": [{{"uri": "{}"}}],
"accessors": [{{"bufferView": 0, "componentType": 5126, "count": {}, "type": "VEC3"}},
 {{"componentType": 5126, "count": {}, "type": "VEC3"}}, {{"bufferView": 0, "componentType": 5126, "count": 0, "type": "VEC3"}},
 {{"componentType": 5126, "count": 3, "type": "VEC2"}}],
"bufferViews": [{{"buffer": 0, "byteLength": 36, "byteStride": {}}}],
"buffers": [{{"byteLength": 36, "uri": "data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA"}}]}})",
        dice.between(0, 2), dice.chance(0.1) ? "1e999" : "1", dice.between(0, 2), dice.of(targets),
        dice.between(0, 4), dice.between(-1, 2), dice.between(-1, 1),
        dice.chance(0.5) ? "a%20b.png" : "no.png", dice.chance(0.8) ? 3 : 300000000,
        dice.chance(0.8) ? 3 : 900000000, dice.chance(0.8) ? 12 : 4);
}

} // namespace

RoughFile roughFile(Dice& dice) {
    switch (dice.below(5)) {
    case 0:
        return {"rough.ply", ply(dice)};
    case 1:
        return {"rough.stl", stl(dice)};
    case 2:
        return {"rough.gltf", gltf(dice)};
    default:
        return {"rough.obj", obj(dice)};
    }
}

} // namespace torture
