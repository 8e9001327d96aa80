#include "app/map/map_mode.h"

#include "app/fields/choice_box.h"
#include "app/game_folder.h"
#include "app/qt_text.h"
#include "app/widgets/flow_row.h"
#include "app/widgets/ui.h"

#include "core/base/file_set.h"
#include "core/base/units.h"
#include "core/project/numbers.h"
#include "core/steps/number.h"
#include "core/steps/place_on_map.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include <algorithm>

namespace zl::app {

namespace {

constexpr std::string_view placeStep = steps::PlaceOnMap::info.id, numberStep = steps::Number::info.id;

nlohmann::json rowOf(const MapPlace& place, const platform::Sheet& sheet) {
    const glm::dvec3 at(glm::inverse(steps::fromMap(&sheet)) * glm::dvec4(place.at, 1));
    const glm::dvec3 angles = glm::degrees(steps::anglesOnMap(place.turn));
    const auto tidy = [](double v, double step) { return std::round(v / step) * step + 0.0; };
    return {{"at", {tidy(at.x, 0.001), tidy(at.y, 0.001), tidy(at.z, 0.001)}},
            {"turn", tidy(angles.x, 0.01)},
            {"nod", tidy(angles.y, 0.01)},
            {"lean", tidy(angles.z, 0.01)},
            {"district", place.district}};
}

} // namespace

MapMode::MapMode(Session& session, MapView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {
    row_ = new FlowRow(&view_);
    below_ = new FlowRow(&view_, Qt::BottomEdge);
    const auto add = [&](FlowRow* row, const char* name, const QString& text, const QString& tip,
                         bool checkable, bool on) {
        auto* made = new QToolButton;
        made->setObjectName(QString("mode-") + name);
        made->setText(text);
        made->setToolTip(tip);
        made->setCheckable(checkable);
        made->setChecked(on);
        made->setProperty("mode", true);
        made->setFocusPolicy(Qt::StrongFocus);
        row->add(made);
        buttons_[name] = made;
        return made;
    };
    const auto toggle = [&](const char* name, const QString& text, const QString& tip,
                            bool MapView::*member) {
        connect(add(row_, name, text, tip, true, view_.*member), &QToolButton::toggled, this,
                [this, member](bool on) {
                    view_.*member = on;
                    view_.lookAgain();
                });
    };
    connect(add(row_, "map-piece", tr("Piece"), tr("Back to the piece"), false, false), &QToolButton::clicked,
            this, [this] { setOn(false); });
    toggle("map-others", tr("Others in grey"), tr("What others have in the world"), &MapView::others);
    toggle("map-districts", tr("Districts"), tr("Their bounds and names"), &MapView::districts);
    toggle("map-figure", tr("Figure"), tr("A figure of the platform's height beside it"), &MapView::figure);
    toggle("map-stand", tr("Stand on what is below"), tr("What is moved goes up and down with the ground"),
           &MapView::standsOnBelow);
    which_ = new ChoiceBox;
    which_->setObjectName("map-which");
    which_->setAccessibleName(tr("Which of its places"));
    connect(which_, &QComboBox::activated, this, [this](int index) {
        view_.setPlaces(view_.places(), index);
        view_.frameChosen();
    });
    row_->addGap();
    row_->add(which_);
    connect(add(row_, "map-add", tr("Another place"), tr("It stands there, too: beside the one in hand"),
                false, false),
            &QToolButton::clicked, this, &MapMode::addPlace);
    connect(add(row_, "map-remove", tr("Take this place out"), tr("The piece stands there no more"), false,
                false),
            &QToolButton::clicked, this, &MapMode::removePlace);
    auto* plate = new QWidget;
    plate->setObjectName("mode-plate");
    plate->setAttribute(Qt::WA_StyledBackground);
    auto* line = new QHBoxLayout(plate);
    line->setContentsMargins(10, 0, 10, 0);
    number_ = textLabel({}, "dim");
    number_->setObjectName("map-number-words");
    number_->setWordWrap(false);
    line->addWidget(number_);
    below_->add(plate);
    connect(add(below_, "map-number", tr("Another number"), tr("The first that nobody has"), false, false),
            &QToolButton::clicked, this, &MapMode::takeAnotherNumber);
    below_->addGap();
    connect(add(below_, "map-above", tr("From above"), tr("Look down on it"), false, false),
            &QToolButton::clicked, &view_, &MapView::lookFromAbove);
    connect(add(below_, "map-whole", tr("To the piece"), tr("Bring it into sight (F)"), false, false),
            &QToolButton::clicked, &view_, &MapView::frameChosen);
    connect(add(below_, "map-folder", tr("The game's folder…"), tr("Whose world it is"), false, false),
            &QToolButton::clicked, this, &MapMode::chooseGame);
    connect(&view_, &MapView::changed, this, &MapMode::commit);
    connect(&view_, &MapView::chose, this, [this](int place) { which_->setCurrentIndex(place); });
    connect(&view_, &MapView::viewFailed, &session_, &Session::said);
    connect(&watch_, &QFileSystemWatcher::directoryChanged, this, [this] {
        if (on_) load();
    });
    view_.hide();
}

QString MapMode::game() const {
    return gameFolder(session_, platform_.toStdString());
}

bool MapMode::isThere() const {
    const auto sheet = session_.sheet(platform_.toStdString());
    return sheet && !sheet->rulesOf("placed").empty();
}

void MapMode::open(const QString& piece, const QString& platform) {
    if (platform != platform_) view_.setWorld(nullptr);
    piece_ = piece, platform_ = platform;
    view_.setSheet(session_.sheet(platform.toStdString()));
    view_.setPiece(nullptr);
    if (!isThere()) setOn(false);
}

void MapMode::setOn(bool on) {
    on = on && isThere();
    const bool was = std::exchange(on_, on);
    view_.setVisible(on);
    if (on == was) return;
    if (on) load();
    Q_EMIT turned(on);
}

void MapMode::chooseGame() {
    const QString chosen = QFileDialog::getExistingDirectory(&view_, tr("The game's folder"), game());
    if (chosen.isEmpty()) return;
    setGameFolder(platform_.toStdString(), chosen);
    view_.setWorld(nullptr);
    load();
}

void MapMode::load() {
    if (!watch_.directories().isEmpty()) watch_.removePaths(watch_.directories());
    if (game().isEmpty()) {
        view_.setMessage(
            tr("Show where the game is, and its world is here: what others have in it, its districts, "
               "and the numbers that are taken."));
        return showPlaces();
    }
    watch_.addPath(game());
    const auto sheet = session_.sheet(platform_.toStdString());
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    std::optional<glm::dvec3> around;
    if (state.evaluation.model.onMap && !state.evaluation.model.onMap->places.empty())
        around = state.evaluation.model.onMap->places[0].at;
    const int asked = ++asked_;
    loading_ = true;
    if (!view_.world()) view_.setMessage(tr("Reading the game's world…"));
    session_.jobs().start<std::shared_ptr<const MapWorld>>(
        tr("Reading the world of %1").arg(qs(sheet->name)), this,
        [folder = std::filesystem::path(game().toStdString()), sheet, around,
         own = fileNameFrom(piece_.toStdString())](const Progress& progress) {
            return makeMapWorld(folder, *sheet, own, around, progress);
        },
        [this, asked](std::shared_ptr<const MapWorld> world) {
            if (asked != asked_) return;
            loading_ = false;
            view_.setMessage({});
            for (const std::string& problem : world->city.problems)
                Q_EMIT session_.said(tr("The game's folder: %1").arg(qs(problem)));
            view_.setWorld(std::move(world));
            showPlaces();
        },
        [this, asked](const QString& problem) {
            if (asked != asked_) return;
            loading_ = false;
            view_.setWorld(nullptr);
            view_.setMessage(problem);
        },
        Urgency::Shown, [this] { loading_ = false; });
}

void MapMode::refresh(const std::shared_ptr<const Scene>& piece) {
    if (!isThere()) return;
    view_.setPiece(piece);
    showPlaces();
}

void MapMode::showPlaces() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto& onMap = state.evaluation.model.onMap;
    const auto places = onMap ? onMap->places : std::vector<MapPlace>();
    view_.setPlaces(places, std::max(0, view_.chosen()));
    which_->clear();
    for (std::size_t i = 0; i < places.size(); ++i)
        which_->addItem(tr("Place %1 of %2").arg(i + 1).arg(places.size()));
    which_->setCurrentIndex(view_.chosen());
    which_->setVisible(places.size() > 1);
    buttons_["map-add"]->setVisible(!places.empty() && view_.world());
    buttons_["map-remove"]->setVisible(!places.empty() && view_.world());
    for (const char* name :
         {"map-others", "map-districts", "map-figure", "map-stand", "map-above", "map-whole"})
        buttons_[name]->setVisible(view_.world() != nullptr);
    showNumber();
}

std::map<int, std::string> MapMode::othersNumbers() const {
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    return piece && sheet ? project::numbersOfOthers(session_.project(), *piece, *sheet)
                          : std::map<int, std::string>();
}

void MapMode::showNumber() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto& onMap = state.evaluation.model.onMap;
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto asked = piece ? project::numberAskedFor(*piece, platform_.toStdString()) : std::nullopt;
    const int number = asked && *asked > 0 ? *asked : onMap ? onMap->number : 0;
    const auto world = view_.world();
    const install::Definition* taken = holderOf(number);
    const auto others = othersNumbers();
    QString words = tr("no number yet");
    bool fine = false;
    const QString shown = qs(zl::showNumber(number, 0));
    if (number > 0 && taken)
        words = tr("number %1 is that of %2").arg(shown, qs(taken->name));
    else if (number > 0 && others.contains(number))
        words = tr("number %1 is also that of %2").arg(shown, qs(others.at(number)));
    else if (number > 0)
        fine = true,
        words = world ? tr("number %1 is free; %2 are taken").arg(shown).arg(world->city.definitions.size())
                      : tr("number %1").arg(shown);
    number_->setText(words);
    restyle(number_, "tone", fine ? "dim" : "bad");
    number_->parentWidget()->adjustSize();
    buttons_["map-number"]->setVisible(world != nullptr);
    buttons_["map-number"]->setText(number == 0 ? tr("Take a number") : tr("Another number"));
}

