#pragma once
#include "app/session.h"
#include "app/view/model_view.h"

#include "core/geometry/heading.h"

#include <QObject>

namespace zl::app {

/// What the workbench's view shows of a crossing: the shape, the shape before it was reduced, the deviation
/// between the two, its front and a yardstick. All is made in the background and put into the view when it
/// is there and still wanted.
class WorkbenchScenes : public QObject {
    Q_OBJECT
public:
    WorkbenchScenes(Session& session, ModelView& view, QObject* parent);

    /// Turns to another crossing; what the view shows next is framed.
    void open(const QString& piece, const QString& platform);
    /// The crossing was checked anew.
    void refresh();
    /// Hands the shapes to the view again, after one of its modes changed.
    void show();
    void measureDeviation();
    /// The first yardstick that the recipe measures by, else the first there is.
    void showYardstick();
    bool isReady() const { return after_ != nullptr; }
    /// Shows another model in place of the crossing's, with the crossing's as the shape before; nothing goes
    /// back. `words` say what it is where both are compared.
    void showInstead(std::optional<Model> model, bool frame = false, const QString& words = {});

    /// Puts up the arrow that says where the front is known or guessed to point.
    void refreshFront();
    /// Parts that are not to be drawn for now.
    void setHidden(std::set<NodePath> hidden);
    /// The piece has another name now.
    void rename(const QString& piece) { piece_ = piece; }

Q_SIGNALS:
    void frontShown();
    void shapesShown();
    void stopped(); ///< the shapes are not being made any more, for somebody cancelled that

private:
    const Model& shown() const;
    /// The model without the parts that are hidden from view; node numbers stay.
    Model seen(Model model) const;
    void refreshShapes();
    void makeInstead();
    /// Puts both shapes into the view, framed anew where what is shown has changed its size or place by far.
    void put(std::shared_ptr<const Scene> after, std::shared_ptr<const Scene> before);
    void showFront(const std::optional<geometry::HeadingGuess>& guess);

    Session& session_;
    ModelView& view_;
    QString piece_, platform_;
    /// A scene with the model that it shows, whose signature is its key: while the model is held, no other
    /// has it.
    struct Known {
        Model model;
        std::shared_ptr<const Scene> scene;
    };
    std::map<Hash, Known> scenes_;
    struct KnownFront {
        Hash key = 0;
        Model model;
        std::optional<geometry::HeadingGuess> guess;
    } front_; ///< the last guess, with the model it was made for
    std::shared_ptr<const Scene> after_, before_;
    std::set<Hash> making_;
    bool frameNext_ = true;
    std::optional<Model> instead_;
    QString insteadWords_;
    std::set<NodePath> hidden_;
};

} // namespace zl::app
