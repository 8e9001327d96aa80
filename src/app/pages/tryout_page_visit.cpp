// Looking at what stands on a server, by logging in to it.
#include "app/pages/tryout_page.h"

#include "app/pages/visit_dialog.h"
#include "app/qt_text.h"

#include "core/upload/keyring.h"
#include "standins/world/arena.h"

namespace zl::app {

void TryoutPage::askForVisit() {
    QStringList places, words;
    for (const QString& place : qs(std::string(standins::standInNamed(standIn_)->places)).split(' '))
        places << place, words << tr("%1 region").arg(place);
    auto* dialog = new VisitDialog(words, this);
    connect(dialog, &VisitDialog::asked, this,
            [this, places](const QString& server, const QString& user,
                           const std::shared_ptr<upload::Secret>& password, bool keeps,
                           int place) { visit(server, user, password, keeps, places[place]); });
    dialog->open();
}

void TryoutPage::visit(const QString& server, const QString& user,
                       const std::shared_ptr<upload::Secret>& password, bool keeps, const QString& place) {
    const auto* standIn = standins::standInNamed(standIn_);
    visited_ = server + "/" + place;
    announce(tr("Logging in to %1…").arg(server));
    session_.jobs().start<Loaded>(
        tr("Looking at the %1 region").arg(place), this,
        [standIn, password, keeps, url = server.toStdString(), name = user.toStdString(),
         at = place.toStdString()](const Progress& progress) {
            Loaded loaded;
            loaded.how = tr("as its server gives it to whoever logs in");
            loaded.what = tr("What stands in the %1 region of %2.").arg(qs(at), qs(url));
            standins::Visit visit{url, name, at, upload::typedOrKept(std::move(*password), keeps, url, name)};
            loaded.arena = standIn->visit(std::move(visit), loaded.report, progress);
            return loaded;
        },
        [this, place, at = visited_](const Loaded& loaded) {
            if (at != visited_) return;
            Q_EMIT session_.said(tr("Logged in to the %1 region").arg(place));
            show(loaded, tr("%1 region").arg(place));
        },
        [this](const QString& problem) {
            Q_EMIT session_.said(problem);
            load(folder_, standIn_, sheet_); // the files again
        },
        Urgency::Asked, [this] { load(folder_, standIn_, sheet_); });
}

} // namespace zl::app
