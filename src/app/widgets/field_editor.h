#pragma once
#include "core/platform/sheet.h"
#include "core/steps/step.h"

#include <QWidget>

class QFormLayout;
class QLineEdit;

namespace zl::app {

/// The default panel of a step, made from its table of fields. Lengths are edited in the platform's unit.
class FieldEditor : public QWidget {
    Q_OBJECT
public:
    FieldEditor(const steps::Step& step, std::shared_ptr<const platform::Sheet> sheet,
                QWidget* parent = nullptr);

Q_SIGNALS:
    void changed(const QString& field, const nlohmann::json& value);

private:
    QWidget* editorFor(const steps::Field& field, const nlohmann::json& value);
    std::shared_ptr<const platform::Sheet> sheet_;
};

} // namespace zl::app
