// One list of fields for both ways, as they come.
#include "standins/tunnel/parcel.h"

#include <cstring>
#include <stdexcept>
#include <type_traits>

namespace zl::standins::tunnel {

namespace {

struct Out {
    std::string bytes;
    template <class T>
    requires std::is_trivially_copyable_v<T>
    void operator()(const T& value) { bytes.append(reinterpret_cast<const char*>(&value), sizeof value); }
    void operator()(const std::string& text) {
        (*this)(std::uint64_t(text.size()));
        bytes += text;
    }
    template <class T>
    void list(const std::vector<T>& all, const auto& each) {
        (*this)(std::uint64_t(all.size()));
        for (const T& one : all) each(one);
    }
};

struct In {
    std::string_view rest;
    const char* take(std::size_t size) {
        if (size > rest.size()) throw std::runtime_error("its parcel is cut off");
        const char* at = rest.data();
        rest.remove_prefix(size);
        return at;
    }
    template <class T>
    requires std::is_trivially_copyable_v<T>
    void operator()(T& value) { std::memcpy(&value, take(sizeof value), sizeof value); }
    void operator()(std::string& text) {
        std::uint64_t size = 0;
        (*this)(size);
        const char* at = take(std::size_t(size));
        text.assign(at, std::size_t(size));
    }
    template <class T>
    void list(std::vector<T>& all, const auto& each) {
        std::uint64_t count = 0;
        (*this)(count);
        if (count > rest.size()) throw std::runtime_error("its parcel promises too much");
        all.resize(std::size_t(count));
        for (T& one : all) each(one);
    }
};

void shape(auto& way, auto& of) {
    const auto plain = [&](auto& value) { way(value); };
    way.list(of.positions, plain), way.list(of.normals, plain), way.list(of.uvs, plain),
        way.list(of.indices, plain);
}

void all(auto& way, auto& compiled) {
    way.list(compiled.complaints,
             [&](auto& one) { way(one.file), way(one.line), way(one.isError), way(one.text); });
    auto& prop = compiled.prop;
    way(prop.name), way(prop.credit);
    way.list(prop.parts, [&](auto& one) { shape(way, one.shape), way(one.picture), way(one.colour); });
    way.list(prop.pieces, [&](auto& one) { shape(way, one.shape), way(one.surface); });
    way.list(prop.places, [&](auto& one) { way(one.at), way(one.turn); });
}

} // namespace

std::string toParcel(const Compiled& compiled) {
    Out out;
    all(out, compiled);
    return std::move(out.bytes);
}

Compiled fromParcel(const std::string& bytes) {
    In in{bytes};
    Compiled out;
    all(in, out);
    return out;
}

} // namespace zl::standins::tunnel
