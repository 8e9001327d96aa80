#include "app/sheets/sheet_standing.h"

#include "app/qt_text.h"

namespace zl::app {

SheetStanding::SheetStanding(Session& session, QObject* parent) : QObject(parent), session_(session) {}

const SheetStanding::Rule* SheetStanding::rule(const std::string& id) const {
    const auto found = rules_.find(id);
    return found == rules_.end() ? nullptr : &found->second;
}

std::optional<PieceAsOn> pieceAsOn(const Session& session, const project::Piece& piece,
                                   const std::string& platform) {
    const CrossingState* best = nullptr;
    if (piece.on(platform)) best = &session.state(piece.name, platform);
    // Without a crossing of its own: as another platform's has its source.
    for (const auto& crossing : piece.crossings)
        if (!best || best->source.nodes.empty()) best = &session.state(piece.name, crossing.platform);
    if (!best || best->source.nodes.empty()) return std::nullopt;
    const bool own = piece.on(platform) && best->kind == CrossingState::Kind::Ready;
    return PieceAsOn{own ? best->evaluation.model : best->source, own ? best->sizes() : Sizes{}};
}

void SheetStanding::ask(const SheetPointer& sheet, const std::string& as) {
    if (working_) working_->cancel();
    struct Piece : PieceAsOn {
        std::string name;
    };
    auto pieces = std::make_shared<std::vector<Piece>>();
    for (const auto& piece : session_.project().pieces)
        if (auto one = pieceAsOn(session_, piece, as)) pieces->push_back({std::move(*one), piece.name});
    working_ = session_.jobs().start<Found>(
        tr("Seeing how pieces stand"), this,
        [pieces, sheet](const Progress& progress) {
            Found out;
            for (const Piece& piece : *pieces) {
                progress.checkCancel();
                const auto report =
                    platform::check(piece.model, platform::asFor(piece.model, *sheet), progress, piece.sizes);
                out.fits[piece.name] = report.fits();
                for (const auto& rule : report.rules) {
                    Rule& own = out.rules[rule.id];
                    ++own.all, own.holds += rule.finding.holds;
                    if (!rule.finding.holds)
                        own.breaking << QString("%1: %2").arg(qs(piece.name), qs(rule.finding.note));
                }
            }
            return out;
        },
        [this](const Found& found) {
            working_ = nullptr;
            rules_ = found.rules, fits_ = found.fits;
            Q_EMIT changed();
        },
        [this](const QString& problem) {
            working_ = nullptr;
            Q_EMIT session_.said(problem);
        },
        Urgency::Chosen);
}

} // namespace zl::app
