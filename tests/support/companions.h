#pragma once
#include "core/base/error.h"
#include "core/steps/surroundings.h"

#include <map>

/// Models and kept selections that a step under test may take in, by name, whatever kind of thing it asks
/// for.
struct TestSurroundings final : zl::steps::Surroundings {
    std::map<std::string, zl::steps::Companion> models;
    std::map<std::string, zl::selection::Selection, std::less<>> kept;
    std::map<std::string, std::shared_ptr<const zl::Image>> pictures; ///< by file

    void add(const std::string& name, zl::Model model, zl::Hash key) {
        models[name] = {std::make_shared<const zl::Model>(std::move(model)), key, name, {}, {}};
    }
    zl::steps::Companion companion(const zl::fields::ModelRef& ref) const override {
        const auto found = ref.name.empty() ? models.begin() : models.find(ref.name);
        return found == models.end() ? zl::steps::Companion{} : found->second;
    }
    zl::Hash pictureKey(const std::string& file) const override { return zl::hashText(file); }
    std::shared_ptr<const zl::Image> picture(const std::string& file) const override {
        const auto found = pictures.find(file);
        if (found == pictures.end()) throw zl::Error("is not there", file);
        return found->second;
    }
    const zl::selection::Selection* keptSelection(std::string_view name) const override {
        const auto found = kept.find(name);
        return found == kept.end() ? nullptr : &found->second;
    }
    std::map<int, std::string> numbers; ///< that others have
    std::map<int, std::string> numbersOfOthers() const override { return numbers; }
    zl::steps::Provenance known;
    zl::steps::Provenance provenance() const override { return known; }
};
