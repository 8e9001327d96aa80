#include "core/formats/gltf_data.h"

#include "core/formats/tinygltf.h"

#include <algorithm>
#include <cstring>

namespace zl::formats {

namespace {

/// One number of an accessor; normalised integers as glTF 2.0 says in 3.6.2.2.
double component(const unsigned char* p, int type, bool normalized) {
    const auto as = [&](auto value) {
        std::memcpy(&value, p, sizeof value);
        return value;
    };
    switch (type) {
    case TINYGLTF_COMPONENT_TYPE_BYTE:
        return normalized ? std::max(-1.0, as(std::int8_t()) / 127.0) : as(std::int8_t());
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE:
        return normalized ? as(std::uint8_t()) / 255.0 : as(std::uint8_t());
    case TINYGLTF_COMPONENT_TYPE_SHORT:
        return normalized ? std::max(-1.0, as(std::int16_t()) / 32767.0) : as(std::int16_t());
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT:
        return normalized ? as(std::uint16_t()) / 65535.0 : as(std::uint16_t());
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT:
        return as(std::uint32_t());
    default:
        return as(float());
    }
}

} // namespace

GltfData::GltfData(const tinygltf::Model& source, std::string where)
    : source_(source), where_(std::move(where)) {
    // Values may be shared, sparse or all zero, so a model is larger than its file; a few bytes that ask for
    // gigabytes are none.
    constexpr std::size_t alwaysAllowed = 64u << 20, timesTheFile = 200;
    allowance_ = alwaysAllowed;
    for (const auto& buffer : source.buffers) allowance_ += timesTheFile * buffer.data.size();
}

void GltfData::spend(std::size_t bytes) const {
    if (bytes > allowance_)
        fail("asks for more memory than a file of its size can need",
             "It is broken: export or copy it again.");
    allowance_ -= bytes;
}

const std::vector<float>& GltfData::floats(int index, int width) {
    const auto known = read_.find(index);
    if (known != read_.end() && known->second.size() == source_.accessors[index].count * width)
        return known->second;
    auto values = numbers<float>(index, width);
    return read_[index] = std::move(values);
}

const unsigned char* GltfData::bytes(int bufferView, std::size_t offset, std::size_t length) const {
    const auto& view = at(source_.bufferViews, bufferView, "buffer view");
    const auto& buffer = at(source_.buffers, view.buffer, "buffer").data;
    if (view.byteOffset > buffer.size() || view.byteLength > buffer.size() - view.byteOffset ||
        offset > view.byteLength || length > view.byteLength - offset)
        fail("promises more data than it holds", "The file was cut off; export or copy it again.");
    return buffer.data() + view.byteOffset + offset;
}

template <class T>
std::vector<T> GltfData::numbers(int index, int width) const {
    const auto& accessor = at(source_.accessors, index, "accessor");
    const int type = accessor.componentType;
    const int size = tinygltf::GetComponentSizeInBytes(type),
              own = tinygltf::GetNumComponentsInType(accessor.type);
    if (size <= 0 || own != width)
        fail(fmt::format("has an accessor of another shape than {} numbers", width));
    if (accessor.count > (1u << 30)) fail("promises an absurd number of values");
    spend(accessor.count * width * sizeof(T));
    std::vector<T> out;
    if (accessor.bufferView >= 0) {
        const auto& view = at(source_.bufferViews, accessor.bufferView, "buffer view");
        const std::size_t stride = view.byteStride ? view.byteStride : std::size_t(size) * own;
        if (accessor.count > 0) {
            const unsigned char* p = bytes(accessor.bufferView, accessor.byteOffset,
                                           (accessor.count - 1) * stride + std::size_t(size) * own);
            out.resize(accessor.count * width);
            for (std::size_t i = 0; i < accessor.count; ++i)
                for (int k = 0; k < width; ++k)
                    out[i * width + k] =
                        T(component(p + i * stride + std::size_t(k) * size, type, accessor.normalized));
        }
    } else {
        out.resize(accessor.count * width, T(0));
    }
    if (accessor.sparse.isSparse) {
        const auto count = static_cast<std::size_t>(std::max(0, accessor.sparse.count));
        const int indexSize = tinygltf::GetComponentSizeInBytes(accessor.sparse.indices.componentType);
        if (indexSize <= 0) fail("has a sparse accessor of an unknown type");
        const unsigned char* where =
            bytes(accessor.sparse.indices.bufferView, accessor.sparse.indices.byteOffset, count * indexSize);
        const unsigned char* what =
            bytes(accessor.sparse.values.bufferView, accessor.sparse.values.byteOffset,
                  count * std::size_t(size) * width);
        for (std::size_t i = 0; i < count; ++i) {
            const auto element = static_cast<std::size_t>(
                component(where + i * indexSize, accessor.sparse.indices.componentType, false));
            if (element >= accessor.count) fail("has a sparse value outside its accessor");
            for (int k = 0; k < width; ++k)
                out[element * width + k] =
                    T(component(what + (i * width + k) * size, type, accessor.normalized));
        }
    }
    return out;
}

template std::vector<float> GltfData::numbers<float>(int, int) const;
template std::vector<double> GltfData::numbers<double>(int, int) const;

} // namespace zl::formats
