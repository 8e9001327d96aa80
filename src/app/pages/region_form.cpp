#include "app/pages/region_form.h"

#include "app/fields/choice_box.h"

#include <QCheckBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QSettings>

namespace zl::app {

RegionForm::RegionForm(const QStringList& regions, QWidget* parent) : QWidget(parent) {
    auto* form = new QFormLayout(this);
    form->setContentsMargins(0, 0, 0, 0);
    form->setSpacing(8);
    const auto field = [&](const char* name, const QString& label, const QString& text, const QString& hint) {
        auto* made = new QLineEdit(text);
        made->setObjectName(name);
        made->setAccessibleName(label);
        made->setPlaceholderText(hint);
        form->addRow(label, made);
        connect(made, &QLineEdit::textChanged, this, &RegionForm::changed);
        return made;
    };
    const QSettings settings;
    server_ = field("uploadServer", tr("Server"), settings.value("upload/server").toString(), "https://");
    user_ =
        field("uploadUser", tr("Name"), settings.value("upload/user").toString(), tr("that you log in with"));
    password_ = field("uploadPassword", tr("Password"), QString(), tr("empty takes the keyring's"));
    password_->setEchoMode(QLineEdit::Password);
    keeps_ = new QCheckBox(tr("Keep it in the desktop's keyring"));
    keeps_->setObjectName("uploadKeeps");
    form->addRow(QString(), keeps_);
    region_ = new ChoiceBox;
    region_->setObjectName("uploadRegion");
    region_->setAccessibleName(tr("Region"));
    region_->addItems(regions);
    form->addRow(tr("Region"), region_);
    for (QLineEdit* one : {password_, user_, server_})
        if (one->text().isEmpty()) setFocusProxy(one);
}

bool RegionForm::isFilled() const {
    return !server_->text().isEmpty() && !user_->text().isEmpty();
}
QString RegionForm::server() const {
    return server_->text().trimmed();
}
QString RegionForm::user() const {
    return user_->text().trimmed();
}
int RegionForm::region() const {
    return region_->currentIndex();
}
bool RegionForm::keeps() const {
    return keeps_->isChecked();
}

std::shared_ptr<upload::Secret> RegionForm::takePassword() {
    QSettings settings;
    settings.setValue("upload/server", server());
    settings.setValue("upload/user", user());
    auto out = std::make_shared<upload::Secret>(password_->text().toStdString());
    password_->clear();
    return out;
}

} // namespace zl::app
