#include "app/pages/build_all_dialog.h"

#include "app/qt_text.h"
#include "app/widgets/mark.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"

#include <QDesktopServices>
#include <QDir>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QUrl>
#include <QVBoxLayout>

namespace zl::app {

BuildAllDialog::BuildAllDialog(const std::vector<project::BuiltCrossing>& results, const QString& folder,
                               QWidget* parent)
    : QDialog(parent) {
    using Outcome = project::BuiltCrossing::Outcome;
    setObjectName("buildAllDialog");
    setWindowTitle(tr("Built"));
    setMinimumSize(760, 480);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(12);
    int built = 0, unchanged = 0;
    for (const auto& result : results) {
        built += result.outcome == Outcome::Built;
        unchanged += result.outcome == Outcome::Unchanged;
    }
    layout->addWidget(headingLabel(tr("%1 built, %2 unchanged, %3 left out")
                                       .arg(built)
                                       .arg(unchanged)
                                       .arg(int(results.size()) - built - unchanged)));
    layout->addWidget(textLabel(QDir::toNativeSeparators(folder), "dim"));
    auto* inner = scrolled(this, layout);
    inner->setContentsMargins(0, 0, 10, 0);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(14);
    grid->setVerticalSpacing(7);
    int row = 0;
    for (const auto& result : results) {
        const Mark mark = result.outcome == Outcome::Built || result.outcome == Outcome::Unchanged
                              ? Mark::Fits
                              : Mark::Broken;
        grid->addWidget(markLabel(mark), row, 0, Qt::AlignTop);
        auto* what = textLabel(tr("%1 on %2").arg(qs(result.piece), qs(result.platformName)));
        grid->addWidget(what, row, 1, Qt::AlignTop);
        const QString words = result.outcome == Outcome::Unchanged ? tr("unchanged, left as it was")
                              : result.outcome == Outcome::Built
                                  ? tr("%1 in %2")
                                        .arg(qs(showCount(long(result.files.size()), "file", "files")),
                                             qs(showSeconds(result.seconds)))
                                  : qs(result.words);
        QString text = words;
        for (const auto& warning : result.warnings) text += ". " + qs(warning);
        grid->addWidget(textLabel(text, mark == Mark::Broken      ? "bad"
                                        : result.warnings.empty() ? "dim"
                                                                  : "warn"),
                        row++, 2);
    }
    if (results.empty())
        grid->addWidget(textLabel(tr("No crossing of this project has anything to deliver yet."), "dim"), 0,
                        0);
    grid->setColumnStretch(1, 2);
    grid->setColumnStretch(2, 3);
    inner->addLayout(grid);
    inner->addStretch(1);
    auto* actions = new QHBoxLayout;
    auto* open = button(tr("Show the folder"), nullptr, "folder-open");
    connect(open, &QPushButton::clicked, this,
            [folder] { QDesktopServices::openUrl(QUrl::fromLocalFile(folder)); });
    auto* close = button(tr("Done"), "main");
    close->setObjectName("buildAllDone");
    close->setDefault(true);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    actions->addWidget(open);
    actions->addStretch(1);
    actions->addWidget(close);
    layout->addLayout(actions);
}

} // namespace zl::app
