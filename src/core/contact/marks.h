#pragma once
#include "core/model/model.h"
#include "core/contact/touch.h"

namespace zl::contact {

/// A mark that does nothing as it is, and why.
struct OddMark {
    int node = -1;
    int place = 0;
    std::string name;                 ///< as it stands there
    const MarkPlace* meant = nullptr; ///< what it may be meant for; null where that is not known
    std::string why;                  ///< a sentence
};

/// The node that a platform reads marks of: the one at the top, where it is alone there; else -1.
int holderOf(const Model& model);

/// What a word written by somebody may have been meant for: the same but for capitals, blanks, signs and
/// letters that look alike in other alphabets (Unicode confusables, UTS #39, of those that keyboards have),
/// or else the nearest word. Null when it is like none.
const MarkPlace* meantMark(std::string_view name, const Touch& touch);

/// The marks of a model that the platform does not read: misspelt, in another place, of another node than the
/// holder, or unknown. What is meant must outlive them.
std::vector<OddMark> oddMarks(const Model& model, const Touch& touch);

/// The marks that it does read, in order of their places.
std::vector<const MarkPlace*> marksThatCount(const Model& model, const Touch& touch);

/// What keeps a model's holder from being one at rest; empty when nothing does.
std::string holderFault(const Model& model, const Touch& touch);

} // namespace zl::contact
