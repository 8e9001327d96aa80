// Names, pictures, contact, motion: each section of a sheet with its values, by one table.
#include "app/sheets/section_forms.h"

#include "core/contact/touch.h"
#include "core/model/material.h"
#include "core/texture/picture_format.h"

#include <QObject>

namespace zl::app {

namespace {

using Kind = SectionField::Kind;
using Words = std::vector<std::string>;

Words roles() {
    Words out{"nothing"};
    for (const PictureRole role : allPictureRoles) out.emplace_back(roleName(role));
    return out;
}
Words channels() {
    return {"all", "red", "green", "blue", "alpha"};
}
Words pictureFormats() {
    Words out;
    for (const auto& format : texture::allPictureFormats()) out.emplace_back(format.id);
    return out;
}
Words levelWays() {
    return {"files", "nodes"};
}
Words hatches() {
    return {std::begin(contact::hatchNames), std::end(contact::hatchNames)};
}

constexpr const char* channelHelp =
    QT_TRANSLATE_NOOP("Sheet", "A role such as roughness or normal.red, 1 - gloss, or a number");

} // namespace

std::span<const SheetPart> sheetParts() {
    static const std::vector<SheetPart> parts{
        {"names",
         QT_TRANSLATE_NOOP("Sheet", "Names"),
         {{"material",
           false,
           QT_TRANSLATE_NOOP("Sheet", "Materials"),
           QT_TRANSLATE_NOOP("Sheet", "Materials keep their names."),
           {{"name", QT_TRANSLATE_NOOP("Sheet", "Are called"),
             QT_TRANSLATE_NOOP("Sheet", "{name} is the name here"), Kind::Text, nullptr, true}},
           "[material]\nname = \"{name}\"\n"},
          {"levels",
           false,
           QT_TRANSLATE_NOOP("Sheet", "Coarser copies"),
           QT_TRANSLATE_NOOP("Sheet", "The platform takes none."),
           {{"name", QT_TRANSLATE_NOOP("Sheet", "Are called"),
             QT_TRANSLATE_NOOP("Sheet", "{n} is the level's number"), Kind::Text, nullptr, true},
            {"as", QT_TRANSLATE_NOOP("Sheet", "Written as"), "", Kind::Choice, levelWays}},
           "[levels]\nname = \"{name}-{n}\"\n"},
          {"companion",
           false,
           QT_TRANSLATE_NOOP("Sheet", "A file beside each picture"),
           QT_TRANSLATE_NOOP("Sheet", "None is written."),
           {{"ending", QT_TRANSLATE_NOOP("Sheet", "Ends in"), "", Kind::Text, nullptr, true}},
           "[companion]\nending = \".txt\"\n"},
          {"prefix",
           true,
           QT_TRANSLATE_NOOP("Sheet", "Beginning of code names"),
           QT_TRANSLATE_NOOP("Sheet", "Codes in front of the names of a game's items, and what they mean."),
           {{"code", QT_TRANSLATE_NOOP("Sheet", "Code"), "", Kind::Text, nullptr, true},
            {"means", QT_TRANSLATE_NOOP("Sheet", "Means"), "", Kind::Text, nullptr, true}},
           "[[prefix]]\ncode = \"a-\"\nmeans = \"what it means\"\n"},
          {"ending",
           true,
           QT_TRANSLATE_NOOP("Sheet", "Ending of file names"),
           QT_TRANSLATE_NOOP("Sheet",
                             "What endings of the game's own files say, besides those that all know."),
           {{"names", QT_TRANSLATE_NOOP("Sheet", "Endings"),
             QT_TRANSLATE_NOOP("Sheet", "with commas between"), Kind::List, nullptr, true},
            {"means", QT_TRANSLATE_NOOP("Sheet", "Mean"), "", Kind::Choice, roles, true},
            {"channel", QT_TRANSLATE_NOOP("Sheet", "In the channel"), "", Kind::Choice, channels}},
           "[[ending]]\nnames = [\"_own\"]\nmeans = \"nothing\"\n"}}},
        {"pictures",
         QT_TRANSLATE_NOOP("Sheet", "Pictures"),
         {{"picture",
           true,
           QT_TRANSLATE_NOOP("Sheet", "Picture of every material"),
           QT_TRANSLATE_NOOP("Sheet",
                             "Pictures stay as the model has them. Say here what each channel holds, "
                             "where the game wants it otherwise."),
           {{"name", QT_TRANSLATE_NOOP("Sheet", "Is called"),
             QT_TRANSLATE_NOOP("Sheet", "{material} is the material's name; its ending comes by itself"),
             Kind::Text, nullptr, true},
            {"red", QT_TRANSLATE_NOOP("Sheet", "Red"), channelHelp},
            {"green", QT_TRANSLATE_NOOP("Sheet", "Green"), channelHelp},
            {"blue", QT_TRANSLATE_NOOP("Sheet", "Blue"), channelHelp},
            {"alpha", QT_TRANSLATE_NOOP("Sheet", "Alpha"), QT_TRANSLATE_NOOP("Sheet", "empty for none")},
            {"format", QT_TRANSLATE_NOOP("Sheet", "Written as"), "", Kind::Choice, pictureFormats},
            {"most", QT_TRANSLATE_NOOP("Sheet", "Longest edge"),
             QT_TRANSLATE_NOOP("Sheet", "px; larger ones are shrunk"), Kind::Number}},
           "[[picture]]\nname = \"{material}-c\"\nred = \"colour.red\"\ngreen = \"colour.green\"\n"
           "blue = \"colour.blue\"\n"}}},
        {"contact",
         QT_TRANSLATE_NOOP("Sheet", "Contact"),
         {{"surface",
           true,
           QT_TRANSLATE_NOOP("Sheet", "Kind of surface"),
           QT_TRANSLATE_NOOP("Sheet", "The platform tells no kinds of ground apart."),
           {{"name", QT_TRANSLATE_NOOP("Sheet", "The game's word"), "", Kind::Text, nullptr, true},
            {"word", QT_TRANSLATE_NOOP("Sheet", "For people"), ""},
            {"colour", QT_TRANSLATE_NOOP("Sheet", "Shown in"), QT_TRANSLATE_NOOP("Sheet", "such as #8fae5d"),
             Kind::Text, nullptr, true},
            {"hatch", QT_TRANSLATE_NOOP("Sheet", "Drawn"), "", Kind::Choice, hatches},
            {"sound", QT_TRANSLATE_NOOP("Sheet", "Sounds like"), ""},
            {"throws", QT_TRANSLATE_NOOP("Sheet", "Throws up"), ""},
            {"grip", QT_TRANSLATE_NOOP("Sheet", "Grip"), "", Kind::Number},
            {"hints", QT_TRANSLATE_NOOP("Sheet", "Known by"),
             QT_TRANSLATE_NOOP("Sheet", "words in names that mean it, with commas between"), Kind::List}},
           "[[surface]]\nname = \"ground\"\ncolour = \"#8fae5d\"\n"},
          {"mark",
           true,
           QT_TRANSLATE_NOOP("Sheet", "Mark on faces"),
           QT_TRANSLATE_NOOP("Sheet", "Nothing is marked on faces."),
           {{"name", QT_TRANSLATE_NOOP("Sheet", "Name"), "", Kind::Text, nullptr, true},
            {"place", QT_TRANSLATE_NOOP("Sheet", "Its place"), QT_TRANSLATE_NOOP("Sheet", "a bit, from 0"),
             Kind::Number, nullptr, true},
            {"does", QT_TRANSLATE_NOOP("Sheet", "What it does"), ""}},
           "[[mark]]\nplace = 0\nname = \"mark\"\n"},
          {"holder",
           false,
           QT_TRANSLATE_NOOP("Sheet", "What holds bodies"),
           QT_TRANSLATE_NOOP("Sheet", "Bodies for physics are called as the model has them."),
           {{"name", QT_TRANSLATE_NOOP("Sheet", "Is called"),
             QT_TRANSLATE_NOOP("Sheet", "{name} is the piece's"), Kind::Text, nullptr, true}},
           "[holder]\nname = \"{name}-body\"\n"}}},
        {"motion",
         QT_TRANSLATE_NOOP("Sheet", "Motion"),
         {{"motion",
           false,
           QT_TRANSLATE_NOOP("Sheet", "Movements"),
           QT_TRANSLATE_NOOP("Sheet", "The platform plays movements by any name, or none."),
           {{"slots", QT_TRANSLATE_NOOP("Sheet", "Played by name"),
             QT_TRANSLATE_NOOP("Sheet", "in the game's order, with commas between"), Kind::List}},
           "[motion]\nslots = [\"stand\", \"walk\"]\n"},
          {"figure",
           false,
           QT_TRANSLATE_NOOP("Sheet", "The game's own figures"),
           "",
           {{"bones", QT_TRANSLATE_NOOP("Sheet", "Their bones"),
             QT_TRANSLATE_NOOP("Sheet", "where poses are made for them, with commas between"), Kind::List}},
           "[figure]\n"}}},
    };
    return parts;
}

} // namespace zl::app
