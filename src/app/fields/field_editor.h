#pragma once
#include "app/fields/editors.h"

#include <QWidget>

namespace zl::app {

/// The default panel of a step or a deliverable, made from its table of fields. Lengths are edited in the
/// platform's unit.
class FieldEditor : public QWidget {
    Q_OBJECT
public:
    /// `values` are all of the fields'; those that `isShown` refuses are left out.
    FieldEditor(std::span<const fields::Field> fields, const nlohmann::ordered_json& values,
                const std::function<bool(const fields::Field&)>& isShown, const EditingPlace& place,
                QWidget* parent = nullptr);

Q_SIGNALS:
    void changed(const QString& field, const nlohmann::json& value);
};

} // namespace zl::app
