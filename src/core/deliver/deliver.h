#pragma once
#include "core/base/file_set.h"
#include "core/base/progress.h"
#include "core/fields/table.h"
#include "core/model/model.h"
#include "core/model/twin.h"
#include "core/platform/check.h"
#include "core/recipe/recipe.h"

namespace zl::deliver {

using fields::Choice;
using fields::describe;
using fields::Field;
using fields::field;

struct DeliverableInfo {
    std::string_view id;
    std::string_view name;
    std::string_view help;
    bool takesLevels = false; ///< gets coarser copies too; others get the whole alone
};

/// What every delivery knows besides its own parameters.
struct Labels {
    std::string name = "piece";     ///< files are named after it; made safe with fileNameFrom()
    std::string credit{};           ///< goes into the delivered description
    std::filesystem::path source{}; ///< the piece's first, whole; empty where it is not known
    Sizes sizes{};                  ///< its other sizes, as the same recipe made them
};

/// Another size of what is built, to run the same recipe on.
struct OtherSize {
    std::string size;
    Model source;
    Hash hash = 0;
    std::shared_ptr<const steps::Surroundings> around; ///< with companions in that size
};
/// What the recipe makes of other sizes. A problem names the size.
Sizes madeSizes(const std::string& first, const std::vector<OtherSize>& others, const recipe::Recipe& recipe,
                const platform::Sheet& sheet, recipe::EvaluationCache* cache, const Progress& progress = {});

/// What a platform wants on disk, type-erased: a struct with its parameters and a table of fields, as steps
/// are. Listed once in all_deliverables.cpp.
class Deliverable {
public:
    virtual ~Deliverable() = default;
    virtual const DeliverableInfo& info() const = 0;
    virtual std::span<const Field> fields() const = 0;
    virtual std::unique_ptr<Deliverable> clone() const = 0;
    /// Takes the questions that the sheet itself asks for its parameters, where a deliverable does so.
    virtual void forSheet(const platform::Sheet& sheet) { (void)sheet; }
    /// From a model that fits to a list of files in memory. Throws Refused for what the sheet does not know.
    virtual std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const = 0;

    nlohmann::ordered_json params() const { return fields::printed(fields(), data()); }
    /// Sets those that `values` names; throws Error, and nothing is changed, for one that it has not.
    void setParams(const nlohmann::json& values) {
        fields::readInto(fields(), data(), values, std::string(info().id));
    }
    bool isShown(const Field& field) const { return fields::isShown(fields(), data(), field); }

protected:
    virtual const void* data() const = 0;
    virtual void* data() = 0;
};

template <class T>
class DeliverableOf final : public Deliverable {
public:
    const DeliverableInfo& info() const override { return T::info; }
    std::span<const Field> fields() const override { return T::fields; }
    std::unique_ptr<Deliverable> clone() const override { return std::make_unique<DeliverableOf>(*this); }
    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const override {
        return deliverable_.make(model, sheet, labels, progress);
    }

protected:
    const void* data() const override { return &deliverable_; }
    void* data() override { return &deliverable_; }

private:
    T deliverable_;
};

/// The words of steps, formats and deliverables that a sheet may use, with the stand-ins given.
platform::Vocabulary sheetWords(std::vector<std::string_view> standIns);

std::span<const std::unique_ptr<Deliverable>> allDeliverables();
/// The sheet's, with parameters set; throws Refused when nothing can be delivered for it yet.
std::unique_ptr<Deliverable> deliverableFor(const platform::Sheet& sheet,
                                            const nlohmann::json& params = nlohmann::json::object());
/// Every deliverable with its parameters, for docs/deliverables.md.
std::string manual();

struct BuildResult {
    bool fits = false;
    platform::FitReport report;
    std::vector<recipe::Outcome> steps;
    std::vector<std::pair<std::string, std::size_t>> files; ///< path, bytes; empty when it does not fit
    double seconds = 0;
};

/// Runs the recipe, on `others` too (`labels.sizes.first` is what this size is called), checks, and writes
/// all files to `folder`, or none when a `must` rule is broken or the disk refuses (Refused).
BuildResult build(const Model& source, Hash sourceHash, const recipe::Recipe& recipe,
                  const platform::Sheet& sheet, const std::filesystem::path& folder, const Labels& labels,
                  const nlohmann::json& params = nlohmann::json::object(),
                  recipe::EvaluationCache* cache = nullptr, const Progress& progress = {},
                  const steps::Surroundings* around = nullptr, const std::vector<OtherSize>& others = {});

} // namespace zl::deliver
