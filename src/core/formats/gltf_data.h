#pragma once
#include "core/base/error.h"

#include <fmt/format.h>

#include <filesystem>
#include <limits>
#include <map>
#include <vector>

namespace tinygltf {
class Model;
}

namespace zl::formats {

/// The numbers in a glTF file's buffers, with every offset, count and reference checked: a hostile file may
/// promise anything. What is wrong ends in an Error that names the file.
class GltfData {
public:
    /// `source` must outlive it.
    GltfData(const tinygltf::Model& source, std::string where);

    [[noreturn]] void fail(const std::string& what,
                           const std::string& mend = "Export the file again.") const {
        throw Error(what, where_, mend);
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

    /// The same as vectors, only those that `keep` names (all when it is null; numbers beyond the accessor
    /// fail). Accessors that several ask for are read once.
    template <class V>
    std::vector<V> vectors(int index, const std::vector<std::uint32_t>* keep = nullptr) {
        const std::vector<float>& flat = floats(index, V::length());
        const std::size_t count = flat.size() / V::length();
        std::vector<V> out(keep ? keep->size() : count);
        spend(out.size() * sizeof(V));
        for (std::size_t i = 0; i < out.size(); ++i) {
            const std::size_t from = keep ? (*keep)[i] : i;
            if (from >= count) fail("has fewer values than corners");
            for (int k = 0; k < V::length(); ++k)
                out[i][k] = as<typename V::value_type>(flat[from * V::length() + k]);
        }
        return out;
    }

    /// Takes so many bytes off what a file of this size may ask for; fails when there is not so much left.
    void spend(std::size_t bytes) const;

private:
    const unsigned char* bytes(int bufferView, std::size_t offset, std::size_t length) const;
    const std::vector<float>& floats(int index, int width);
    template <class T>
    static T as(float value) {
        if constexpr (std::is_integral_v<T>) // a number out of the type's range would be undefined
            return value >= 0 && value <= float(std::numeric_limits<T>::max()) ? static_cast<T>(value) : T(0);
        else
            return value;
    }

    const tinygltf::Model& source_;
    std::string where_;
    mutable std::size_t allowance_ = 0; ///< bytes that may still be asked for
    std::map<int, std::vector<float>> read_;
};

} // namespace zl::formats
