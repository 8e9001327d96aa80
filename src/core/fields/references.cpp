#include "core/fields/field.h"

namespace zl::fields {

namespace {

/// {"piece": "Tide bell"}: one of several kinds of things by its name.
class Reference : public FieldType {
public:
    Reference(std::string_view name, std::vector<std::string_view> kinds)
        : name_(name), kinds_(std::move(kinds)) {}
    std::string_view name() const override { return name_; }

    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        std::string expected;
        for (const auto kind : kinds_)
            expected += fmt::format("{}{{\"{}\": \"name\"}}", expected.empty() ? "" : " or ", kind);
        if (value.is_object() && value.size() == 1)
            for (std::size_t i = 0; i < kinds_.size(); ++i)
                if (value.begin().key() == kinds_[i])
                    return nlohmann::json::array({i, checkedText(field, value.front())});
        refuseValue(field, value, expected);
    }
    nlohmann::json print(const Field&, const nlohmann::json& held) const override {
        return {{std::string(kinds_.at(held[0].get<std::size_t>())), held[1]}};
    }
    std::string describe(const Field& field) const override {
        std::string out;
        for (const auto kind : kinds_)
            out += fmt::format("{}`{{\"{}\": \"name\"}}`", out.empty() ? "" : " or ", kind);
        if (!field.leastMeans.empty()) out += fmt::format("; no name is {}", field.leastMeans);
        return out;
    }

private:
    std::string_view name_;
    std::vector<std::string_view> kinds_;
};

/// A plain text names a yardstick, as recipes had it once.
class ModelReference final : public Reference {
public:
    ModelReference() : Reference("model", {"piece", "yardstick", "file"}) {}
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        return Reference::read(field, value.is_string() ? nlohmann::json{{"yardstick", value}} : value);
    }
};

class Name final : public FieldType {
public:
    Name(std::string_view name, std::string_view what) : name_(name), what_(what) {}
    std::string_view name() const override { return name_; }
    nlohmann::json read(const Field& field, const nlohmann::json& value) const override {
        constexpr std::size_t most = 100000; // a path of a deep chain of nodes is long
        if (!value.is_string() || value.get_ref<const std::string&>().size() > most)
            refuseValue(field, value, fmt::format("a text of at most {} characters", most));
        return value;
    }
    std::string describe(const Field& field) const override {
        return std::string(what_) +
               (field.leastMeans.empty() ? std::string() : fmt::format("; empty is {}", field.leastMeans));
    }

private:
    std::string_view name_, what_;
};

} // namespace

const FieldType& modelRef() {
    static const ModelReference type;
    return type;
}
const FieldType& pictureRef() {
    static const Reference type("picture", {"picture", "file"});
    return type;
}
const FieldType& nodeRef() {
    static const Name type("node", "a node's path `\"hull/wheel\"`");
    return type;
}
const FieldType& boneRef() {
    static const Name type("bone", "a bone's name");
    return type;
}
const FieldType& clipRef() {
    static const Name type("clip", "a clip's name");
    return type;
}

} // namespace zl::fields
