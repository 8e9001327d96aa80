#include "app/pages/about_dialog.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/version.h"

#include <QClipboard>
#include <QFile>
#include <QGuiApplication>
#include <QLabel>
#include <QPushButton>
#include <QSysInfo>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextTable>
#include <QVBoxLayout>

namespace zl::app {

namespace {

QString text(std::string_view s) {
    return QString::fromUtf8(s.data(), qsizetype(s.size()));
}

/// Markdown as it comes has boxed tables, and texts of licences that do not wrap.
void layOut(QTextDocument& document) {
    QTextCursor cursor(&document);
    for (QTextBlock block = document.begin(); block.isValid(); block = block.next()) {
        QTextBlockFormat format = block.blockFormat();
        if (!format.nonBreakableLines()) continue;
        format.setNonBreakableLines(false);
        cursor.setPosition(block.position());
        cursor.setBlockFormat(format);
    }
    for (QTextFrame* frame : document.rootFrame()->childFrames()) {
        auto* table = qobject_cast<QTextTable*>(frame);
        if (!table) continue;
        QTextTableFormat format = table->format();
        format.setBorder(0);
        format.setCellSpacing(0);
        format.setCellPadding(3);
        const auto percent = [](double share) { return QTextLength(QTextLength::PercentageLength, share); };
        format.setWidth(percent(100));
        if (table->columns() == 3) // what, whose, under which licence
            format.setColumnWidthConstraints({percent(32), percent(46), percent(22)});
        table->setFormat(format);
    }
}

} // namespace

QString AboutDialog::details() {
    return tr("Zest Loom %1, Qt %2, %3, %4")
        .arg(text(programVersion()), qVersion(), QSysInfo::prettyProductName(),
             QSysInfo::currentCpuArchitecture());
}

AboutDialog::AboutDialog(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("About Zest Loom"));
    setObjectName("about");
    resize(680, 560);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    auto* head = new QHBoxLayout;
    head->setSpacing(14);
    auto* mark = new QLabel;
    mark->setPixmap(QIcon(":/zest-loom.svg").pixmap(48, 48));
    head->addWidget(mark);
    auto* words = new QVBoxLayout;
    words->setSpacing(1);
    words->addWidget(headingLabel("Zest Loom"));
    auto* version = textLabel(tr("Version %1").arg(text(programVersion())), "dim");
    version->setObjectName("aboutVersion");
    version->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    words->addWidget(version);
    head->addLayout(words, 1);
    layout->addLayout(head);
    layout->addWidget(headingLabel(tr("Something went wrong?"), 2));
    auto* fault =
        textLabel(tr("Write to %1: what you did, what you expected, what came instead. The details below say "
                     "which program you have; a model that shows the fault helps most. Nothing is sent by "
                     "itself.")
                      .arg(text(faultAddress)));
    fault->setTextInteractionFlags(Qt::TextSelectableByMouse);
    layout->addWidget(fault);
    auto* copy = button(tr("Copy the details"), nullptr, "copy");
    copy->setObjectName("aboutCopy");
    copy->setToolTip(details());
    connect(copy, &QPushButton::clicked, this, [copy] {
        QGuiApplication::clipboard()->setText(details());
        copy->setText(tr("Copied"));
    });
    layout->addWidget(copy, 0, Qt::AlignLeft);
    layout->addWidget(headingLabel(tr("Works of others in it"), 2));
    auto* notices = new QTextBrowser;
    notices->setObjectName("aboutNotices");
    notices->setAccessibleName(tr("Licences"));
    QFile file(":/NOTICES.md");
    if (file.open(QIODevice::ReadOnly)) {
        QString markdown = QString::fromUtf8(file.readAll());
        markdown.remove(0, markdown.indexOf('\n') + 1); // the dialog has a heading of its own
        notices->setMarkdown(markdown);
        layOut(*notices->document());
    }
    layout->addWidget(notices, 1);
    auto* close = button(tr("Done"), "main");
    close->setDefault(true);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    layout->addWidget(close, 0, Qt::AlignRight);
}

} // namespace zl::app
