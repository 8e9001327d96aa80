#pragma once
#include "core/base/error.h"
#include "core/geometry/solids.h"
#include "core/project/document.h"

#include <nlohmann/json.hpp>

/// A kind of document for tests: a pile of crates, each as high as it says in metres.
struct Crates final : zl::project::Document {
    std::vector<double> heights;

    nlohmann::ordered_json toJson() const override { return heights; }
    std::unique_ptr<Document> copy() const override {
        ++copies;
        return std::make_unique<Crates>(*this);
    }
    zl::Model model(const std::filesystem::path&, const zl::Progress&) const override {
        zl::Model out;
        out.name = "pile";
        out.frame = {zl::unitNamed("m"), zl::Up::Y, false, false};
        double below = 0;
        for (const double height : heights) {
            out.nodes.push_back({"crate " + std::to_string(out.nodes.size() + 1), -1, glm::dmat4(1.0),
                                 int(out.meshes.size())});
            out.meshes.push_back(std::make_shared<const zl::Mesh>(zl::geometry::boxMesh(
                glm::vec3(-0.5f, float(below), -0.5f), glm::vec3(0.5f, float(below + height), 0.5f))));
            below += height;
        }
        return out;
    }
    static std::unique_ptr<Document> read(const nlohmann::json& content) {
        auto out = std::make_unique<Crates>();
        if (!content.is_array()) throw zl::Error("is no pile", "crates", "Expected a list of heights.");
        for (const auto& height : content) {
            if (!height.is_number()) throw zl::Error("holds a crate without a height");
            out->heights.push_back(height.get<double>());
        }
        return out;
    }
    static inline int copies = 0;
};

/// Puts a crate on top.
struct PutOn final : zl::project::DocumentChange {
    explicit PutOn(double height) : height(height) {}
    double height;

    void make(zl::project::Document& document) override {
        if (!(height > 0)) throw zl::Error("A crate needs a height");
        static_cast<Crates&>(document).heights.push_back(height);
    }
    void takeBack(zl::project::Document& document) override {
        static_cast<Crates&>(document).heights.pop_back();
    }
};

inline const zl::project::DocumentKind& cratesKind() {
    static const zl::project::DocumentKind kind{
        "crates", "Crates", "crates", [] { return std::unique_ptr<zl::project::Document>(new Crates); },
        Crates::read};
    return kind;
}
