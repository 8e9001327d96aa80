#include "app/pages/endings_dialog.h"

#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/error.h"
#include "core/base/letters.h"

#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>

#include <set>

namespace zl::app {

using platform::RoleEndings;

namespace {

QString rowName(std::optional<PictureRole> role, PictureChannel channel) {
    if (!role) return QObject::tr("Says nothing");
    QString name = qs(roleName(*role));
    name[0] = name[0].toUpper();
    if (channel != PictureChannel::Colour)
        name += QObject::tr(" (its %1)").arg(qs(platform::channelName(channel)));
    return name;
}

} // namespace

EndingsDialog::EndingsDialog(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Endings of names"));
    setObjectName("endings");
    resize(620, 600);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(22, 18, 22, 18);
    layout->setSpacing(10);
    layout->addWidget(headingLabel(tr("Endings of names")));
    layout->addWidget(textLabel(
        tr("A picture called like a model goes with it; its ending says what it is for. Separate endings by "
           "spaces; _ stands for any of _ - . and a space. What a platform says of its own comes first."),
        "dim"));
    auto* list = scrolled(this, layout);
    list->setContentsMargins(0, 0, 10, 0);
    list_ = new QVBoxLayout;
    list->addLayout(list_);
    list->addStretch(1);
    auto* attempt = new QHBoxLayout;
    attempt->setSpacing(10);
    name_ = new QLineEdit;
    name_->setObjectName("endingsTry");
    name_->setPlaceholderText(tr("Try a name, like lantern_n.png"));
    says_ = textLabel({}, "dim");
    says_->setObjectName("endingsSay");
    attempt->addWidget(name_, 1);
    attempt->addWidget(says_, 1);
    layout->addLayout(attempt);
    problem_ = textLabel({}, "bad");
    problem_->setObjectName("endingsProblem");
    layout->addWidget(problem_);
    auto* shipped = button(tr("As it came"), "quiet");
    shipped->setObjectName("endingsShipped");
    shipped->setToolTip(tr("Puts back the table that ships; nothing is kept before you say so"));
    auto* cancel = button(tr("Cancel"));
    keep_ = button(tr("Keep"), "main");
    keep_->setObjectName("endingsKeep");
    keep_->setDefault(true);
    auto* actions = new QHBoxLayout;
    actions->addWidget(shipped);
    actions->addStretch(1);
    actions->addWidget(cancel);
    actions->addWidget(keep_);
    layout->addLayout(actions);
    connect(name_, &QLineEdit::textChanged, this, &EndingsDialog::tryName);
    connect(shipped, &QPushButton::clicked, this, [this] { show(platform::usualRoleEndings()); });
    connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    connect(keep_, &QPushButton::clicked, this, &EndingsDialog::keep);
    try {
        show(platform::generalRoleEndings());
    } catch (const Error& error) {
        show(platform::usualRoleEndings());
        problem_->setText(breakable(qs(error.whole())));
    }
}

void EndingsDialog::show(const RoleEndings& table) {
    clearLayout(list_);
    rows_.clear();
    auto* fields = new QWidget;
    auto* form = new QFormLayout(fields);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(8);
    list_->addWidget(fields);
    const auto add = [&](std::optional<PictureRole> role, PictureChannel channel,
                         const QStringList& endings) {
        auto* field = new QLineEdit(endings.join(' '));
        field->setObjectName(
            "endings-" +
            (role ? qs(roleName(*role)) + "-" + qs(platform::channelName(channel)) : QString("nothing")));
        field->setCursorPosition(0);
        connect(field, &QLineEdit::textChanged, this, &EndingsDialog::tryName);
        form->addRow(rowName(role, channel), field);
        rows_.push_back({role, channel, field});
    };
    std::set<std::pair<PictureRole, PictureChannel>> parts{{PictureRole::Occlusion, PictureChannel::Red},
                                                           {PictureRole::Roughness, PictureChannel::Green},
                                                           {PictureRole::Metalness, PictureChannel::Blue}};
    std::map<std::pair<PictureRole, PictureChannel>, QStringList> said;
    for (const RoleEndings::Ending& known : table.pictures) {
        said[{known.role, known.channel}] << qs(known.ending);
        if (known.channel != PictureChannel::Colour) parts.insert({known.role, known.channel});
    }
    for (const PictureRole role : allPictureRoles)
        add(role, PictureChannel::Colour, said[{role, PictureChannel::Colour}]);
    for (const auto& [role, channel] : parts) add(role, channel, said[{role, channel}]);
    QStringList empty;
    for (const std::string& ending : table.empty) empty << qs(ending);
    add({}, PictureChannel::Colour, empty);
    problem_->clear();
    tryName();
}

RoleEndings EndingsDialog::table(QString* problem) const {
    static const QRegularExpression gaps("[\\s,;]+");
    RoleEndings out;
    for (const Row& row : rows_)
        for (const QString& word : row.endings->text().split(gaps, Qt::SkipEmptyParts)) {
            std::string ending = lowerCase(word.toStdString());
            for (char& c : ending)
                if (c == '-' || c == '.') c = '_';
            if (ending.size() < 2 && problem)
                *problem = tr("\"%1\" is too short to tell; give it at least two signs, like _n.").arg(word);
            else if (row.role)
                out.pictures.push_back({ending, *row.role, row.channel});
            else
                out.empty.push_back(ending);
        }
    return out;
}

void EndingsDialog::tryName() {
    QString problem;
    const RoleEndings now = table(&problem);
    problem_->setText(problem);
    problem_->setVisible(!problem.isEmpty());
    keep_->setEnabled(problem.isEmpty());
    const std::string name = std::filesystem::path(name_->text().toStdString()).stem().string();
    if (name.empty()) return says_->setText({});
    const auto [stem, uses] = partsOfName(name, now);
    QStringList words;
    for (const auto& use : uses) words << rowName(use.role, use.channel).toLower();
    says_->setText(breakable(words.isEmpty() ? tr("says nothing; goes with %1").arg(qs(stem))
                                             : tr("%1; goes with %2").arg(words.join(", "), qs(stem))));
}

void EndingsDialog::keep() {
    try {
        platform::keepGeneralRoleEndings(table());
        accept();
    } catch (const std::exception& error) {
        problem_->setText(breakable(QString::fromUtf8(error.what())));
        problem_->show();
    }
}

} // namespace zl::app