const install::Definition* MapMode::holderOf(int number) const {
    if (!view_.world()) return nullptr;
    const auto& all = view_.world()->city.definitions;
    const std::string own = fileNameFrom(piece_.toStdString());
    const auto found = std::ranges::find_if(
        all, [&](const install::Definition& one) { return one.number == number && one.name != own; });
    return found == all.end() ? nullptr : &*found;
}

bool MapMode::lacksNumber() const {
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece || !view_.world() || project::numberAskedFor(*piece, platform_.toStdString()).value_or(0) > 0)
        return false;
    const auto& onMap = session_.state(piece_.toStdString(), platform_.toStdString()).evaluation.model.onMap;
    return !onMap || onMap->number == 0 || holderOf(onMap->number);
}

void MapMode::takeAnotherNumber() {
    const auto sheet = session_.sheet(platform_.toStdString());
    const auto world = view_.world();
    if (!sheet || !world) return;
    const auto [least, most] = steps::Number::range(sheet.get());
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const int now = state.evaluation.model.onMap ? state.evaluation.model.onMap->number : 0;
    std::vector<int> others{now};
    for (const auto& [number, piece] : othersNumbers()) others.push_back(number);
    int free = now >= least && now < most ? world->city.freeNumber(now + 1, most, others) : 0;
    if (free == 0) free = world->city.freeNumber(least, most, others);
    if (free == 0)
        return Q_EMIT session_.said(tr("Every number from %1 to %2 is taken.").arg(least).arg(most));
    session_.editCrossing(
        tr("number %1 for %2").arg(free).arg(piece_), piece_, platform_, [&](project::Crossing& crossing) {
            const int at = recipe::lastOf(crossing.recipe, numberStep);
            if (at >= 0)
                crossing.recipe[std::size_t(at)].params["number"] = free;
            else
                recipe::insertInOrder(crossing.recipe, {std::string(numberStep), true, {{"number", free}}});
        });
}

