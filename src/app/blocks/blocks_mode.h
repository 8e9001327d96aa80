#pragma once
#include "app/blocks/blocks_tool.h"
#include "app/pages/workbench_scenes.h"

#include "core/project/blocks_document.h"

class QLabel;
class QSlider;
class QToolButton;

namespace zl::app {

class ChoiceBox;
class FlowRow;

/// Blocks edited in the workbench's view, where the piece is a build of them: what the hand does, of which
/// kind and paint, on both sides at once, and down to which layer the build is seen. What is done goes into
/// the step "By hand" and its document beside the project.
class BlocksMode : public QObject {
    Q_OBJECT
public:
    using MakeSwitch = std::function<QToolButton*(const QString& name, const QString& text,
                                                  const QString& tip, bool on, std::function<void(bool)>)>;
    /// Puts its switches into `row`, each made by `make`.
    BlocksMode(Session& session, ModelView& view, WorkbenchScenes& scenes, FlowRow& row,
               const MakeSwitch& make, QObject* parent);

    /// The crossing was worked out anew, or another stage shown. `here`: shapes are worked on now.
    void refresh(const QString& piece, const QString& platform, bool here);

private:
    void take(BlocksTool::Does does, bool on);
    void showTools();
    void clicked(glm::ivec3 cell, int side, const glm::dvec3& toEye);
    bool keyed(const QKeyEvent& event);
    /// Everything done at once, as one step of undo.
    void apply(const QString& what, project::InCells cells, const QString& mergeKey = {});
    /// Puts them, and chooses them in place of what was chosen.
    void putChosen(project::InCells& cells, const blocks::Chunk& chunk);
    /// The chosen blocks, taken away where they were and put anew.
    void replace(const QString& what, const std::function<blocks::Chunk(blocks::Chunk)>& change);
    void copy(), cut(), paste(), remove();
    void showLayers();
    const blocks::Hull* hull() const;
    blocks::Chunk chosen() const;
    /// The document's file, begun with its step where there is none yet; empty where that cannot be.
    std::filesystem::path document();

    Session& session_;
    ModelView& view_;
    WorkbenchScenes& scenes_;
    BlocksTool tool_;
    QString piece_, platform_;
    bool here_ = false;
    int cutAt_ = 0; ///< layers that are seen; 0 for all
    /// What the view shows cut away: of which build, and where; nothing where it shows the whole.
    struct Cut {
        std::shared_ptr<const Mesh> of;
        int at = 0;
        bool operator==(const Cut&) const = default;
    } shownCut_;
    std::map<BlocksTool::Does, QToolButton*> does_;
    QToolButton* mirrored_;
    ChoiceBox *kinds_, *paints_;
    QWidget* layers_;
    QLabel* layer_;
    QSlider* slider_;
    std::vector<QWidget*> forChosen_;
    std::vector<blocks::Paint> paintsShown_;
    blocks::Chunk clipboard_;
};

} // namespace zl::app
