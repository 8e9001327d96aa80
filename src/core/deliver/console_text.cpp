#include "core/deliver/console_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <iterator>

namespace zl::deliver {

namespace {

std::string upper(std::string text) {
    std::ranges::transform(text, text.begin(),
                           [](char c) { return c >= 'a' && c <= 'z' ? char(c - 32) : c; });
    return text;
}

/// What a comment may hold: nothing that ends it, and no other line.
std::string asComment(std::string text) {
    for (char& c : text)
        if (std::uint8_t(c) < 32 || c == '*' || c == '/' || c == '\\') c = ' ';
    return text;
}

class Writer {
public:
    explicit Writer(const ConsoleNames& names, const char* file) : p_(names.prefix), P_(upper(names.prefix)) {
        line("/* {}_{}", p_, file);
        if (!names.credit.empty()) line(" * Credit: {}", asComment(names.credit));
        line(" */");
    }
    template <class... Args>
    void line(fmt::format_string<Args...> text, Args&&... args) {
        fmt::format_to(std::back_inserter(out_), text, std::forward<Args>(args)...);
        out_ += '\n';
    }
    /// Numbers of an array, as many a line as fit.
    template <class List, class Print>
    void array(const std::string& head, const List& list, const Print& print) {
        line("{} = {{", head);
        std::string row = "   ";
        std::size_t count = 0;
        for (const auto& entry : list) {
            const std::string text = print(entry) + (++count < std::size_t(std::size(list)) ? "," : "");
            if (row.size() + text.size() > 100) line("{}", row), row = "   ";
            row += " " + text;
        }
        // C knows no array of nothing.
        if (count == 0) row += " 0";
        line("{}", row);
        line("}};");
    }
    void guard(const char* what) { line("#ifndef {}_{}_H\n#define {}_{}_H\n", P_, what, P_, what); }
    void endGuard() { line("\n#endif"); }
    std::string take() { return std::move(out_); }

    const std::string p_, P_;

private:
    std::string out_;
};

template <class List>
void enumOf(Writer& w, const char* what, const List& list) {
    w.line("enum {}_{} {{", w.p_, what);
    for (std::size_t k = 0; k < list.size(); ++k)
        w.line("    {}_{}_{} = {},", w.P_, upper(what), upper(list[k].name), k);
    w.line("    {}_{}_COUNT = {}", w.P_, upper(what), list.size());
    w.line("}};\n");
}

template <class List>
std::size_t atLeastOne(const List& list) {
    return std::max<std::size_t>(1, list.size());
}

constexpr std::string_view types = R"(#ifndef BRINDLE_PIECE_TYPES
#define BRINDLE_PIECE_TYPES 1

/* A corner: its place in its bone's own axes, where it is on its picture, and its normal. */
typedef struct brindle_corner {
    int16_t place[3];
    int16_t uv[2];
    int8_t normal[3];
} brindle_corner;
/* At most 16 corners, and triangles of three numbers each into them. */
typedef struct brindle_batch {
    uint16_t first_corner, corners;
    uint16_t first_triangle, triangles;
    int16_t picture;
    uint8_t colour[3];
} brindle_batch;
typedef struct brindle_segment {
    uint16_t bone, first_batch, batches;
} brindle_segment;
typedef struct brindle_bone {
    int16_t above;
    int16_t place[3];
    int16_t turn[4];
} brindle_bone;
typedef struct brindle_key {
    uint16_t ticks;
    int16_t value[4];
} brindle_key;
/* What one bone does in a clip: kind 0 its place, kind 1 its turn. */
typedef struct brindle_track {
    uint16_t bone, kind;
    uint32_t first_key;
    uint16_t keys;
} brindle_track;
/* way: how far a clip that stays on the spot went, for the game to add back over its ticks. */
typedef struct brindle_clip {
    uint16_t ticks, first_track, tracks;
    int16_t way[3];
} brindle_clip;
typedef struct brindle_piece {
    int shift;
    const brindle_corner *corners;
    const uint8_t *triangles;
    const brindle_batch *batches;
    const brindle_segment *segments;
    int segment_count;
    const brindle_bone *bones;
    int bone_count;
    const brindle_key *keys;
    const brindle_track *tracks;
    const brindle_clip *clips;
    int clip_count;
} brindle_piece;

#endif
)";

constexpr std::string_view pictureTypes = R"(#ifndef BRINDLE_PICTURE_TYPES
#define BRINDLE_PICTURE_TYPES 1

/* format: 0 colour of 16 bits, 1 grey and alpha of 4 bits, 2 grey of 4 bits, 3 palette of 256, 4 of 16. */
typedef struct brindle_picture {
    uint16_t format, alpha, width, height;
    uint32_t offset, bytes;
} brindle_picture;
typedef union brindle_picture_bytes_align {
    uint64_t whole;
    uint8_t byte;
} brindle_picture_bytes_align;

#endif
)";

