#pragma once
#include "app/surface/layout_card.h"
#include "app/surface/materials_panel.h"
#include "app/surface/surface_view.h"
#include "app/view/model_view.h"

namespace zl::app {

/// The Surface stage's sights: keeps materials, pictures and layouts in step with the piece, and what is
/// pointed at in one marked in the other. All is made beside the window's thread.
class SurfaceMode : public QObject {
    Q_OBJECT
public:
    struct Parts {
        ModelView& model;
        SurfaceView& view;
        SurfaceSwitch& onModel; ///< the same buttons on the model's row
        MaterialsPanel& materials;
        LayoutCard& layout;
        Selected& selected;
    };
    SurfaceMode(Session& session, const Parts& parts, QObject* parent);

    void open(const QString& piece, const QString& platform);
    /// The piece has another name now.
    void rename(const QString& piece) { piece_ = piece; }
    /// Whether the stage is Surface and nothing else has the side.
    void setOn(bool on);
    /// The crossing was checked anew.
    void refresh();
    void show(SurfaceSight sight);
    SurfaceSight sight() const { return on_ ? sight_ : SurfaceSight::Model; }
    void showPicture(const ChosenPicture& picture);
    std::shared_ptr<const SurfaceLook> look() const { return look_; }
    bool isSettled() const { return !working_ && !reading_; }
    /// What the layout is saved as is asked for; does nothing without a layout.
    void saveLayout(const QString& file);

private:
    const MaterialLook* material() const;
    void take(std::shared_ptr<const SurfaceLook> look);
    void openFirstPictures();
    /// Brings the other side of the wipe to one that goes with what was chosen.
    void matchOther(bool delivered);
    void showSight();
    void showLayout();
    void readPictures();
    void showLevels();
    void followSelection();
    void pointAtModel(std::optional<QPointF> uv);
    void pointAtPicture(const std::optional<Pick>& pick);
    void selectPartAt(const QPointF& uv);

    Session& session_;
    Parts parts_;
    QString piece_, platform_;
    QString waiting_; ///< what is said while there is nothing to see
    bool on_ = false, working_ = false, reading_ = false, again_ = false;
    SurfaceSight sight_ = SurfaceSight::Model;
    std::shared_ptr<const SurfaceLook> look_;
    std::optional<std::size_t> source_, delivered_; ///< pictures of the open material that are looked at
    struct Levels {
        std::shared_ptr<const PictureLevels> source, delivered;
        QString problem;
    } levels_;
    ChosenPicture chosen_;
};

} // namespace zl::app
