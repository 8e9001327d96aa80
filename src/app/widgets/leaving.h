#pragma once
#include <QString>

class QWidget;

namespace zl::app {

/// What somebody wants who leaves work that is not saved.
enum class Leaving { Stay, Save, Drop };

/// Asks so, with `found` as the sentence that says what is not saved.
Leaving askHowToLeave(QWidget* parent, const QString& found);

} // namespace zl::app
