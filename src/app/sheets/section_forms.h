#pragma once
#include <QString>
#include <QStringList>

#include <span>
#include <string>
#include <vector>

namespace zl::app {

/// A value of a section of a sheet, as people change it.
struct SectionField {
    enum class Kind { Text, Number, List, Flag, Choice };
    const char* key;
    const char* label;
    const char* help = "";
    Kind kind = Kind::Text;
    std::vector<std::string> (*options)() = nullptr; ///< of a choice
    bool required = false;                           ///< its section cannot be without it
};

/// A section of a sheet, or a list of them, with what people may change in it.
struct SectionForm {
    const char* section;
    bool isList;
    const char* title; ///< of one of them
    const char* about; ///< what it is good for, where there is none yet
    std::vector<SectionField> fields;
    const char* fresh; ///< a new one, as a sheet has it
};

/// The parts of a sheet that are made of such sections, in the order in which people think of them.
struct SheetPart {
    const char* id;
    const char* title;
    std::vector<SectionForm> forms;
};
std::span<const SheetPart> sheetParts();

} // namespace zl::app
