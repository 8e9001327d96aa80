#pragma once
#include "core/base/text_template.h"
#include "core/learn/file_facts.h"

#include <nlohmann/json.hpp>

namespace zl::learn {

/// One text of those that are alike, and what its piece's files say (groupData()).
struct Sample {
    const TextFacts* text;
    const nlohmann::json* data;
};

/// Something in a text that differs and that nothing of the files explains: to be asked at delivery.
struct Unexplained {
    std::string name;              ///< the field's, as a question is called: "note"
    std::string usual;             ///< what most texts have there
    std::vector<std::string> seen; ///< each once, the commonest first
};

/// What texts have in common, as a Mustache template over the piece's data.
struct TextShape {
    std::string text;
    std::vector<Unexplained> asks;
    std::vector<std::string> guessed; ///< fields that are written as most have them, and may be wrong
    bool isWhole = true;              ///< every text could be made with it, but for what is asked
};

/// A template for texts of one form, whose values are written `as` their kind of file has them. JSON is taken
/// apart into its members and lists; other texts are compared line by line and word by word, and lines that
/// are alike and follow one another are a list. At least one sample.
TextShape shapeOf(const std::vector<Sample>& samples, Escaping as);

// Each in a file of its own.
TextShape jsonShape(const std::vector<Sample>& samples);
TextShape lineShape(const std::vector<Sample>& samples, Escaping as);

/// What a value says that stands in a text: "Salt & pepper" of XML's "Salt &amp; pepper". What cannot be
/// taken apart stays as it is.
std::string unescaped(const std::string& value, Escaping as);
/// A text in a template that stands for itself: braces in it are no places, so that two get a blank between.
std::string literally(std::string text);
/// A template of values (Places::explained) as it stands in a text: what is around its places is escaped.
std::string asWritten(const std::string& made, Escaping as);

/// What explains values: places of the data by name, and what each is for every sample.
class Places {
public:
    explicit Places(std::vector<const nlohmann::json*> data);

    /// "{{model.file}}" where every value is what that place has, or has it within
    /// ("meshes/{{hyphens}}.obj"); empty where nothing explains them. `quoted` values that are missing are
    /// null.
    std::string explained(const std::vector<std::string>& values) const;
    std::string explainedNumber(const std::vector<double>& values) const;
    /// The name of a list that has as many entries as wanted for every sample; those that explain more first.
    std::vector<std::string> listsOf(const std::vector<std::size_t>& counts) const;
    /// Places within entries of a list: one for each entry of every sample, in order.
    Places within(const std::string& list) const;
    const std::vector<const nlohmann::json*>& data() const { return data_; }
    /// Whether a value is the path, or the name, of one of the piece's pictures.
    bool isPicture(std::size_t sample, const std::string& value, bool byPath) const;
    /// Places that hold texts, and what one holds for an entry.
    std::vector<std::string> texts() const;
    std::string text(const std::string& place, std::size_t entry) const;
    bool inList() const { return !list_.empty(); }
    const std::string& list() const { return list_; }

private:
    struct Place {
        std::string name;
        std::vector<nlohmann::json> values;
    };
    void flatten(const nlohmann::json& value, const std::string& name);

    std::vector<const nlohmann::json*> data_;  ///< for every sample, or entry
    std::vector<const nlohmann::json*> whole_; ///< the piece's, where data_ are entries
    std::vector<Place> places_;
    std::string list_;
};

/// The commonest of some values; `seen`, when given, receives each once, the commonest first.
std::string commonest(const std::vector<std::string>& values, std::vector<std::string>* seen = nullptr);

/// What a field is called as a question: small letters, digits and hyphens.
std::string askName(const std::string& field);

} // namespace zl::learn
