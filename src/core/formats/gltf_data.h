#pragma once
#include "core/formats/tinygltf.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <filesystem>

namespace zl::formats {

/// The numbers in a glTF file's buffers, with every offset, count and reference checked: a hostile file may
/// promise anything. What is wrong ends in an Error that names the file.
class GltfData {
public:
    /// `source` must outlive it.
    GltfData(const tinygltf::Model& source, std::filesystem::path path)
        : source_(source), path_(std::move(path)) {}

    [[noreturn]] void fail(const std::string& what,
                           const std::string& mend = "Export the file again.") const {
        throw Error(what, path_.string(), mend);
    }
    /// The entry of a list that a file refers to by number; `what` names its kind.
    template <class T>
    const T& at(const std::vector<T>& list, int index, std::string_view what) const {
        if (index < 0 || index >= static_cast<int>(list.size()))
            fail(fmt::format("refers to {} {}, which does not exist", what, index));
        return list[index];
    }

    /// An accessor's values one after the other, `width` numbers an element; sparse ones are applied.
    /// Integers that the accessor calls normalised come as shares. For float and double.
    template <class T>
    std::vector<T> numbers(int accessor, int width) const;

    /// The same as vectors of `width` numbers.
    template <class V>
    std::vector<V> vectors(int index, int width) const {
        const auto flat = numbers<float>(index, width);
        std::vector<V> out(flat.size() / width);
        for (std::size_t i = 0; i < out.size(); ++i)
            for (int k = 0; k < width; ++k)
                out[i][k] = static_cast<typename V::value_type>(flat[i * width + k]);
        return out;
    }

private:
    const unsigned char* bytes(int bufferView, std::size_t offset, std::size_t length) const;

    const tinygltf::Model& source_;
    std::filesystem::path path_;
};

} // namespace zl::formats
