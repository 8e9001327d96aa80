#pragma once
#include "app/sheets/section_forms.h"
#include "app/sheets/sheet_draft.h"

#include <QFrame>

#include <optional>

namespace zl::app {

/// One section of a sheet's text, value by value; what is changed goes into the draft. Without the section it
/// says what it would be good for, and adds it.
class SectionCard : public QFrame {
    Q_OBJECT
public:
    /// `index` of a list's section; nothing for a section of which there is one, or to add one to the list.
    SectionCard(SheetDraft& draft, const platform::SheetText& text, const SectionForm& form,
                std::optional<std::size_t> index, QWidget* parent = nullptr);

private:
    void addField(const platform::SheetText& text, const SectionField& field);
    void keep(const SectionField& field, const QString& typed);

    SheetDraft& draft_;
    const SectionForm& form_;
    std::optional<std::size_t> index_;
};

} // namespace zl::app