/// Every picture begins at a multiple of this.
constexpr std::size_t alignment = 8;

std::size_t aligned(std::size_t bytes) {
    return (bytes + alignment - 1) / alignment * alignment;
}

} // namespace

std::string namesHeader(const ConsolePiece& piece, const ConsoleNames& names) {
    Writer w(names, "names.h: what the game calls clips, pictures, segments and bones by.");
    w.guard("NAMES");
    enumOf(w, "clip", piece.clips);
    enumOf(w, "picture", piece.pictures);
    enumOf(w, "segment", piece.segments);
    enumOf(w, "bone", piece.bones);
    w.endGuard();
    return w.take();
}

std::string modelHeader(const ConsolePiece& piece, const ConsoleNames& names) {
    Writer w(names, "model.h: segments, bones and clips.");
    const std::string& p = w.p_;
    w.guard("MODEL");
    w.line("#include <stdint.h>\n\n#include \"{}_names.h\"\n", p);
    w.line("{}", types);
    w.line(
        "/* A unit is 2^{}_SHIFT; {}_UV_ONE is a picture's edge; a whole turn's part is of {}_TURN_ONE. */",
        w.P_, w.P_, w.P_);
    w.line("#define {}_SHIFT {}", w.P_, piece.shift);
    w.line("#define {}_UV_ONE {}", w.P_, ConsolePiece::uvOne);
    w.line("#define {}_TURN_ONE {}", w.P_, ConsolePiece::turnOne);
    w.line("#define {}_TICKS_A_SECOND {}\n", w.P_, ConsolePiece::ticksASecond);
    w.array(fmt::format("static const brindle_corner {}_corners[{}]", p, atLeastOne(piece.corners)),
            piece.corners, [](const auto& c) {
                return fmt::format("{{{{{},{},{}}},{{{},{}}},{{{},{},{}}}}}", c.place[0], c.place[1],
                                   c.place[2], c.uv[0], c.uv[1], c.normal[0], c.normal[1], c.normal[2]);
            });
    w.array(fmt::format("static const uint8_t {}_triangles[{}]", p, atLeastOne(piece.triangles)),
            piece.triangles, [](std::uint8_t n) { return std::to_string(n); });
    w.array(fmt::format("static const brindle_batch {}_batches[{}]", p, atLeastOne(piece.batches)),
            piece.batches, [](const auto& b) {
                return fmt::format("{{{},{},{},{},{},{{{},{},{}}}}}", b.firstCorner, b.corners,
                                   b.firstTriangle, b.triangles, b.picture, b.colour[0], b.colour[1],
                                   b.colour[2]);
            });
    w.array(fmt::format("static const brindle_segment {}_segments[{}]", p, atLeastOne(piece.segments)),
            piece.segments,
            [](const auto& s) { return fmt::format("{{{},{},{}}}", s.bone, s.firstBatch, s.batches); });
    w.array(fmt::format("static const brindle_bone {}_bones[{}]", p, atLeastOne(piece.bones)), piece.bones,
            [](const auto& b) {
                return fmt::format("{{{},{{{},{},{}}},{{{},{},{},{}}}}}", b.above, b.place[0], b.place[1],
                                   b.place[2], b.turn[0], b.turn[1], b.turn[2], b.turn[3]);
            });
    w.array(fmt::format("static const brindle_key {}_keys[{}]", p, atLeastOne(piece.keys)), piece.keys,
            [](const auto& k) {
                return fmt::format("{{{},{{{},{},{},{}}}}}", k.ticks, k.value[0], k.value[1], k.value[2],
                                   k.value[3]);
            });
    w.array(fmt::format("static const brindle_track {}_tracks[{}]", p, atLeastOne(piece.tracks)),
            piece.tracks, [](const auto& t) {
                return fmt::format("{{{},{},{},{}}}", t.bone, int(t.turns), t.firstKey, t.keys);
            });
    w.array(fmt::format("static const brindle_clip {}_clips[{}]", p, atLeastOne(piece.clips)), piece.clips,
            [](const auto& c) {
                return fmt::format("{{{},{},{},{{{},{},{}}}}}", c.ticks, c.firstTrack, c.tracks, c.way[0],
                                   c.way[1], c.way[2]);
            });
    w.line("static const brindle_piece {0}_piece = {{{1}_SHIFT, {0}_corners, {0}_triangles, {0}_batches,\n"
           "    {0}_segments, {1}_SEGMENT_COUNT, {0}_bones, {1}_BONE_COUNT, {0}_keys, {0}_tracks,\n"
           "    {0}_clips, {1}_CLIP_COUNT}};\n",
           p, w.P_);
    // Headers of two deliveries that were mixed are an error where they meet.
    w.line("typedef char {}_names_are_of_this_model[({}_SEGMENT_COUNT == {} && {}_BONE_COUNT == {} && "
           "{}_CLIP_COUNT == {}) ? 1 : -1];",
           p, w.P_, piece.segments.size(), w.P_, piece.bones.size(), w.P_, piece.clips.size());
    const auto checks = [&](const char* what, const auto& list) {
        for (std::size_t k = 0; k < list.size(); ++k)
            w.line("typedef char {0}_{1}_{2}_is_in_place[({3}_{4}_{5} == {6}) ? 1 : -1];", p, what,
                   list[k].name, w.P_, upper(what), upper(list[k].name), k);
    };
    checks("clip", piece.clips);
    checks("segment", piece.segments);
    w.endGuard();
    return w.take();
}

