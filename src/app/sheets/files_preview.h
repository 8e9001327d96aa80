#pragma once
#include "app/session.h"

#include "core/deliver/own_files.h"

namespace zl::app {

/// What a sheet that is being changed would write for one of the project's pieces, section by section; worked
/// out beside the window, the latest sheet alone.
class FilesPreview : public QObject {
    Q_OBJECT
public:
    using Section = deliver::SectionFiles::Section;

    explicit FilesPreview(Session& session, QObject* parent = nullptr);

    /// `as`: the platform on which the piece is taken as it comes out.
    void ask(const SheetPointer& sheet, const std::string& piece, const std::string& as);
    /// Null where nothing is known yet.
    const deliver::SectionFiles* section(Section kind, std::size_t index) const;
    /// Why nothing is known; empty where something is, or is being worked out.
    const QString& problem() const { return problem_; }
    bool isSettled() const { return !working_; }

Q_SIGNALS:
    void changed();

private:
    Session& session_;
    QPointer<Job> working_;
    std::vector<deliver::SectionFiles> sections_;
    QString problem_;
};

} // namespace zl::app
