#pragma once
#include "app/map/map_view.h"
#include "app/session.h"

#include <QFileSystemWatcher>
#include <QObject>

class QLabel;
class QToolButton;

namespace zl::app {

class ChoiceBox;
class FlowRow;

/// The map of a platform's world in place of the piece: reads the game's folder in the background and again
/// when it changes, shows where the piece is to stand, and makes what is done there the step Place on the
/// map. Says which number the piece has and whether anybody else has it.
class MapMode : public QObject {
    Q_OBJECT
public:
    MapMode(Session& session, MapView& view, QObject* parent);

    void open(const QString& piece, const QString& platform);
    void rename(const QString& piece) { piece_ = piece; }
    /// Whether the platform has a world that things are placed in.
    bool isThere() const;
    void setOn(bool on);
    bool isOn() const { return on_; }
    /// The crossing was worked out anew.
    void refresh(const std::shared_ptr<const Scene>& piece);
    bool isSettled() const { return !loading_; }

Q_SIGNALS:
    void turned(bool on);

private:
    QString game() const;
    void chooseGame();
    void load();
    void showPlaces();
    void showNumber();
    /// Who has the number in the game and is not the piece itself; null for nobody.
    const install::Definition* holderOf(int number) const;
    bool lacksNumber() const; ///< none that the game can have: none at all, or one that is taken there
    void takeAnotherNumber();
    /// Numbers that other pieces of the project have there, and whose each is.
    std::map<int, std::string> othersNumbers() const;
    void commit(int place, const MapPlace& to);
    void addPlace();
    void removePlace();
    /// Changes the rows of the step Place on the map, which is added where there is none yet.
    void editRows(const QString& what, const std::function<void(nlohmann::ordered_json&)>& change);

    Session& session_;
    MapView& view_;
    QString piece_, platform_;
    bool on_ = false, loading_ = false;
    int asked_ = 0;
    FlowRow *row_, *below_;
    std::map<QString, QToolButton*> buttons_;
    ChoiceBox* which_;
    QLabel* number_;
    QFileSystemWatcher watch_;
};

} // namespace zl::app
