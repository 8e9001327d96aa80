#include "standins/world/glb_data.h"

#include <algorithm>
#include <cmath>

namespace zl::standins::world {

namespace {

std::uint32_t word(const std::string& bytes, std::size_t at) {
    std::uint32_t value = 0;
    if (at + 4 <= bytes.size()) std::memcpy(&value, bytes.data() + at, 4);
    return value;
}

} // namespace

GlbData::GlbData(const std::string& bytes) : bytes_(bytes) {
    if (bytes_.size() < 20 || bytes_.compare(0, 4, "glTF") != 0 || word(bytes_, 4) != 2)
        throw BrokenGlb{"it is no GLB of version 2"};
    if (word(bytes_, 8) != bytes_.size()) throw BrokenGlb{"its length is not what it says"};
    for (std::size_t at = 12; at + 8 <= bytes_.size();) {
        const std::size_t length = word(bytes_, at), kind = word(bytes_, at + 4);
        if (length > bytes_.size() - at - 8) throw BrokenGlb{"a chunk is cut off"};
        if (kind == 0x4e4f534a) root_ = Json::parse(bytes_.substr(at + 8, length), nullptr, false);
        if (kind == 0x004e4942) binary_ = {at + 8, length};
        at += 8 + length;
    }
    if (!root_.is_object()) throw BrokenGlb{"its description is not readable"};
}

const GlbData::Json& GlbData::list(const char* key) const {
    static const Json empty = Json::array();
    const auto found = root_.find(key);
    return found != root_.end() && found->is_array() ? *found : empty;
}

const GlbData::Json& GlbData::extension(const char* name) const {
    static const Json none;
    const auto all = root_.find("extensions");
    if (all == root_.end() || !all->is_object()) return none;
    const auto found = all->find(name);
    return found == all->end() ? none : *found;
}

std::size_t GlbData::number(const Json& json, const char* key) {
    const auto found = json.find(key);
    if (found == json.end() || !found->is_number_unsigned())
        throw BrokenGlb{fmt::format("\"{}\" is no number", key)};
    return found->get<std::size_t>();
}

int GlbData::componentOf(std::size_t accessor) const {
    if (accessor >= list("accessors").size()) throw BrokenGlb{"an accessor is not there"};
    return list("accessors")[accessor].value("componentType", 0);
}

GlbData::View GlbData::view(std::size_t index, std::size_t size) const {
    const Json &accessors = list("accessors"), &views = list("bufferViews");
    if (index >= accessors.size()) throw BrokenGlb{"an accessor is not there"};
    const Json& accessor = accessors[index];
    const std::size_t which = number(accessor, "bufferView");
    if (which >= views.size()) throw BrokenGlb{"a buffer view is not there"};
    const Json& own = views[which];
    const std::size_t count = number(accessor, "count"), stride = own.value("byteStride", size);
    const std::size_t viewOffset = own.value("byteOffset", std::size_t(0)),
                      ownOffset = accessor.value("byteOffset", std::size_t(0)), all = binary_.second;
    // Each is compared by itself, for sums of absurd numbers come out small again.
    const bool within =
        count <= all && viewOffset <= all && ownOffset <= all - viewOffset && stride <= all &&
        (count == 0 || (size <= all - viewOffset - ownOffset &&
                        (count == 1 || stride <= (all - viewOffset - ownOffset - size) / (count - 1))));
    if (!within) throw BrokenGlb{"an accessor reaches beyond the data"};
    return {bytes_.data() + binary_.first + viewOffset + ownOffset, stride, count};
}

GlbData::Look GlbData::look(std::size_t which) const {
    const Json &materials = list("materials"), &textures = list("textures"), &images = list("images"),
               &views = list("bufferViews");
    if (which >= materials.size()) throw BrokenGlb{"a material is not there"};
    Look out;
    out.name = materials[which].value("name", "");
    const Json surface = materials[which].value("pbrMetallicRoughness", Json::object());
    const Json factor = surface.value("baseColorFactor", Json::array());
    for (int k = 0; k < 3 && k < int(factor.size()); ++k)
        out.colour[k] = std::sqrt(std::clamp(factor[std::size_t(k)].get<float>(), 0.0f, 1.0f));
    const auto picture = surface.find("baseColorTexture");
    if (picture == surface.end()) return out;
    const std::size_t texture = number(*picture, "index");
    if (texture >= textures.size()) throw BrokenGlb{"a texture is not there"};
    const std::size_t image = number(textures[texture], "source");
    if (image >= images.size()) throw BrokenGlb{"a picture is not there"};
    out.hasPicture = true;
    out.pictureFile = images[image].value("uri", "");
    if (!out.pictureFile.empty()) return out;
    const std::size_t view = number(images[image], "bufferView");
    if (view >= views.size()) throw BrokenGlb{"a buffer view is not there"};
    out.pictureBytes = bytes(views[view]);
    return out;
}

std::string GlbData::bytes(const Json& bufferView) const {
    const std::size_t offset = bufferView.value("byteOffset", std::size_t(0)),
                      length = number(bufferView, "byteLength");
    if (offset > binary_.second || length > binary_.second - offset)
        throw BrokenGlb{"a buffer view reaches beyond the data"};
    return bytes_.substr(binary_.first + offset, length);
}

std::vector<std::uint32_t> GlbData::wholes(std::size_t accessor, std::size_t width) const {
    const int kind = componentOf(accessor);
    const std::size_t size = kind == 5125 ? 4 : kind == 5123 ? 2 : kind == 5121 ? 1 : 0;
    if (size == 0) throw BrokenGlb{"indices are of an unknown sort"};
    const View data = view(accessor, size * width);
    std::vector<std::uint32_t> out;
    out.reserve(data.count * width);
    for (std::size_t i = 0; i < data.count; ++i)
        for (std::size_t k = 0; k < width; ++k) {
            std::uint32_t value = 0; // little endian, as the format
            std::memcpy(&value, data.start + i * data.stride + k * size, size);
            out.push_back(value);
        }
    return out;
}

} // namespace zl::standins::world
