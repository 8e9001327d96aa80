#include "core/formats/obj_chunks.h"

#include "core/base/huge_pages.h"
#include "core/formats/text.h"

#include <algorithm>

namespace zl::formats::obj {

namespace {

int chunkIndex(int written, std::size_t soFar) {
    if (written >= 0) return written;
    // What counts back farther than any file reaches stays outside of it.
    constexpr long long farthest = (1 << 29) - 1;
    const long long at = static_cast<long long>(soFar) + written;
    return relativeBase + static_cast<int>(std::clamp(at, -farthest, farthest));
}

void parseFace(Scanner& scan, Chunk& chunk) {
    const std::size_t start = chunk.corners.size();
    while (true) {
        scan.skipBlanks();
        int value = 0;
        const char* digits = scan.position();
        if (!scan.number(value)) break;
        const std::string_view written(digits, static_cast<std::size_t>(scan.position() - digits));
        Corner& corner =
            chunk.corners.emplace_back(Corner{chunkIndex(value, chunk.positions.size()), absent, absent});
        const auto further = [&](int& index, std::size_t soFar) {
            int other = 0;
            if (value > 0 && scan.takeAgain(written)) // most files number all of a corner alike
                index = value;
            else if (scan.number(other))
                index = chunkIndex(other, soFar);
        };
        if (!scan.take('/')) continue;
        further(corner.uv, chunk.uvs.size());
        if (scan.take('/')) further(corner.normal, chunk.normals.size());
    }
    if (chunk.corners.size() - start < 3) {
        chunk.corners.resize(start);
        ++chunk.brokenFaces;
    } else {
        chunk.faceStart.push_back(static_cast<std::uint32_t>(start));
    }
}

void parseVertex(Scanner& scan, Chunk& chunk) {
    float v[7];
    int count = 0;
    for (; count < 7; ++count) {
        scan.skipBlanks();
        v[count] = std::numeric_limits<float>::quiet_NaN();
        if (!scan.number(v[count])) break;
    }
    for (int k = count; k < 3; ++k) v[k] = std::numeric_limits<float>::quiet_NaN();
    if (count >= 6) {
        chunk.colours.resize(chunk.positions.size(), glm::vec3(1.0f));
        chunk.colours.emplace_back(v[count - 3], v[count - 2], v[count - 1]);
    }
    chunk.positions.emplace_back(v[0], v[1], v[2]);
}

} // namespace

void parse(Chunk& chunk) {
    Scanner scan(chunk.text);
    // A line of a face is some 20 characters; room that is not used is never touched and costs nothing.
    chunk.corners.reserve(chunk.text.size() / 8);
    preferHugePages(chunk.corners.data(), chunk.corners.capacity() * sizeof(Corner));
    chunk.faceStart.reserve(chunk.text.size() / 18);
    chunk.positions.reserve(chunk.text.size() / 24);
    chunk.uvs.reserve(chunk.text.size() / 20);
    const auto floats = [&](float* out, int count) {
        for (int k = 0; k < count; ++k) {
            scan.skipBlanks();
            out[k] = 0;
            if (!scan.number(out[k])) break;
        }
    };
    const auto event = [&](Event::Kind kind) {
        chunk.events.push_back({kind, chunk.faceStart.size(), std::string(scan.restOfLine())});
    };
    while (!scan.atEnd()) {
        scan.skipSpace();
        // Nearly every line is one of these; they are told by their first letters.
        if (scan.takeKey("f ")) {
            parseFace(scan, chunk);
            scan.skipLine();
            continue;
        }
        if (scan.takeKey("v ")) {
            parseVertex(scan, chunk);
            scan.skipLine();
            continue;
        }
        const std::string_view word = scan.word();
        if (word == "v") {
            parseVertex(scan, chunk);
        } else if (word == "vt") {
            glm::vec2 uv;
            floats(&uv.x, 2);
            chunk.uvs.emplace_back(uv.x, 1.0f - uv.y);
        } else if (word == "vn") {
            glm::vec3 n;
            floats(&n.x, 3);
            chunk.normals.push_back(n);
        } else if (word == "f") {
            parseFace(scan, chunk);
        } else if (word == "o") {
            event(Event::Kind::Object);
        } else if (word == "g") {
            event(Event::Kind::Group);
        } else if (word == "usemtl") {
            event(Event::Kind::Material);
        } else if (word == "mtllib") {
            event(Event::Kind::Library);
        } else if (word == "l" || word == "p" || word == "curv" || word == "surf") {
            chunk.other = true;
        } else if (!word.empty() && word[0] != '#' && word != "s") {
            ++chunk.ignoredLines;
        }
        scan.skipLine();
    }
}

std::vector<Chunk> cut(std::string_view text, std::size_t pieces) {
    std::vector<Chunk> chunks;
    const std::size_t size = std::max<std::size_t>(1 << 18, text.size() / pieces + 1);
    while (!text.empty()) {
        std::size_t end = std::min(size, text.size());
        while (end < text.size()) {
            end = text.find('\n', end);
            if (end == std::string_view::npos) {
                end = text.size();
            } else {
                const std::size_t last = end > 0 && text[end - 1] == '\r' ? end - 1 : end;
                ++end;
                if (last == 0 || text[last - 1] != '\\') break; // do not cut a continued line
            }
        }
        chunks.emplace_back().text = text.substr(0, end);
        text.remove_prefix(end);
    }
    return chunks;
}

} // namespace zl::formats::obj
