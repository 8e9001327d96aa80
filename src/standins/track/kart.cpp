#include "standins/track/kart.h"

#include "standins/world/colour_blocks.h"
#include "standins/world/files.h"

#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <cmath>
#include <stdexcept>

namespace zl::standins::track {

namespace {

/// What is wrong with a chunk, in words.
struct Wrong {
    std::string what;
};

/// Reads numbers, the high byte first, and never behind the end.
class Reading {
public:
    explicit Reading(std::string_view bytes) : bytes_(bytes) {}
    unsigned u8() { return static_cast<unsigned char>(take(1)[0]); }
    unsigned u16() {
        const unsigned high = u8();
        return high << 8 | u8();
    }
    int i16() { return static_cast<std::int16_t>(u16()); }
    int i8() { return static_cast<std::int8_t>(u8()); }
    std::uint32_t u32() {
        const std::uint32_t high = u16();
        return high << 16 | u16();
    }
    float f32() {
        const float value = std::bit_cast<float>(u32());
        if (!std::isfinite(value) || std::abs(value) > 1e9f) throw Wrong{"a number in it is none"};
        return value;
    }
    std::string name() { return std::string(take(u8())); }
    std::string_view take(std::size_t count) {
        if (count > bytes_.size()) throw Wrong{"it is cut short"};
        const auto out = bytes_.substr(0, count);
        bytes_.remove_prefix(count);
        return out;
    }
    /// A count of things of at least so many bytes each.
    std::size_t count(std::size_t number, std::size_t each) const {
        if (number * each > bytes_.size()) throw Wrong{"it is cut short"};
        return number;
    }
    bool atEnd() const { return bytes_.empty(); }
    std::size_t left() const { return bytes_.size(); }

private:
    std::string_view bytes_;
};

glm::mat4 matrixFrom(Reading& in) {
    glm::mat4 out(1.0f);
    for (int c = 0; c < 4; ++c)
        for (int r = 0; r < 3; ++r) out[c][r] = in.f32();
    return out;
}

class Loading {
public:
    explicit Loading(Kart& kart) : kart_(kart) { kart_.slots.fill(-1); }

    void chunk(const std::string& tag, std::string_view bytes) {
        Reading in(bytes);
        std::string what;
        if (tag == "HEAD")
            head(in);
        else if (tag == "BONE")
            bones(in);
        else if (tag == "SKIN")
            skin(in);
        else if (tag == "MATS")
            materials(in);
        else if (tag == "PICT")
            what = picture(in);
        else if (tag == "MESH")
            what = part(in);
        else if (tag == "SLOT")
            slots(in);
        else if (tag == "CLIP")
            what = clip(in);
        else
            throw Wrong{"the game knows no such chunk"};
        if (!in.atEnd()) throw Wrong{fmt::format("{} bytes are left over", in.left())};
        kart_.chunks.push_back({tag, what, 8 + bytes.size() + bytes.size() % 2});
    }

