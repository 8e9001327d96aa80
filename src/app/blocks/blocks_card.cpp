#include "app/blocks/blocks_card.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/blocks/solid.h"
#include "core/steps/build_of_blocks.h"
#include "core/steps/by_hand.h"

#include <QLabel>
#include <QVBoxLayout>

namespace zl::app {

namespace {

constexpr std::size_t mostListed = 8;

glm::dvec3 placeOf(const nlohmann::json& at) {
    return {at[0].get<double>(), at[1].get<double>(), at[2].get<double>()};
}

} // namespace

void BlocksCard::show(const CrossingState& state, const platform::Sheet& sheet) {
    const blocks::Hull* hull =
        state.kind == CrossingState::Kind::Ready ? blocks::hullOf(state.evaluation.model) : nullptr;
    empty();
    setVisible(hull);
    if (!hull) return;
    const auto kinds = hull->build.countByKind();
    const glm::ivec3 size = hull->build.size();
    QString rows;
    const auto row = [&](const QString& name, const QString& value) { rows += factRow(name, value); };
    const auto number = [](double value, int decimals = 0) { return qs(showNumber(value, decimals)); };
    const QString names[] = {tr("cubes"), tr("half slopes"), tr("corners"), tr("inverse corners")};
    for (std::size_t kind = 0; kind < kinds.size(); ++kind)
        if (kinds[kind] > 0) row(names[kind], number(double(kinds[kind])));
    const auto metres = [&](int blocks) { return qs(showNumber(blocks * hull->edge)); };
    row(tr("blocks"), tr("%1 × %2 × %3").arg(size.x).arg(size.y).arg(size.z));
    row(tr("metres"), tr("%1 × %2 × %3").arg(metres(size.x), metres(size.y), metres(size.z)));
    if (sheet.blocks.kilograms > 0)
        row(tr("weight"),
            tr("%1 t").arg(number(blocks::volumeOf(hull->build) * sheet.blocks.kilograms / 1000, 2)));
    const nlohmann::json *built = nullptr, *byHand = nullptr;
    for (const auto& outcome : state.evaluation.outcomes) {
        if (outcome.step == steps::BuildOfBlocks::info.id && outcome.facts.contains("strays"))
            built = &outcome.facts;
        if (outcome.step == steps::ByHand::info.id && outcome.facts.contains("idle")) byHand = &outcome.facts;
    }
    if (built) {
        row(tr("volume off"), tr("%1 %").arg(number(100 * built->value("volumeError", 0.0), 1)));
        const auto& largest = built->at("largest");
        row(tr("biggest difference"),
            tr("%1 blocks, %2 m")
                .arg(number(largest["blocks"].get<double>(), 1), number(largest["metres"].get<double>(), 2)));
        row(tr("without slopes"), number(built->value("withoutSlopes", 0.0)));
        row(tr("not hollow"), number(built->value("withoutHollow", 0.0)));
    }
    auto* head = headingLabel(tr("Counts"), 2);
    layout_->addWidget(head);
    auto* table = textLabel("<table cellspacing='3'>" + rows + "</table>");
    table->setObjectName("blockCounts");
    layout_->addWidget(table);
    const auto list = [&](const QString& title, const std::vector<std::pair<QString, glm::dvec3>>& places) {
        if (places.empty()) return;
        layout_->addWidget(headingLabel(title, 2));
        for (std::size_t i = 0; i < std::min(places.size(), mostListed); ++i) {
            auto* link = textLabel(QString("<a href='there'>%1</a>").arg(places[i].first));
            link->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
            link->setToolTip(tr("Show the place"));
            connect(link, &QLabel::linkActivated, this,
                    [this, place = places[i].second] { Q_EMIT placeAsked(place); });
            layout_->addWidget(link);
        }
        if (places.size() > mostListed)
            layout_->addWidget(textLabel(tr("and %n more", nullptr, int(places.size() - mostListed)), "dim"));
    };
    std::vector<std::pair<QString, glm::dvec3>> furthest, strays, idle;
    if (built && built->at("largest")["blocks"].get<double>() > 0)
        furthest.emplace_back(built->at("largest")["leftOut"].get<bool>()
                                  ? tr("a surface that no block is near to")
                                  : tr("a block that no surface is near to"),
                              placeOf(built->at("largest")["at"]));
    if (built)
        for (const auto& one : (*built)["strays"])
            strays.emplace_back(tr("%n blocks that held to nothing", nullptr, one["blocks"].get<int>()),
                                placeOf(one["at"]));
    if (byHand)
        for (const auto& one : (*byHand)["idle"])
            idle.emplace_back(tr("done by hand, and nothing to do any more"), placeOf(one));
    list(tr("Differs most"), furthest);
    list(tr("Left out"), strays);
    list(tr("Touches nothing"), idle);
}

} // namespace zl::app
