#pragma once
#include "app/session.h"

namespace zl::app {

/// A piece as it comes out on a platform, or as its file has it where it has no crossing there; nothing where
/// that is not known yet.
struct PieceAsOn {
    Model model;
    Sizes sizes;
};
std::optional<PieceAsOn> pieceAsOn(const Session& session, const project::Piece& piece,
                                   const std::string& platform);

/// How the project's pieces stand by a sheet that is being changed, rule by rule; worked out beside the
/// window, the latest sheet alone.
class SheetStanding : public QObject {
    Q_OBJECT
public:
    explicit SheetStanding(Session& session, QObject* parent = nullptr);

    /// Pieces as they come out on the platform `as`, or as their files have them where they have no crossing
    /// there.
    void ask(const SheetPointer& sheet, const std::string& as);

    struct Rule {
        int holds = 0, all = 0;
        QStringList breaking; ///< pieces, and what was found of each
    };
    /// Nothing where nothing is known yet.
    const Rule* rule(const std::string& id) const;
    /// Whether each piece fits, by name.
    const std::map<std::string, bool>& fits() const { return fits_; }
    int fitting() const {
        return int(std::ranges::count(fits_, true, [](const auto& one) { return one.second; }));
    }
    bool isSettled() const { return !working_; }

Q_SIGNALS:
    void changed();

private:
    struct Found {
        std::map<std::string, Rule> rules;
        std::map<std::string, bool> fits;
    };
    Session& session_;
    QPointer<Job> working_;
    std::map<std::string, Rule> rules_;
    std::map<std::string, bool> fits_;
};

} // namespace zl::app