    /// What refers to chunks that came later.
    void finish(std::vector<std::string>& wrong) const {
        if (kart_.bones.empty()) wrong.emplace_back("it has no bones");
        if (kart_.parts.empty()) wrong.emplace_back("nothing of it is seen");
        for (const Part& part : kart_.parts)
            for (const Part::Run& run : part.runs)
                if (run.material >= int(kart_.materials.size()))
                    wrong.push_back("\"" + part.name + "\" wears a material that is not there");
        for (const Material& material : kart_.materials)
            if (material.picture >= int(kart_.pictures.size()))
                wrong.push_back("\"" + material.name + "\" wears a picture that is not there");
        for (std::size_t k = 0; k < kart_.slots.size(); ++k) {
            if (kart_.slots[k] < 0)
                wrong.push_back(fmt::format("the slot \"{}\" is empty", limits::slots[k]));
            else if (kart_.slots[k] >= int(kart_.clips.size()))
                wrong.push_back(
                    fmt::format("the slot \"{}\" plays a clip that is not there", limits::slots[k]));
        }
    }
    std::vector<std::pair<std::string, std::string>> wrongPictures;

private:
    void head(Reading& in) {
        if (in.u16() != 1) throw Wrong{"it is of another version"};
        kart_.unitsPerMetre = in.f32();
        if (!(kart_.unitsPerMetre > 0)) throw Wrong{"its unit is none"};
        kart_.name = in.name(), kart_.credit = in.name();
    }
    void bones(Reading& in) {
        const std::size_t count = in.count(in.u16(), 52);
        for (std::size_t b = 0; b < count; ++b) {
            Bone bone;
            bone.above = in.i16(), bone.seen = in.u8() != 0, bone.local = matrixFrom(in),
            bone.name = in.name();
            if (bone.above < -1 || bone.above >= int(b))
                throw Wrong{fmt::format("bone {} hangs on one that comes later", b)};
            kart_.bones.push_back(std::move(bone));
        }
    }
    int bone(unsigned number) const {
        if (number >= kart_.bones.size()) throw Wrong{fmt::format("there is no bone {}", number)};
        return int(number);
    }
    void skin(Reading& in) {
        const std::size_t count = in.count(in.u16(), 50);
        auto& binds = kart_.skins.emplace_back();
        for (std::size_t b = 0; b < count; ++b) {
            const int on = bone(in.u16());
            binds.push_back({on, matrixFrom(in)});
        }
    }
    void materials(Reading& in) {
        const std::size_t count = in.count(in.u16(), 8);
        for (std::size_t m = 0; m < count; ++m) {
            Material material{in.name(), in.i16()};
            for (int k = 0; k < 3; ++k) material.colour[k] = float(in.u8()) / 255;
            in.u8();
            material.settings = in.u8();
            for (std::size_t s = 0; s < material.settings; ++s) {
                in.name();
                const unsigned kind = in.u8();
                if (kind == 0)
                    in.u8();
                else if (kind == 1)
                    in.f32();
                else if (kind == 2)
                    in.name();
                else
                    throw Wrong{"a setting is neither yes or no, nor a number, nor a word"};
            }
            kart_.materials.push_back(std::move(material));
        }
    }
    std::string picture(Reading& in) {
        const std::string name = in.name();
        const int width = int(in.u16()), height = int(in.u16()), kind = int(in.u8());
        unsigned levels = in.u8();
        if (width < 1 || height < 1 || (kind != 1 && kind != 3) || levels < 1)
            throw Wrong{"\"" + name + "\" is no picture that the game knows"};
        if (std::max(width, height) > limits::pictureEdge)
            wrongPictures.emplace_back(name, fmt::format("{} × {} pixels; the game takes up to {}.", width,
                                                         height, limits::pictureEdge));
        else if (!std::has_single_bit(unsigned(width)) || !std::has_single_bit(unsigned(height)))
            wrongPictures.emplace_back(
                name, fmt::format("{} × {} pixels; sides are powers of two.", width, height));
        const auto first = in.take(world::blockBytes(width, height, kind));
        kart_.pictures.push_back(world::unpacked(first, width, height, kind));
        int w = width, h = height;
        while (--levels > 0) {
            w = std::max(1, w / 2), h = std::max(1, h / 2);
            in.take(world::blockBytes(w, h, kind));
        }
        return name;
    }
    std::string part(Reading& in) {
        Part part;
        part.bone = bone(in.u16()), part.skin = in.i16();
        if (part.skin >= int(kart_.skins.size())) throw Wrong{"its skin is not there"};
        part.name = kart_.bones[std::size_t(part.bone)].name;
        const std::size_t count = in.count(in.u16(), 13);
        glm::vec3 low;
        for (int k = 0; k < 3; ++k) low[k] = in.f32();
        const float step = in.f32();
        for (std::size_t v = 0; v < count; ++v) {
            glm::vec3 place, normal;
            for (int k = 0; k < 3; ++k) place[k] = low[k] + step * float(in.u16());
            for (int k = 0; k < 3; ++k) normal[k] = float(in.i8()) / 127;
            const float across = float(in.i16()) / 4096, down = float(in.i16()) / 4096;
            part.places.push_back(place), part.normals.push_back(normal), part.uvs.emplace_back(across, down);
            if (part.skin < 0) continue;
            glm::u8vec4 on, weight;
            for (int k = 0; k < 4; ++k) on[k] = std::uint8_t(in.u8());
            for (int k = 0; k < 4; ++k) weight[k] = std::uint8_t(in.u8());
            for (int k = 0; k < 4; ++k)
                if (weight[k] > 0 && on[k] >= kart_.skins[std::size_t(part.skin)].size())
                    throw Wrong{"a corner hangs on a bone that is not there"};
            part.joints.push_back(on), part.weights.push_back(weight);
        }
        const std::size_t runs = in.count(in.u16(), 6);
        for (std::size_t r = 0; r < runs; ++r) {
            Part::Run run{int(in.u16()), {}};
            const std::size_t triangles = in.u32();
            in.count(triangles, 6);
            for (std::size_t i = 0; i < 3 * triangles; ++i) {
                run.corners.push_back(std::uint16_t(in.u16()));
                if (run.corners.back() >= count) throw Wrong{"a triangle has a corner that is not there"};
            }
            kart_.triangles += triangles;
            part.runs.push_back(std::move(run));
        }
        kart_.parts.push_back(std::move(part));
        return kart_.parts.back().name;
    }
    void slots(Reading& in) {
        const std::size_t count = in.count(in.u16(), 3);
        for (std::size_t k = 0; k < count; ++k) {
            const std::string name = in.name();
            const int clip = int(in.u16());
            const auto known = std::ranges::find(limits::slots, name);
            if (known == limits::slots.end()) throw Wrong{"the game plays no \"" + name + "\""};
            kart_.slots[std::size_t(known - limits::slots.begin())] = clip;
        }
    }
    std::string clip(Reading& in) {
        Clip clip{in.name(), float(in.u16()) / 240, {}, {}};
        for (int k = 0; k < 3; ++k) clip.way[k] = in.f32();
        const std::size_t count = in.count(in.u16(), 8);
        for (std::size_t t = 0; t < count; ++t) {
            Track track;
            track.bone = bone(in.u8());
            const unsigned of = in.u8();
            if (of > 2) throw Wrong{"a track moves what nothing has"};
            track.of = Track::Of(of);
            const float step = in.f32();
            const int width = track.of == Track::Of::Turn ? 4 : 3;
            const std::size_t keys = in.count(in.u16(), 2 + 2 * std::size_t(width));
            if (keys == 0) throw Wrong{"a track has no keys"};
            for (std::size_t k = 0; k < keys; ++k) {
                track.seconds.push_back(float(in.u16()) / 240);
                if (k > 0 && track.seconds[k] < track.seconds[k - 1]) throw Wrong{"keys are out of order"};
            }
            for (std::size_t k = 0; k < keys; ++k) {
                glm::vec4 value(0);
                for (int c = 0; c < width; ++c) value[c] = step * float(in.i16());
                track.values.push_back(value);
            }
            clip.tracks.push_back(std::move(track));
        }
        kart_.clips.push_back(std::move(clip));
        return kart_.clips.back().name;
    }

