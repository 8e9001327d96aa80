#pragma once
#include "app/session.h"

#include "core/platform/sheet_text.h"

#include <QObject>
#include <QUndoStack>

namespace zl::app {

/// A sheet that is being changed: its text is the truth, every change of it can be undone, and nothing is
/// written before it is saved.
class SheetDraft : public QObject {
    Q_OBJECT
public:
    explicit SheetDraft(QObject* parent = nullptr);
    ~SheetDraft() override { undo_.disconnect(this); } // its end is no change

    /// Begins with a text; `file` is where it lies, or would.
    void begin(const QString& text, const std::filesystem::path& file);
    const QString& text() const { return text_; }
    /// As it is read now; the last that could be read where the text is wrong.
    const SheetPointer& sheet() const { return sheet_; }
    /// Why the text cannot be read, and on which line; empty and 0 where it can.
    const QString& problem() const { return problem_; }
    int problemLine() const { return line_; }
    QUndoStack& undo() { return undo_; }
    bool isChanged() const { return !undo_.isClean(); }

    /// Changes one place of the text; nothing where the text cannot be read, or the change not be made.
    void edit(const QString& what, const std::function<void(platform::SheetText&)>& change);
    /// The whole text, as typed; keys in a row are one step of undo.
    void type(const QString& text);
    /// From now on it lies there.
    void saved(const std::filesystem::path& file);

Q_SIGNALS:
    /// `typed`: by the text itself, which is not to be set again.
    void changed(bool typed);

private:
    friend class TextChange;
    void put(const QString& text, bool typed);

    QString text_, problem_;
    int line_ = 0;
    bool typed_ = false; ///< the last change came from the text itself
    std::filesystem::path file_;
    SheetPointer sheet_;
    QUndoStack undo_;
};

} // namespace zl::app
