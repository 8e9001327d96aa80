#include "app/fields/editors.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

selection::Selection withTerms(selection::Selection a, const selection::Selection& b, bool takesAway) {
    for (selection::Term term : b.terms) {
        if (takesAway) term.takesAway = !term.takesAway;
        a.terms.push_back(std::move(term));
    }
    return a;
}

} // namespace

/// Says in words what is chosen; takes what is selected in the view, or a selection that the piece keeps.
QWidget* makeSelectionEditor(const fields::Field& field, const nlohmann::json& value,
                             const EditingPlace& place, const ValueChanged& changed) {
    const auto now = selection::fromJson(value);
    auto* all = new QWidget;
    auto* layout = new QVBoxLayout(all);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(5);
    auto* words = textLabel(now.empty() && !field.leastMeans.empty() ? qs(field.leastMeans)
                                                                     : qs(selection::inWords(now)));
    words->setObjectName("selectionWords");
    layout->addWidget(words);
    const auto give = [changed](const selection::Selection& s) { changed(selection::toJson(s)); };
    auto* take = button(QObject::tr("Take what is selected"), "dashed", "scan-search");
    take->setObjectName("takeSelected");
    take->setToolTip(QObject::tr("What is selected in the view takes the place of this"));
    take->setEnabled(bool(place.selected));
    QObject::connect(take, &QPushButton::clicked, all, [place, give] {
        if (const auto chosen = place.selected(); !chosen.empty()) give(chosen);
    });
    layout->addWidget(take);
    auto* more = button(QObject::tr("Change it…"), "dashed");
    more->setObjectName("changeSelection");
    auto* menu = new QMenu(more);
    menu->addAction(QObject::tr("Add what is selected"), all, [place, give, now] {
        if (place.selected) give(withTerms(now, place.selected(), false));
    });
    menu->addAction(QObject::tr("Take away what is selected"), all, [place, give, now] {
        if (place.selected) give(withTerms(now, place.selected(), true));
    });
    menu->addAction(QObject::tr("Choose nothing"), all, [give] { give({}); });
    const auto* piece = place.project ? place.project->piece(place.piece) : nullptr;
    if (piece && !piece->selections.empty()) {
        menu->addSeparator();
        for (const auto& kept : piece->selections)
            menu->addAction(QObject::tr("Use \"%1\"").arg(qs(kept.name)), all, [give, name = kept.name] {
                give({{{selection::OfNamed{name}, false}}});
            });
    }
    QObject::connect(more, &QPushButton::clicked, menu,
                     [more, menu] { menu->popup(more->mapToGlobal(QPoint(0, more->height()))); });
    layout->addWidget(more);
    return all;
}

} // namespace zl::app
