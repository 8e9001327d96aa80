#include "app/fields/choice_box.h"
#include "app/fields/editors.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/pattern.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QLineEdit>
#include <QPushButton>

namespace zl::app {

QWidget* makeChoiceEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace&,
                          const ValueChanged& changed) {
    auto* box = new ChoiceBox;
    for (const auto& choice : field.choices) {
        box->addItem(qs(choice.label), qs(choice.id));
        if (value == choice.id) box->setCurrentIndex(box->count() - 1);
    }
    QObject::connect(box, &QComboBox::activated, box,
                     [box, changed] { changed(box->currentData().toString().toStdString()); });
    return box;
}

QWidget* makeWordEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace& place,
                        const ValueChanged& changed) {
    auto* box = new ChoiceBox;
    if (place.sheet && field.offers)
        for (const std::string& word : field.offers(*place.sheet)) box->addItem(qs(word));
    const QString now = qs(value.get<std::string>());
    if (!now.isEmpty() && box->findText(now) < 0) box->addItem(now); // of another version of the sheet
    box->setCurrentIndex(now.isEmpty() ? 0 : box->findText(now));
    QObject::connect(box, &QComboBox::textActivated, box,
                     [changed](const QString& word) { changed(word.toStdString()); });
    return box;
}

QWidget* makeFlagEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace&,
                        const ValueChanged& changed) {
    auto* box = new QCheckBox(qs(field.label));
    box->setChecked(value.get<bool>());
    QObject::connect(box, &QCheckBox::toggled, box, [changed](bool on) { changed(on); });
    return box;
}

namespace {

/// A line of text that says when it was changed, once.
QLineEdit* lineOf(const QString& text, const fields::Field& field,
                  const std::function<void(const std::string&)>& changed) {
    auto* edit = new QLineEdit(text);
    edit->setCursorPosition(0); // a long text shows its beginning
    edit->setPlaceholderText(qs(field.leastMeans));
    QObject::connect(edit, &QLineEdit::editingFinished, edit, [edit, changed, was = text] {
        if (edit->text() != was) changed(edit->text().toStdString());
    });
    return edit;
}

} // namespace

QWidget* makeTextEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace&,
                        const ValueChanged& changed) {
    auto* edit = lineOf(qs(value.get<std::string>()), field, changed);
    edit->setMaxLength(500);
    return edit;
}

QWidget* makePartsEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace&,
                         const ValueChanged& changed) {
    return lineOf(qs(patternsText(value.get<std::vector<std::string>>())), field,
                  [changed](const std::string& text) { changed(patternsFrom(text)); });
}

QWidget* makeColourEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace&,
                          const ValueChanged& changed) {
    const QColor now(qs(value.get<std::string>()));
    auto* swatch = button(now.name(), "dashed");
    swatch->setStyleSheet(QString("background: %1; color: %2;")
                              .arg(now.name(), now.lightnessF() > 0.6 ? "#20303a" : "#fbf8f1"));
    QObject::connect(swatch, &QPushButton::clicked, swatch, [swatch, now, changed, title = qs(field.label)] {
        const QColor chosen = QColorDialog::getColor(now, swatch->window(), title);
        if (chosen.isValid() && chosen != now) changed(chosen.name().toStdString());
    });
    return swatch;
}

} // namespace zl::app
