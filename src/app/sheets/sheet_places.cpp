#include "app/sheets/sheet_places.h"

#include "app/qt_text.h"

#include "core/base/data_folder.h"
#include "core/base/units.h"
#include "core/deliver/deliver.h"
#include "standins/stand_in.h"

#include <QSettings>

namespace zl::app {

namespace {

bool liesIn(const std::filesystem::path& file, const std::filesystem::path& folder) {
    if (folder.empty()) return false;
    const auto relative = file.lexically_normal().lexically_relative(folder.lexically_normal());
    return !relative.empty() && *relative.begin() != "..";
}

} // namespace

platform::Vocabulary sheetWords() {
    return deliver::sheetWords(standins::standInIds());
}

SheetOwner ownerOf(const platform::Sheet& sheet, const Session& session) {
    const auto folder = session.project().file.empty() ? std::filesystem::path() : session.project().folder();
    if (!folder.empty() && liesIn(sheet.file, folder / "platforms")) return SheetOwner::Project;
    if (const auto own = dataFolder(); !own.empty() && liesIn(sheet.file, own / "platforms"))
        return SheetOwner::Yours;
    return SheetOwner::Ships;
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
    if (!session.project().file.empty()) return session.project().folder() / "platforms";
    return dataFolder() / "platforms";
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
