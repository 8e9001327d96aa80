#include "app/solids/parts_to_solids.h"

#include "app/qt_text.h"
#include "app/solids/recognised_dialog.h"
#include "app/widgets/flow_row.h"

#include "core/platform/check.h"
#include "core/project/solids_document.h"

#include <QToolButton>

namespace zl::app {

PartsToSolids::PartsToSolids(Session& session, FlowRow& row, QWidget* parent)
    : QObject(parent), session_(session), over_(parent) {
    button_ =
        row.addButton("solids-from-parts", tr("Solids from its parts"),
                      tr("A scene of the boxes, cylinders and balls that its loose parts come nearest to"));
    connect(button_, &QToolButton::clicked, this, &PartsToSolids::look);
    button_->hide();
}

void PartsToSolids::refresh(const QString& piece, const QString& platform, bool here) {
    piece_ = piece, platform_ = platform;
    const SheetPointer sheet = session_.sheet(platform.toStdString());
    const Model& source = session_.state(piece.toStdString(), platform.toStdString()).source;
    button_->setVisible(here && sheet && platform::takesScenes(*sheet) && !source.solids &&
                        !source.meshes.empty());
}

void PartsToSolids::look() {
    const QString piece = piece_;
    session_.jobs().start<std::vector<solids::Recognised>>(
        tr("Looking for solids in %1").arg(piece), this,
        [model = session_.state(piece_.toStdString(), platform_.toStdString()).source](
            const Progress& progress) { return solids::recognisedIn(model, progress); },
        [this, piece](std::vector<solids::Recognised> found) {
            auto* dialog = new RecognisedDialog(piece, std::move(found), over_);
            connect(dialog, &RecognisedDialog::taken, this,
                    [this, piece](const std::vector<solids::Recognised>& parts) { take(piece, parts); });
            dialog->open();
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

void PartsToSolids::take(const QString& piece, const std::vector<solids::Recognised>& parts) {
    auto document = std::make_unique<project::SolidsDocument>();
    document->scene = solids::sceneOf(parts);
    const project::Piece* of = session_.project().piece(piece.toStdString());
    const project::Source like = of && !of->sources.empty() ? of->sources[0] : project::Source{};
    try {
        Q_EMIT made(qs(session_.addDocument(project::solidsKind, tr("%1 of solids").arg(piece),
                                            std::move(document), of ? &like : nullptr)));
    } catch (const Error& error) {
        Q_EMIT session_.said(qs(error.whole()));
    }
}

} // namespace zl::app