void MapMode::editRows(const QString& what, const std::function<void(nlohmann::ordered_json&)>& change) {
    const auto edit = [&](recipe::Recipe& recipe) {
        int at = recipe::lastOf(recipe, placeStep);
        if (at < 0) {
            at = int(recipe::insertInOrder(
                recipe, {std::string(placeStep), true, {{"places", nlohmann::ordered_json::array()}}}));
        }
        auto& rows = recipe[std::size_t(at)].params["places"];
        if (!rows.is_array()) rows = nlohmann::ordered_json::array();
        change(rows);
    };
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    const auto* crossing = piece->on(platform_.toStdString());
    if ((!crossing || recipe::lastOf(crossing->recipe, placeStep) < 0) &&
        recipe::lastOf(piece->recipe, placeStep) >= 0)
        session_.editPiece(what, piece_, [&](project::Piece& of) { edit(of.recipe); });
    else
        session_.editCrossing(what, piece_, platform_, [&](project::Crossing& of) { edit(of.recipe); });
}

void MapMode::commit(int place, const MapPlace& to) {
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!sheet) return;
    MapPlace kept = to;
    kept.district.clear(); // where it stands says it
    const QString what = tr("place %1 on the map").arg(piece_);
    const bool withNumber = lacksNumber(); // nothing stands in the world without one
    if (withNumber) session_.undo().beginMacro(what);
    editRows(what, [&](nlohmann::ordered_json& rows) {
        const nlohmann::ordered_json row = rowOf(kept, *sheet);
        if (std::size_t(place) < rows.size())
            rows[std::size_t(place)] = row;
        else
            rows.push_back(row);
    });
    if (withNumber) {
        takeAnotherNumber();
        session_.undo().endMacro();
    }
}

void MapMode::addPlace() {
    if (view_.chosen() < 0) return;
    MapPlace next = view_.places()[std::size_t(view_.chosen())];
    next.at += glm::dvec3(3, 0, 0);
    auto places = view_.places();
    places.push_back(next);
    const int index = int(places.size()) - 1;
    view_.setPlaces(places, index);
    commit(index, next);
}

void MapMode::removePlace() {
    const int place = view_.chosen();
    if (place < 0) return;
    editRows(tr("take a place of %1 out").arg(piece_), [&](nlohmann::ordered_json& rows) {
        if (std::size_t(place) < rows.size()) rows.erase(std::size_t(place));
    });
}

} // namespace zl::app
