#include "app/pages/settings_dialog.h"

#include "app/pages/about_dialog.h"
#include "app/pages/endings_dialog.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QSettings>

namespace zl::app {

SettingsDialog::SettingsDialog(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Settings"));
    setObjectName("settings");
    setMinimumWidth(440);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(12);
    layout->addWidget(headingLabel(tr("Settings")));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(18);
    form->setVerticalSpacing(10);
    auto* theme = new QComboBox;
    theme->setObjectName("settingsTheme");
    theme->addItem(tr("Light"), false);
    theme->addItem(tr("Dusk"), true);
    theme->setCurrentIndex(Theme::instance().isDusk() ? 1 : 0);
    connect(theme, &QComboBox::activated, this, [theme] {
        Theme::instance().setDusk(theme->currentData().toBool());
        QSettings().setValue("dusk", theme->currentData().toBool());
    });
    form->addRow(tr("Theme"), theme);
    auto* thousands = new QComboBox;
    thousands->setObjectName("settingsNumbers");
    thousands->addItem(tr("gap: 12 345.6").replace("12 345", QString::fromUtf8("12\u202f345")),
                       QString::fromUtf8("\u202f"));
    thousands->addItem(tr("none: 12345.6"), QString());
    thousands->setCurrentIndex(QSettings().value("thousandsGap", true).toBool() ? 0 : 1);
    connect(thousands, &QComboBox::activated, this, [thousands](int index) {
        QSettings().setValue("thousandsGap", index == 0);
        setThousandsGap(index == 0);
        Q_EMIT Theme::instance().changed();
    });
    form->addRow(tr("Thousands in numbers"), thousands);
    auto* endings = button(tr("What endings mean…"));
    endings->setObjectName("settingsEndings");
    endings->setToolTip(
        tr("That \"lantern_n.png\" is the relief of \"lantern.obj\": the table can be changed"));
    connect(endings, &QPushButton::clicked, this, [this] {
        auto* dialog = new EndingsDialog(this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    form->addRow(tr("Names of pictures"), endings);
    layout->addLayout(form);
    layout->addWidget(textLabel(
        tr("The decimal mark is a point everywhere, as in the files. Platform sheets of your own go into the "
           "folder \"platforms\" beside a project, or into zest-loom/platforms in your data folder."),
        "dim"));
    auto* about = button(tr("About Zest Loom…"), "quiet", "circle-help");
    about->setObjectName("settingsAbout");
    about->setToolTip(tr("Version, licences, and how to report a fault"));
    connect(about, &QPushButton::clicked, this, [this] { (new AboutDialog(this))->open(); });
    auto* close = button(tr("Done"), "main");
    close->setDefault(true);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    auto* actions = new QHBoxLayout;
    actions->addWidget(about);
    actions->addStretch(1);
    actions->addWidget(close);
    layout->addLayout(actions);
}

} // namespace zl::app
