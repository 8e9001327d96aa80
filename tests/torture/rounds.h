#pragma once
#include "core/base/file_set.h"
#include "core/model/model.h"
#include "core/steps/step.h"
#include "dice.h"

#include <filesystem>
#include <stdexcept>

namespace torture {

/// Something that must not be: says what, and on what.
class Failure : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

/// Random parameters that a step's own table of fields allows.
nlohmann::json legalParams(const zl::steps::Step& step, const zl::Model& model, Dice& dice);

// One round each on a rough model. Only zl::Error may be thrown inside; anything else, and any broken
// promise, becomes a Failure.
void roundOfStep(const zl::Model& model, const std::string& step, Dice& dice); ///< twice in a row
void roundOfRules(const zl::Model& model, Dice& dice);                         ///< every rule of every sheet
void roundOfPlan(const zl::Model& model, Dice& dice);                          ///< a plan for one sheet
void roundOfWriter(const zl::Model& model, Dice& dice,
                   const std::filesystem::path& folder); ///< and read back
/// The same files in an archive or a package, where they must be read as `outside` was; then in a damaged
/// one.
void roundOfContainer(const std::vector<zl::OutFile>& files, const zl::Model& outside, Dice& dice,
                      const std::filesystem::path& folder);
/// A deliverable and its stand-in; what fits must be accepted.
void roundOfDelivery(const zl::Model& model, Dice& dice, const std::filesystem::path& folder);
/// A row package with such a geometry: read, copied, put back and damaged.
void roundOfPackage(const zl::Model& model, Dice& dice, const std::filesystem::path& folder);
/// A sheet with rough paths, templates and answers over it, changed, damaged, learnt.
void roundOfSheet(const zl::Model& model, Dice& dice, const std::filesystem::path& folder);
/// A text file with everything that readers may meet.
void roundOfRoughFile(Dice& dice, const std::filesystem::path& folder);

/// All of them with one seed. `folder` is written in.
void tortureRound(std::uint64_t seed, const std::filesystem::path& folder);

} // namespace torture