std::string picturesHeader(const ConsolePiece& piece, const ConsoleNames& names) {
    Writer w(names, "pictures.h: all pictures in one, each in its own format.");
    const std::string& p = w.p_;
    w.guard("PICTURES");
    w.line("#include <stdint.h>\n\n#include \"{}_names.h\"\n", p);
    w.line("{}", pictureTypes);
    std::string bytes;
    std::vector<std::size_t> offsets;
    for (const auto& picture : piece.pictures) {
        offsets.push_back(bytes.size());
        bytes += picture.bytes;
        bytes.resize(aligned(bytes.size()), '\0');
    }
    w.line("#define {}_PICTURE_ALIGNMENT {}", w.P_, alignment);
    w.line("static const union {{");
    w.line("    uint8_t bytes[{}];", std::max<std::size_t>(1, bytes.size()));
    w.line("    brindle_picture_bytes_align align;");
    std::string numbers;
    for (std::size_t k = 0; k < bytes.size(); ++k)
        numbers += (k % 24 == 0 ? "\n    " : "") + std::to_string(int(std::uint8_t(bytes[k]))) +
                   (k + 1 < bytes.size() ? "," : "");
    w.line("}} {}_picture_data = {{\n    {{{}}}\n}};", p, bytes.empty() ? "0" : numbers);
    std::size_t number = 0;
    w.array(fmt::format("static const brindle_picture {}_pictures[{}]", p, atLeastOne(piece.pictures)),
            piece.pictures, [&](const auto& picture) {
                return fmt::format("{{{},{},{},{},{},{}}}", int(picture.format), int(picture.alpha),
                                   picture.width, picture.height, offsets[number++], picture.bytes.size());
            });
    w.line("");
    for (std::size_t k = 0; k < piece.pictures.size(); ++k)
        w.line("typedef char {0}_picture_{1}_is_in_place[({2}_PICTURE_{3} == {4}) ? 1 : -1];", p,
               piece.pictures[k].name, w.P_, upper(piece.pictures[k].name), k);
    w.endGuard();
    return w.take();
}

