#pragma once
#include "app/session.h"

#include <nlohmann/json.hpp>

#include <functional>

class QWidget;

namespace zl::app {

/// What editors may offer names of and measure in.
struct EditingPlace {
    SheetPointer sheet;                                ///< the unit of lengths; may be null for metres
    Model model{};                                     ///< names of parts, pictures, bones and clips
    std::shared_ptr<const project::Project> project{}; ///< other pieces and yardsticks; may be null
    std::string piece{};
    std::function<selection::Selection()> selected{}; ///< what is selected in the view; may be null
    std::function<void(const QString& clip)> play{};  ///< has the view play a clip; may be null
};

using ValueChanged = std::function<void(const nlohmann::json& value)>;

/// One kind of editor: shows `value` (as recipes have it) and calls `changed` with what people make of it.
using MakeEditor = QWidget* (*)(const fields::Field& field, const nlohmann::json& value,
                                const EditingPlace& place, const ValueChanged& changed);

/// How the values of a type are edited. Every type has an entry in editors.cpp.
struct Editor {
    MakeEditor make;
    enum class Room { Beside, Below, Alone } room = Room::Beside; ///< of its label; alone it says it itself
};
const Editor& editorOf(const fields::FieldType& type);

QWidget* makeNumberEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                          const ValueChanged&);
QWidget* makePointEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                         const ValueChanged&);
QWidget* makeChoiceEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                          const ValueChanged&);
QWidget* makeFlagEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                        const ValueChanged&);
QWidget* makeWordEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                        const ValueChanged&);
QWidget* makeTextEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                        const ValueChanged&);
QWidget* makePartsEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                         const ValueChanged&);
QWidget* makeColourEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                          const ValueChanged&);
QWidget* makeListEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                        const ValueChanged&);
QWidget* makeSelectionEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                             const ValueChanged&);
QWidget* makeModelRefEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                            const ValueChanged&);
QWidget* makePictureRefEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                              const ValueChanged&);
QWidget* makeNameEditor(const fields::Field&, const nlohmann::json&, const EditingPlace&,
                        const ValueChanged&);

/// The slots that a list has a line for each of, in the game's order, where its rows say which clip is played
/// for what the sheet offers; else none.
std::vector<std::string> slotsInTable(const fields::Field&, const nlohmann::json&, const EditingPlace&);
QWidget* makeSlotTable(const fields::Field&, const nlohmann::json&, const std::vector<std::string>& slots,
                       const EditingPlace&, const ValueChanged&);

} // namespace zl::app
