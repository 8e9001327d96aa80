#include "app/sheets/sheet_draft.h"

#include "app/qt_text.h"
#include "app/sheets/sheet_places.h"

#include <QUndoCommand>

namespace zl::app {

/// One text in place of another.
class TextChange : public QUndoCommand {
public:
    TextChange(SheetDraft& draft, const QString& what, QString before, QString after, bool typed)
        : QUndoCommand(what), draft_(draft), before_(std::move(before)), after_(std::move(after)),
          typed_(typed) {}
    void undo() override { draft_.put(before_, false); }
    void redo() override {
        draft_.put(after_, typed_ && first_);
        first_ = false;
    }
    int id() const override { return typed_ ? 1 : -1; }
    bool mergeWith(const QUndoCommand* other) override {
        after_ = static_cast<const TextChange*>(other)->after_;
        return true;
    }

private:
    SheetDraft& draft_;
    QString before_, after_;
    bool typed_, first_ = true;
};

SheetDraft::SheetDraft(QObject* parent) : QObject(parent) {
    // Once the history knows of it, too: who listens asks whether anything is changed.
    connect(&undo_, &QUndoStack::indexChanged, this, [this] { Q_EMIT changed(typed_); });
}

void SheetDraft::begin(const QString& text, const std::filesystem::path& file) {
    file_ = file;
    sheet_.reset();
    put(text, false);
    {
        const QSignalBlocker quiet(undo_); // one word of all that changes
        undo_.clear();
    }
    Q_EMIT changed(false);
}

void SheetDraft::put(const QString& text, bool typed) {
    text_ = text;
    problem_.clear(), line_ = 0;
    try {
        sheet_ = std::make_shared<const platform::Sheet>(
            platform::sheetFromText(text.toStdString(), file_, sheetWords()));
    } catch (const Error& error) {
        problem_ = qs(std::string(error.what()) + ". " + error.mend());
        const std::string& where = error.where();
        if (const auto colon = where.rfind(':'); colon != std::string::npos)
            line_ = qs(where.substr(colon + 1)).toInt();
    }
    typed_ = typed;
}

void SheetDraft::edit(const QString& what, const std::function<void(platform::SheetText&)>& change) {
    try {
        platform::SheetText own(text_.toStdString());
        change(own);
        const QString after = qs(own.text());
        if (after != text_) undo_.push(new TextChange(*this, what, text_, after, false));
    } catch (const Error& error) {
        problem_ = qs(error.whole());
        Q_EMIT changed(false);
    }
}

void SheetDraft::type(const QString& text) {
    if (text != text_) undo_.push(new TextChange(*this, tr("type"), text_, text, true));
}

void SheetDraft::saved(const std::filesystem::path& file) {
    file_ = file;
    undo_.setClean();
}

} // namespace zl::app