    Kart& kart_;
};

/// The one kart of a folder; empty where there is none or several.
std::string kartIn(const std::filesystem::path& folder, const world::Files& files) {
    std::vector<std::string> found;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error))
        if (entry.path().extension() == ".kcb") found.push_back(entry.path().filename().string());
    if (found.size() != 1) {
        files.say(Message::Kind::Refused, "",
                  found.empty() ? "There is no kart in the folder" : "There are several karts in the folder",
                  "The track takes one file kart.NAME.kcb.");
        return {};
    }
    const std::string& name = found[0];
    const bool fine = name.starts_with("kart.") && name.size() > 9 &&
                      std::ranges::all_of(name.substr(5, name.size() - 9), [](char c) {
                          return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-' || c == '_';
                      });
    if (!fine) {
        files.say(Message::Kind::Refused, name, "The game does not find a file of that name",
                  "It looks for kart.NAME.kcb; NAME is small letters, digits, - and _.");
        return {};
    }
    return name;
}

} // namespace

std::optional<Kart> loadKart(const std::filesystem::path& folder, TryReport& report) {
    world::Files files(folder, report);
    const std::string name = kartIn(folder, files);
    if (name.empty()) return std::nullopt;
    const auto bytes = files.bytes(name);
    if (!bytes) return std::nullopt;
    Kart kart;
    kart.file = name, kart.bytes = bytes->size();
    files.sayBytes(name, showNumber(double(bytes->size()), 0) + " bytes", double(bytes->size()),
                   double(limits::kartBytes));
    Loading loading(kart);
    std::string tag = "KCB1";
    try {
        Reading in(*bytes);
        if (in.take(4) != "KCB1") throw Wrong{"it is no kart"};
        if (in.u32() != in.left()) throw Wrong{"it is cut short, or more than it says"};
        while (!in.atEnd()) {
            tag = std::string(in.take(4));
            const std::size_t size = in.u32();
            const auto chunk = in.take(size);
            if (size % 2) in.take(1);
            loading.chunk(tag, chunk);
        }
    } catch (const Wrong& wrong) {
        for (char& c : tag)
            if (std::uint8_t(c) < 32 || std::uint8_t(c) > 126) c = '?';
        files.say(Message::Kind::Refused, name, fmt::format("The chunk {} cannot be read", tag),
                  wrong.what + ".");
        return std::nullopt;
    }
    for (const auto& [picture, detail] : loading.wrongPictures)
        files.say(Message::Kind::Refused, name, "The picture \"" + picture + "\" does not fit", detail);
    std::vector<std::string> wrong;
    loading.finish(wrong);
    for (const std::string& what : wrong)
        files.say(Message::Kind::Refused, name, "It is not whole", what + ".");
    files.sayLimit(name, showNumber(double(kart.triangles), 0) + " triangles", double(kart.triangles),
                   double(limits::triangles));
    const auto rider = std::ranges::find(kart.bones, "rider", &Bone::name);
    if (rider == kart.bones.end())
        files.say(Message::Kind::Refused, name, "There is no bone \"rider\"",
                  "The game seats its rider there.");
    else if (rider->seen)
        files.say(Message::Kind::Odd, name, "The bone \"rider\" shows something",
                  "The game's own rider sits in it.");
    if (files.refused()) return std::nullopt;
    report.accepted = true;
    return kart;
}

} // namespace zl::standins::track
