// One list of fields for both ways: `Out` appends what `In` takes, in the same order.
#include "core/model/model_bytes.h"

#include "core/base/error.h"

#include <cstring>
#include <type_traits>

namespace zl {

namespace {

template <class T>
inline constexpr bool isPlain = std::is_trivially_copyable_v<T>;

class Out {
public:
    template <class T>
    requires isPlain<T>
    void operator()(const T& value) { bytes.append(reinterpret_cast<const char*>(&value), sizeof value); }
    void operator()(const std::string& text) {
        (*this)(std::uint64_t(text.size()));
        bytes += text;
    }
    void operator()(const std::filesystem::path& path) { (*this)(path.string()); }
    template <class T>
    void operator()(const std::vector<T>& list) {
        (*this)(std::uint64_t(list.size()));
        if constexpr (isPlain<T>)
            bytes.append(reinterpret_cast<const char*>(list.data()), list.size() * sizeof(T));
        else
            for (const T& item : list) fieldsOf(*this, item);
    }

    std::string bytes;
};

class In {
public:
    explicit In(std::string_view bytes) : rest_(bytes) {}

    template <class T>
    requires isPlain<T>
    void operator()(T& value) { std::memcpy(&value, take(sizeof value), sizeof value); }
    void operator()(std::string& text) {
        const std::size_t size = count(1);
        text.assign(take(size), size);
    }
    void operator()(std::filesystem::path& path) {
        std::string text;
        (*this)(text);
        path = text;
    }
    template <class T>
    void operator()(std::vector<T>& list) {
        if constexpr (isPlain<T>) {
            const std::size_t size = count(sizeof(T));
            list.resize(size);
            if (size > 0) std::memcpy(list.data(), take(size * sizeof(T)), size * sizeof(T));
        } else {
            list.resize(count(1));
            for (T& item : list) fieldsOf(*this, item);
        }
    }

private:
    const char* take(std::size_t size) {
        if (size > rest_.size()) throw Error("bytes of a model end too soon");
        const char* at = rest_.data();
        rest_.remove_prefix(size);
        return at;
    }
    /// A count of things of at least `size` bytes each, which must all be there.
    std::size_t count(std::size_t size) {
        std::uint64_t number = 0;
        (*this)(number);
        if (number > rest_.size() / size) throw Error("bytes of a model promise more than there is");
        return static_cast<std::size_t>(number);
    }

    std::string_view rest_;
};

template <class T, class Wanted>
concept Is = std::is_same_v<std::remove_const_t<T>, Wanted>;

void fieldsOf(auto& way, auto& value) {
    way(value);
}
void fieldsOf(auto& way, Is<Node> auto& node) {
    way(node.name), way(node.parent), way(node.local), way(node.mesh), way(node.skin), way(node.level);
    way(node.key);
}
void fieldsOf(auto& way, Is<MorphTarget> auto& morph) {
    way(morph.name), way(morph.positions), way(morph.normals);
}
void fieldsOf(auto& way, Is<Mesh> auto& mesh) {
    way(mesh.name), way(mesh.positions), way(mesh.normals), way(mesh.tangents), way(mesh.uvSets);
    way(mesh.colours), way(mesh.joints), way(mesh.weights), way(mesh.indices), way(mesh.runs);
    way(mesh.surfaces);
    way(mesh.morphs);
}
void fieldsOf(auto& way, Is<PictureUse> auto& use) { // field by field, for what lies between them is anything
    way(use.image), way(use.channel), way(use.uvSet);
    way(use.placement.offset), way(use.placement.scale), way(use.placement.turn);
    way(use.sampler.across), way(use.sampler.down), way(use.sampler.smooth);
}
/// As names with the kind of each value and the value.
void settingsOf(Out& out, const MaterialSettings& settings) {
    out(std::uint64_t(settings.size()));
    for (const auto& [name, value] : settings) {
        out(name), out(std::uint8_t(value.index()));
        std::visit([&](const auto& held) { out(held); }, value);
    }
}
void settingsOf(In& in, MaterialSettings& settings) {
    std::uint64_t count = 0;
    in(count);
    for (; count > 0; --count) { // ends with the bytes
        std::string name;
        std::uint8_t kind = 0;
        in(name), in(kind);
        MaterialSetting value = kind == 0   ? MaterialSetting(false)
                                : kind == 1 ? MaterialSetting(0.0)
                                            : MaterialSetting(std::string());
        std::visit([&](auto& held) { in(held); }, value);
        settings[std::move(name)] = std::move(value);
    }
}
void fieldsOf(auto& way, Is<Material> auto& m) {
    way(m.name), way(m.baseColour), way(m.emission), way(m.metalness), way(m.roughness);
    for (auto& use : m.pictures) fieldsOf(way, use);
    way(m.doubleSided), way(m.alpha), way(m.alphaCutoff);
    settingsOf(way, m.settings);
}
void fieldsOf(auto& way, Is<Image> auto& image) {
    way(image.name), way(image.encoded), way(image.format);
    way(image.width), way(image.height), way(image.channels);
    std::vector<std::uint8_t> rgba = image.pixels ? image.pixels->rgba : std::vector<std::uint8_t>();
    way(rgba);
    if constexpr (!std::is_const_v<std::remove_reference_t<decltype(image)>>)
        if (!rgba.empty())
            image.pixels = std::make_shared<const Pixels>(Pixels{image.width, image.height, std::move(rgba)});
}
void fieldsOf(auto& way, Is<Skin> auto& skin) {
    way(skin.name), way(skin.joints), way(skin.inverseBind), way(skin.root);
}
void fieldsOf(auto& way, Is<Channel> auto& channel) {
    way(channel.node), way(channel.target), way(channel.curve), way(channel.times), way(channel.values);
}
void fieldsOf(auto& way, Is<Clip> auto& clip) {
    way(clip.name), way(clip.channels);
}
template <class T>
void fieldsOf(Out& out, const std::shared_ptr<const T>& held) {
    fieldsOf(out, *held);
}
template <class T>
void fieldsOf(In& in, std::shared_ptr<const T>& held) {
    auto made = std::make_shared<T>();
    fieldsOf(in, *made);
    held = std::move(made);
}
void fieldsOf(auto& way, Is<Model> auto& model) {
    way(model.name), way(model.format), way(model.nodes), way(model.meshes), way(model.materials);
    way(model.images), way(model.skins), way(model.clips), way(model.placement), way(model.travelled);
    way(model.frame.unit.id), way(model.frame.unit.name), way(model.frame.unit.metres);
    way(model.frame.up), way(model.frame.unitAssumed), way(model.frame.upAssumed);
    way(model.surfaceKinds), way(model.headingKnown), way(model.dropped), way(model.warnings),
        way(model.files);
}

} // namespace

std::string toBytes(const Model& model) {
    Out out;
    fieldsOf(out, model);
    return std::move(out.bytes);
}

Model modelFromBytes(std::string_view bytes) {
    In in(bytes);
    Model model;
    fieldsOf(in, model);
    return model;
}

} // namespace zl
