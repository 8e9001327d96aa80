#include "app/sheets/files_preview.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_standing.h"

#include "core/project/dependencies.h"

namespace zl::app {

FilesPreview::FilesPreview(Session& session, QObject* parent) : QObject(parent), session_(session) {}

const deliver::SectionFiles* FilesPreview::section(Section kind, std::size_t index) const {
    for (const auto& one : sections_)
        if (one.section == kind && one.index == index) return &one;
    return nullptr;
}

void FilesPreview::ask(const SheetPointer& sheet, const std::string& piece, const std::string& as) {
    if (working_) working_->cancel();
    problem_.clear();
    const auto* own = session_.project().piece(piece);
    auto shown = own ? pieceAsOn(session_, *own, as) : std::nullopt;
    if (!shown) {
        sections_.clear();
        problem_ = session_.project().pieces.empty()
                       ? tr("Bring a piece into the project to see its files here.")
                       : tr("The piece is not worked out yet.");
        Q_EMIT changed();
        return;
    }
    auto labels = project::labelsFor(session_.project(), *own, sheet->id);
    labels.sizes = shown->sizes;
    nlohmann::json params = nlohmann::json::object();
    if (own->on(as)) params = deliveryFor(*own, as);
    working_ = session_.jobs().start<std::vector<deliver::SectionFiles>>(
        tr("Working out the files of %1").arg(qs(piece)), this,
        [sheet, labels, params, model = std::move(shown->model)](const Progress& progress) {
            deliver::OwnFiles files;
            files.forSheet(*sheet);
            try {
                files.setParams(params);
            } catch (const Error&) {
                // The sheet that is being changed asks other questions by now: its first answers are shown.
            }
            return files.preview(model, *sheet, labels, progress);
        },
        [this](std::vector<deliver::SectionFiles> sections) {
            working_ = nullptr;
            sections_ = std::move(sections);
            Q_EMIT changed();
        },
        [this](const QString& problem) {
            working_ = nullptr;
            sections_.clear(), problem_ = problem;
            Q_EMIT changed();
        },
        Urgency::Shown);
}

} // namespace zl::app
