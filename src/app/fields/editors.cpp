#include "app/fields/editors.h"

#include <map>

namespace zl::app {

const Editor& editorOf(const fields::FieldType& type) {
    using Room = Editor::Room;
    static const std::map<const fields::FieldType*, Editor> editors{
        {&fields::number(), {makeNumberEditor}},
        {&fields::length(), {makeNumberEditor}},
        {&fields::angle(), {makeNumberEditor}},
        {&fields::share(), {makeNumberEditor}},
        {&fields::count(), {makeNumberEditor}},
        {&fields::flag(), {makeFlagEditor, Room::Alone}},
        {&fields::choice(), {makeChoiceEditor}},
        {&fields::point(), {makePointEditor, Room::Below}},
        {&fields::text(), {makeTextEditor}},
        {&fields::word(), {makeWordEditor}},
        {&fields::parts(), {makePartsEditor}},
        {&fields::colour(), {makeColourEditor}},
        {&fields::list(), {makeListEditor, Room::Below}},
        {&fields::selection(), {makeSelectionEditor, Room::Below}},
        {&fields::modelRef(), {makeModelRefEditor}},
        {&fields::pictureRef(), {makePictureRefEditor}},
        {&fields::nodeRef(), {makeNameEditor}},
        {&fields::boneRef(), {makeNameEditor}},
        {&fields::clipRef(), {makeNameEditor}},
    };
    return editors.at(&type);
}

} // namespace zl::app
