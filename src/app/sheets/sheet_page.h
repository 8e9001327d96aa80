#pragma once
#include "app/sheets/files_preview.h"
#include "app/sheets/limit_card.h"
#include "app/sheets/section_forms.h"
#include "app/sheets/template_card.h"

#include <QTimer>
#include <QWidget>

class QButtonGroup;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

/// A platform's sheet, to be read and changed: its parts in the order in which people think of them on the
/// left, the part's form in the middle with how the project's pieces stand, and its text beside it where that
/// is wanted. Nothing is written before it is saved; one that ships is copied first.
class SheetPage : public QWidget {
    Q_OBJECT
public:
    enum class Part { What, Frame, Limits, Names, Pictures, Contact, Motion, Files, Notes, Evidence };

    explicit SheetPage(Session& session, QWidget* parent = nullptr);

    /// A sheet of the session's; a new one where it is empty.
    void open(const QString& sheet);
    void show(Part part);
    /// The text beside the form.
    void showText(bool shown);
    SheetDraft& draft() { return draft_; }
    bool isSettled() const {
        return !standingSoon_.isActive() && standing_.isSettled() && preview_.isSettled();
    }
    /// Asks what becomes of changes, where there are any; `then` goes on.
    bool mayLeave();

Q_SIGNALS:
    void left();
    /// A sheet was written, and is known to the session.
    void saved(const QString& sheet);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* makeParts();
    QWidget* makeMiddle();
    QWidget* makeText();
    void rebuild();
    void refresh(bool typed);
    void showStanding();
    void fillWhat();
    void fillFrame();
    void fillLimits();
    /// A part that is made of sections with values.
    void fillSections(const SheetPart& part);
    void fillFiles();
    /// A template's card; what is typed goes into the sheet's text, to `key` of the how many-th [[list]].
    void addTemplate(const TemplateCard::Said& said, FilesPreview::Section kind, std::size_t index,
                     const std::string& list, const std::string& key);
    void fillNotes();
    void keepNotes(const std::string& notes);
    void fillEvidence();
    /// Which of the project's pieces files are shown for.
    void addSample();
    void askForFiles();
    void showFiles();
    /// A line with a value of the text, by section and key; `options` makes it a choice.
    void addValue(const QString& label, const std::string& section, const std::string& key,
                  const QString& value, bool isNumber, const QStringList& options = {},
                  const QString& help = {});
    void save();
    void giveAway();

    Session& session_;
    SheetDraft draft_;
    SheetStanding standing_;
    QTimer standingSoon_;
    std::string id_; ///< as it was opened
    bool ships_ = false;
    Part part_ = Part::Limits;
    QButtonGroup* parts_;
    QLabel *name_, *whose_, *problem_, *stands_;
    QPushButton *undo_, *save_, *textSwitch_;
    QWidget* textSide_;
    QPlainTextEdit* text_;
    QVBoxLayout* form_;
    QLineEdit* add_ = nullptr;
    QString filter_;
    std::vector<LimitCard*> cards_;
    struct Made {
        FilesPreview::Section kind;
        std::size_t index;
        QLabel* words;      ///< names the files; null for what has a template
        TemplateCard* card; ///< of what has one
    };
    std::vector<Made> made_; ///< what the form of files shows
    QString sample_;
    QLabel* previewProblem_ = nullptr;
    FilesPreview preview_;
};

} // namespace zl::app
