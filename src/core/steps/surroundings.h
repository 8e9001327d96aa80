#pragma once
#include "core/fields/values.h"
#include "core/selection/chosen.h"

#include <map>
#include <memory>

namespace zl::steps {

/// Another model, taken in by a step.
struct Companion {
    std::shared_ptr<const Model> model; ///< null when it is not to be had
    Hash key = 0;                       ///< changes when the model may
    std::string name;                   ///< for notes
    std::string problem, mend;          ///< why it is not to be had
};

/// Where a piece comes from, as the project knows it.
struct Provenance {
    enum class Allows { Nothing, Asked, Freely, Own };
    std::string name;
    std::vector<std::string> authors; ///< each once
    std::string licence;
    Allows allows = Allows::Asked; ///< the strictest of its sources
};

/// What stands around a recipe and may be taken in by its steps.
class Surroundings {
public:
    virtual ~Surroundings() = default;
    virtual Companion companion(const fields::ModelRef& ref) const = 0;
    /// Changes when a picture's file may have, be it there or not; reads nothing.
    virtual Hash pictureKey(const std::string& file) const = 0;
    /// A picture's file; throws Error when it cannot be read.
    virtual std::shared_ptr<const Image> picture(const std::string& file) const = 0;
    /// A selection that the piece keeps; null when it keeps none of that name.
    virtual const selection::Selection* keptSelection(std::string_view name) const = 0;
    virtual Provenance provenance() const = 0;
    /// Numbers in the platform's world that others made here have, and whose each is.
    virtual std::map<int, std::string> numbersOfOthers() const = 0;
};

} // namespace zl::steps
