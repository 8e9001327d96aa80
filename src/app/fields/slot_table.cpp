// Which clip is played for each of a platform's movements, as a table in the game's order.
#include "app/fields/editors.h"
#include "app/fields/reference_box.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/motion/posed.h"

#include <QGridLayout>
#include <QLabel>
#include <QToolButton>

#include <map>

namespace zl::app {

namespace {

constexpr std::size_t none = ~std::size_t(0);

/// The clip that is played for a slot as the model stands behind all steps; null for none.
const Clip* playedFor(const Model& model, const std::string& slot) {
    const auto found = std::ranges::find(model.clipSlots, slot, &ClipSlot::name);
    return found == model.clipSlots.end() ? nullptr : model.clips[std::size_t(found->clip)].get();
}

std::size_t rowOf(const nlohmann::json& rows, const std::string& key, const std::string& slot) {
    for (std::size_t i = 0; i < rows.size(); ++i)
        if (rows[i].at(key) == slot) return i;
    return none;
}

} // namespace

std::vector<std::string> slotsInTable(const fields::Field& field, const nlohmann::json& value,
                                      const EditingPlace& place) {
    if (field.rowFields.size() != 2 || !field.rowFields[0].offers ||
        !field.rowFields[1].isOf(fields::clipRef) || !place.sheet)
        return {};
    const auto slots = field.rowFields[0].offers(*place.sheet);
    // What the table has no line for is edited row by row.
    for (const auto& row : value)
        if (std::ranges::find(slots, row.at(std::string(field.rowFields[0].name)).get<std::string>()) ==
            slots.end())
            return {};
    return slots;
}

QWidget* makeSlotTable(const fields::Field& field, const nlohmann::json& value,
                       const std::vector<std::string>& slots, const EditingPlace& place,
                       const ValueChanged& changed) {
    const std::string key(field.rowFields[0].name), of(field.rowFields[1].name);
    auto* all = new QWidget;
    auto* grid = new QGridLayout(all);
    grid->setContentsMargins(0, 2, 0, 2);
    grid->setHorizontalSpacing(6);
    grid->setVerticalSpacing(4);
    grid->setColumnStretch(1, 1);
    std::map<const Clip*, std::string> seen; // the slot that plays it first
    for (std::size_t s = 0; s < slots.size(); ++s) {
        const std::string& slot = slots[s];
        const std::size_t row = rowOf(value, key, slot);
        const std::string chosen = row == none ? "" : value[row].at(of).get<std::string>();
        const Clip* played = playedFor(place.model, slot);
        grid->addWidget(textLabel(qs(slot), "dim"), int(s), 0);
        auto* box = new ReferenceBox;
        box->setObjectName("slot-" + qs(slot));
        box->setAccessibleName(QObject::tr("Clip for %1").arg(qs(slot)));
        box->setToolTip(qs(field.explanation));
        box->offer(chosen.empty() && played ? QObject::tr("%1, by itself").arg(qs(played->name))
                                            : QObject::tr("by itself"),
                   "");
        for (const auto& clip : place.model.clips) box->offer(qs(clip->name), clip->name);
        box->setNow(chosen, QObject::tr("%1 (not there)").arg(qs(chosen)));
        QObject::connect(box, &QComboBox::activated, box, [=](int index) {
            const auto clip = box->value(index).get<std::string>();
            nlohmann::json rows = value;
            if (row != none)
                rows[row][of] = clip;
            else
                rows.push_back({{key, slot}, {of, clip}});
            if (row != none && clip.empty()) rows.erase(rows.begin() + std::ptrdiff_t(row));
            changed(rows);
        });
        grid->addWidget(box, int(s), 1);
        const auto [first, isNew] = seen.try_emplace(played, slot);
        auto* length =
            played ? textLabel(isNew ? QObject::tr("%1 s").arg(qs(showMeasure(motion::lengthOf(*played))))
                                     : QObject::tr("as %1").arg(qs(first->second)),
                               "dim")
                   : textLabel(QObject::tr("empty"), "bad");
        length->setWordWrap(false);
        length->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        grid->addWidget(length, int(s), 2);
        if (!place.play) continue;
        auto* play = iconButton("play", played ? QObject::tr("Play %1").arg(qs(played->name))
                                               : QObject::tr("Nothing is played for it"));
        play->setObjectName("play-" + qs(slot));
        play->setEnabled(played != nullptr);
        if (played)
            QObject::connect(play, &QToolButton::clicked, play,
                             [play = place.play, clip = qs(played->name)] { play(clip); });
        grid->addWidget(play, int(s), 3);
    }
    return all;
}

} // namespace zl::app