std::string exampleSource(const ConsolePiece& piece, const ConsoleNames& names) {
    Writer w(names, "example.c: plays clips by the pad's buttons. Build it with: cc -std=c99 FILE");
    const std::string& p = w.p_;
    w.line("#include \"{0}_model.h\"\n#include \"{0}_pictures.h\"\n\n#include <stdio.h>\n", p);
    static constexpr const char* buttons[] = {"A", "B", "X", "Y", "UP", "DOWN", "LEFT", "RIGHT"};
    const std::size_t used = std::min<std::size_t>(std::size(buttons), piece.clips.size());
    w.line("/* The pad's buttons, one bit each. */");
    w.line("enum pad {{");
    for (std::size_t b = 0; b < std::size(buttons); ++b)
        w.line("    PAD_{} = {}{}", buttons[b], 1u << b, b + 1 < std::size(buttons) ? "," : "");
    w.line("}};\n");
    w.line("/* The clip that a button plays; without one the first goes on. */");
    w.line("static int clip_for(unsigned pad)\n{{");
    for (std::size_t k = 1; k < used; ++k)
        w.line("    if (pad & PAD_{})\n        return {}_CLIP_{};", buttons[k - 1], w.P_,
               upper(piece.clips[k].name));
    w.line("    {}return {};\n}}\n", used > 1 ? "" : "(void)pad;\n    ",
           used > 0 ? fmt::format("{}_CLIP_{}", w.P_, upper(piece.clips[0].name)) : "-1");
    w.line("/* The value of a track at a moment: straight between keys. */");
    w.line("static int track_value(const brindle_track *track, unsigned ticks, int axis)\n"
           "{{\n"
           "    const brindle_key *key = {0}_piece.keys + track->first_key;\n"
           "    const brindle_key *last = key + track->keys - 1;\n"
           "    while (key < last && key[1].ticks <= ticks)\n"
           "        ++key;\n"
           "    if (key == last || ticks <= key->ticks)\n"
           "        return key->value[axis];\n"
           "    return key->value[axis] + (key[1].value[axis] - key->value[axis]) * (int)(ticks - "
           "key->ticks) /\n"
           "                                  (int)(key[1].ticks - key->ticks);\n"
           "}}\n",
           p);
    w.line(
        "int main(void)\n"
        "{{\n"
        "    static const unsigned pads[] = {{0, PAD_A, PAD_B, PAD_X}};\n"
        "    unsigned k;\n"
        "    printf(\"%d segments, %d bones, %d pictures, %lu bytes of them\\n\", {0}_piece.segment_count,\n"
        "           {0}_piece.bone_count, (int){1}_PICTURE_COUNT, (unsigned "
        "long)sizeof({0}_picture_data.bytes));\n"
        "    for (k = 0; k < sizeof(pads) / sizeof(pads[0]); ++k) {{\n"
        "        const int number = clip_for(pads[k]);\n"
        "        const brindle_clip *clip;\n"
        "        unsigned track;\n"
        "        if (number < 0)\n"
        "            break;\n"
        "        clip = {0}_piece.clips + number;\n"
        "        printf(\"pad %u plays clip %d for %u ticks\\n\", pads[k], number, clip->ticks);\n"
        "        for (track = 0; track < clip->tracks; ++track) {{\n"
        "            const brindle_track *t = {0}_piece.tracks + clip->first_track + track;\n"
        "            printf(\"  bone %u %s %d %d %d\\n\", t->bone, t->kind ? \"turns\" : \"is at\",\n"
        "                   track_value(t, clip->ticks / 2u, 0), track_value(t, clip->ticks / 2u, 1),\n"
        "                   track_value(t, clip->ticks / 2u, 2));\n"
        "        }}\n"
        "    }}\n"
        "    return {0}_pictures[0].width == 0 && {1}_PICTURE_COUNT > 0;\n"
        "}}",
        p, w.P_);
    return w.take();
}

} // namespace zl::deliver
