#include "core/platform/sheet.h"

namespace zl::platform {

namespace {

/// Hashes values one after the other; texts with their lengths, so that none runs into the next.
class Hasher {
public:
    void operator()(const std::string& text) {
        (*this)(double(text.size()));
        hash = hashText(text, hash);
    }
    void operator()(double number) { hash = hashBytes(&number, sizeof number, hash); }
    template <class T>
    void operator()(const std::vector<T>& list) {
        (*this)(double(list.size()));
        for (const T& item : list) (*this)(item);
    }
    template <class T>
    void operator()(const std::map<std::string, T>& table) {
        (*this)(double(table.size()));
        for (const auto& [name, value] : table) (*this)(name), (*this)(value);
    }
    void operator()(const RuleSpec& rule) {
        (*this)(rule.id), (*this)(rule.check), (*this)(rule.label), (*this)(double(rule.severity));
        (*this)(double(rule.of));
        (*this)(rule.limits), (*this)(rule.texts), (*this)(rule.message), (*this)(rule.mends);
    }
    void operator()(const Leg& leg) {
        (*this)(leg.format), (*this)(leg.metresPerUnit), (*this)(leg.up), (*this)(leg.loses);
        (*this)(leg.changes), (*this)(leg.note);
    }
    void operator()(const Prefix& prefix) { (*this)(prefix.code), (*this)(prefix.means); }
    void operator()(const RoleEndings::Ending& known) {
        (*this)(known.ending), (*this)(double(known.role)), (*this)(double(known.channel));
    }

    void operator()(bool value) { (*this)(double(value)); }
    void operator()(const MaterialSetting& value) {
        (*this)(double(value.index()));
        std::visit([this](const auto& held) { (*this)(held); }, value);
    }
    void operator()(const SheetCost::Quality& level) {
        (*this)(level.name), (*this)(double(level.edge)), (*this)(level.usual);
    }
    void operator()(const SheetCost& cost) {
        for (const double number :
             {cost.memoryMegabytes, cost.uploadMegabytes, cost.copyBytes, cost.frameMillis,
              cost.trianglesPerMilli, cost.pixelsPerMilli, double(cost.meshFile)})
            (*this)(number);
        (*this)(cost.qualities);
    }
    void operator()(const contact::SurfaceKind& kind) {
        (*this)(kind.name), (*this)(kind.word), (*this)(kind.sound), (*this)(kind.throws);
        for (int k = 0; k < 3; ++k) (*this)(double(kind.colour[k]));
        (*this)(double(kind.hatch)), (*this)(kind.grip), (*this)(kind.hints);
    }
    void operator()(const contact::MarkPlace& mark) {
        (*this)(double(mark.place)), (*this)(mark.name), (*this)(mark.does);
    }
    void operator()(const contact::Touch& touch) {
        (*this)(touch.surfaces), (*this)(touch.marks), (*this)(touch.engine), (*this)(touch.earlier);
        (*this)(touch.holderName);
    }
    void operator()(const blocks::Paint& paint) {
        (*this)(paint.name);
        for (int k = 0; k < 3; ++k) (*this)(double(paint.colour[k]));
    }
    void operator()(const SheetBlocks& blocks) {
        (*this)(blocks.edge), (*this)(blocks.kilograms), (*this)(blocks.paints);
    }
    void operator()(const ChannelSource& channel) { (*this)(textOf(channel)); }
    void operator()(const SheetPicture& picture) {
        (*this)(picture.name), (*this)(picture.format), (*this)(double(picture.mostEdge));
        for (const auto& channel : picture.channels) {
            (*this)(channel.has_value());
            if (channel) (*this)(*channel);
        }
        (*this)(picture.flags);
    }

    Hash hash = 0;
};

} // namespace

Hash hashOf(const Sheet& sheet) {
    Hasher add;
    add(sheet.id), add(sheet.name), add(sheet.kind), add(sheet.about), add(sheet.unitName);
    add(sheet.metresPerUnit), add(double(sheet.up)), add(sheet.front), add(sheet.figureHeight),
        add(sheet.figureBones);
    add(sheet.rules), add(sheet.deliverable), add(sheet.files.said()), add(sheet.importerFactor);
    add(sheet.sizes), add(sheet.chain), add(sheet.prefixes), add(sheet.endings.pictures);
    add(sheet.endings.empty), add(sheet.standIn), add(sheet.surface.pictures);
    add(sheet.surface.materialName), add(sheet.surface.companion), add(sheet.cost), add(sheet.levels.name);
    add(double(sheet.levels.as)), add(sheet.slots), add(sheet.surface.settings);
    add(sheet.touch), add(sheet.world.traits), add(double(sheet.world.collisionFiles)), add(sheet.blocks);
    return add.hash;
}

} // namespace zl::platform
