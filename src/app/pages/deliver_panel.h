#pragma once
#include "app/session.h"

#include "core/chain/chain.h"

#include <QImage>
#include <QWidget>

class QVBoxLayout;

namespace zl::app {

class BytesPanel;
class CostPanel;
class InstallPanel;

/// What will be written, where, under which finish and credit, and what was written last.
class DeliverPanel : public QWidget {
    Q_OBJECT
public:
    DeliverPanel(Session& session, QWidget* parent);
    void show(const QString& piece, const QString& platform);
    /// Builds in the background; `then` runs when the files are there.
    void build(const std::function<void(const QString& folder)>& then = {});
    /// Where this piece goes on this platform.
    QString folder() const { return folderOf(piece_, platform_); }
    QString folderOf(const QString& piece, const QString& platform) const;
    bool wasBuilt() const;

Q_SIGNALS:
    void built();
    /// A limit that stands in the way was chosen.
    void ruleAsked(const QString& rule);
    /// A game's folder is to be opened in its stand-in.
    void tryAsked(const QString& folder);
    /// The game itself has said something of it.
    void gameAsked();

private:
    struct Built {
        deliver::BuildResult result;
        QDateTime when;
        Hash key = 0; ///< what it was made of
    };
    const Built* lastBuilt() const;
    bool isCurrent(const Built& built) const;
    void rebuild();
    void addParams(const project::Piece& piece, const SheetPointer& sheet);
    /// What a build would write, or which limits stand in its way.
    void addOutlook(const SheetPointer& sheet);
    /// What a delivery is called and made of besides the first size, as it was worked out.
    deliver::Labels labelled(const project::Piece& piece, const std::string& platform) const;
    void lookAhead(const SheetPointer& sheet, Hash key);
    /// Makes the files as a build would, with what is known now.
    std::function<std::vector<OutFile>(const Progress&)> maker(const SheetPointer& sheet) const;
    void lookInto(const SheetPointer& sheet);
    /// The picture that the delivery shows itself by, where it has one.
    void addPreview();
    /// The first of them by name and size, and what the rest comes to.
    void addFiles(const std::vector<std::pair<std::string, std::size_t>>& files);
    void addChain(const platform::Sheet& sheet);
    /// What the game said of it last.
    void addGame(const platform::Sheet& sheet);
    void addFolder();
    void addCredit(const project::Piece& piece);
    void addResult(const Built& last);
    void showCost(const SheetPointer& sheet);
    void showBytesOf(const SheetPointer& sheet);
    Session& session_;
    QVBoxLayout* layout_;
    InstallPanel* install_;
    CostPanel* cost_;
    BytesPanel* bytes_;
    QString piece_, platform_;
    std::map<std::pair<QString, QString>, Built> built_;
    struct Outlook {
        std::vector<std::pair<std::string, std::size_t>> files;
        QImage preview;
        QString problem;
        Hash key = 0;
        bool ready = false;
    } outlook_;      ///< of the crossing that was looked at last
    QImage preview_; ///< of the crossing that was looked at last, until the next one is there
    struct Measured {
        std::vector<chain::LegResult> legs;
        Hash key = 0;
    };
    std::map<std::pair<QString, QString>, Measured> chains_;
};

} // namespace zl::app
