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
    /// The yardstick that the recipe measures by, else the first.
    void showYardstick();
    bool isReady() const { return after_ != nullptr; }

private:
    void refreshShapes();
    void refreshFront();
    void showFront(const std::optional<geometry::HeadingGuess>& guess);

    Session& session_;
    ModelView& view_;
    QString piece_, platform_;
    std::map<Hash, std::shared_ptr<const Scene>> scenes_; ///< by what they are made of
    /// The last guess, with the model it was made for: while that is held, no other has its signature.
    struct KnownFront {
        Hash key = 0;
        Model model;
        std::optional<geometry::HeadingGuess> guess;
    } front_;
    std::shared_ptr<const Scene> after_, before_;
    std::set<Hash> making_;
    bool frameNext_ = true;
};

} // namespace zl::app
