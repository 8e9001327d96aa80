#pragma once
#include "core/deliver/own_files.h"

#include <QFrame>

class QComboBox;
class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace zl::app {

/// A text's template with what comes of it for one piece beside it, and what is wrong with it by line.
class TemplateCard : public QFrame {
    Q_OBJECT
public:
    struct Said {
        QString name;  ///< the card's own
        QString path;  ///< of what is written
        QString text;  ///< the template
        QString about; ///< may be empty
        bool isShort = false;
    };
    explicit TemplateCard(const Said& said, QWidget* parent = nullptr);

    QString text() const;
    bool isTyped() const;
    /// What came of it; null while that is not known.
    void show(const deliver::SectionFiles* made);

Q_SIGNALS:
    /// Somebody types: its outcome is wanted.
    void typed();
    /// The template goes into the sheet.
    void kept(const QString& text);

private:
    void showFile();

    QPlainTextEdit *edit_, *outcome_;
    QLabel* problem_;
    QComboBox* files_;
    QPushButton* keep_;
    QString before_;
    std::vector<OutFile> made_;
};

} // namespace zl::app
