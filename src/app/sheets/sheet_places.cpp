#include "app/sheets/sheet_places.h"

#include "app/qt_text.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/deliver/deliver.h"
#include "standins/stand_in.h"

#include <QSettings>

namespace zl::app {

namespace {

/// Of the project, where it has a file.
std::filesystem::path projectFolder(const Session& session) {
    return session.project().file.empty() ? std::filesystem::path() : session.project().folder();
}

} // namespace

platform::Vocabulary sheetWords() {
    return deliver::sheetWords(standins::standInIds());
}

SheetOwner ownerOf(const platform::Sheet& sheet, const Session& session) {
    return platform::ownerOf(sheet, projectFolder(session));
}

QString ownerWords(SheetOwner owner) {
    switch (owner) {
    case SheetOwner::Project:
        return QObject::tr("of this project");
    case SheetOwner::Yours:
        return QObject::tr("yours");
    default:
        return QObject::tr("ships with the program");
    }
}

std::filesystem::path newSheetFolder(const Session& session) {
    return platform::newSheetFolder(projectFolder(session));
}

bool changeSheet(Session& session, const platform::Sheet& sheet,
                 const std::function<void(platform::SheetText&)>& change) {
    try {
        const bool ships = ownerOf(sheet, session) == SheetOwner::Ships;
        platform::changeSheet(sheet, projectFolder(session), change, sheetWords());
        session.reloadSheets();
        if (ships)
            Q_EMIT session.said(
                QObject::tr("%1 ships with the program: a copy of your own takes its place from now on")
                    .arg(qs(sheet.name)));
        return true;
    } catch (const std::exception& problem) {
        Q_EMIT session.said(qs(wordsOf(problem)));
        return false;
    }
}

std::string newSheetId(const QString& name, const Session& session) {
    std::string id = fileNameFrom(name.toStdString());
    std::ranges::replace(id, '_', '-');
    std::string free = id;
    for (int n = 2; session.sheet(free); ++n) free = id + "-" + std::to_string(n);
    return free;
}

QString examplesOf(const std::string& sheet) {
    return QSettings().value("examples/" + qs(sheet)).toString();
}
void rememberExamples(const std::string& sheet, const QString& folder) {
    QSettings().setValue("examples/" + qs(sheet), folder);
}

QStringList knownFrom(const platform::Sheet& sheet, const std::string& rule) {
    QStringList out;
    if (const auto* known = sheet.evidenceOf(rule)) {
        QStringList names;
        for (const std::string& name : known->names) names << qs(name);
        out << QObject::tr("How it is known: %1").arg(qs(known->said)) +
                   (names.isEmpty() ? QString()
                                    : QObject::tr(" (such as %1)").arg(names.mid(0, 3).join(", ")));
    }
    for (const auto& answer : sheet.answers)
        if (answer.limit == rule)
            out << QObject::tr("How it is known: the game refused %1 on %2")
                           .arg(qs(answer.piece), qs(answer.when)) +
                       (answer.because.empty() ? QString() : ": " + qs(answer.because));
    return out;
}

QString fittingWords(const Session& session, const std::string& sheet) {
    int all = 0, fits = 0;
    for (const auto& piece : session.project().pieces) {
        if (!piece.on(sheet)) continue;
        const auto& state = session.state(piece.name, sheet);
        if (state.kind != CrossingState::Kind::Ready) continue;
        ++all, fits += state.report.fits();
    }
    return all == 0 ? QString()
                    : QObject::tr("%1 of %2 fit").arg(fits).arg(qs(showCount(all, "piece", "pieces")));
}

} // namespace zl::app
