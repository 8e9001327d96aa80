#include "app/pages/start_page.h"

#include "app/theme.h"
#include "app/widgets/ui.h"

#include <QDir>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* outer = new QHBoxLayout(this);
    auto* column = new QWidget;
    column->setMaximumWidth(860);
    outer->addStretch(1);
    outer->addWidget(column, 8);
    outer->addStretch(1);
    auto* layout = new QVBoxLayout(column);
    layout->setSpacing(12);
    layout->addStretch(2);

    auto* head = new QHBoxLayout;
    auto* mark = new QLabel;
    mark->setPixmap(QIcon(":/zest-loom.svg").pixmap(64, 64));
    head->addWidget(mark);
    auto* words = new QVBoxLayout;
    words->setSpacing(2);
    words->addWidget(headingLabel(tr("Make it fit before the game says no"), 0));
    words->addWidget(textLabel(
        tr("Bring a model, see every limit of the platform, deliver exactly its files, and try them here."),
        "dim"));
    head->addLayout(words, 1);
    layout->addLayout(head);
    layout->addSpacing(18);

    auto* cards = new QHBoxLayout;
    cards->setSpacing(14);
    const auto card = [&](const QString& title, const QString& text, QPushButton* action) {
        auto* frame = new QFrame;
        frame->setProperty("card", true);
        auto* inner = new QVBoxLayout(frame);
        inner->setContentsMargins(18, 16, 18, 16);
        inner->addWidget(headingLabel(title, 2));
        auto* label = textLabel(text, "dim");
        label->setAlignment(Qt::AlignTop);
        inner->addWidget(label, 1);
        inner->addWidget(action, 0, Qt::AlignLeft);
        cards->addWidget(frame, 1);
        return static_cast<QWidget*>(frame);
    };
    auto* fresh = button(tr("New project"), "main", "file-plus-2");
    fresh->setObjectName("newProject");
    fresh->setToolTip(tr("Begin an empty project (Ctrl+N)"));
    auto* open = button(tr("Open…"), nullptr, "folder-open");
    open->setObjectName("openProject");
    open->setToolTip(tr("Open a project (Ctrl+O)"));
    auto* demo = button(tr("Look around"), nullptr, "sprout");
    demo->setObjectName("openDemo");
    card(tr("Begin"), tr("An empty loom. Drop models anywhere on the window to bring them in."), fresh);
    card(tr("Go on"), tr("Open a project file (*.zestloom) that you or somebody else saved."), open);
    demo_ = card(tr("Bergamot Quay"),
                 tr("A harvest fair with a scanned bell of 0.8 million triangles and a fruit-press stall, on "
                    "the platforms of its makers."),
                 demo);
    layout->addLayout(cards);
    connect(fresh, &QPushButton::clicked, this, &StartPage::newAsked);
    connect(open, &QPushButton::clicked, this, &StartPage::openAsked);
    connect(demo, &QPushButton::clicked, this, &StartPage::demoAsked);

    layout->addSpacing(10);
    unsaved_ = new QVBoxLayout;
    unsaved_->setSpacing(2);
    layout->addLayout(unsaved_);
    recent_ = new QVBoxLayout;
    recent_->setSpacing(2);
    layout->addLayout(recent_);
    layout->addStretch(3);
    setDemo({});
}

void StartPage::setDemo(const QString& file) {
    demo_->setVisible(!file.isEmpty());
}

void StartPage::setUnsaved(const std::vector<std::pair<QString, QDateTime>>& files) {
    clearLayout(unsaved_);
    if (files.empty()) return;
    unsaved_->addWidget(headingLabel(tr("Never saved"), 2));
    for (const auto& [file, when] : files) {
        auto* take = button(tr("Work of %1").arg(when.toString("d MMMM yyyy, HH:mm")), "quiet", "rotate-ccw");
        take->setObjectName("takeUp");
        take->setStyleSheet("text-align: left;");
        take->setToolTip(tr("Take up what was kept when the program ended"));
        connect(take, &QPushButton::clicked, this, [this, file = file] { Q_EMIT unsavedAsked(file); });
        unsaved_->addWidget(take);
    }
}

void StartPage::setRecent(const QStringList& files) {
    clearLayout(recent_);
    if (files.isEmpty()) return;
    recent_->addWidget(headingLabel(tr("Recent"), 2));
    for (const QString& file : files) {
        const QFileInfo info(file);
        auto* open = button(
            QString("%1    %2").arg(info.completeBaseName(), QDir::toNativeSeparators(info.absolutePath())),
            "quiet", "clock");
        open->setStyleSheet("text-align: left;");
        open->setToolTip(file);
        connect(open, &QPushButton::clicked, this, [this, file] { Q_EMIT fileAsked(file); });
        recent_->addWidget(open);
    }
}

} // namespace zl::app
