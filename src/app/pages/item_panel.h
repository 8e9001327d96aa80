#pragma once
#include "app/pages/catalogue_list.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QMenu;
class QPushButton;

namespace zl::app {

/// The chosen items of a catalogue: what one is, for whom and by whom, or how many there are; and what they
/// are to be called when they are taken out.
class ItemPanel : public QWidget {
    Q_OBJECT
public:
    explicit ItemPanel(const CatalogueList& list, QWidget* parent = nullptr);

    /// Places in the catalogue, in the order in which they stand there.
    void show(std::vector<std::uint32_t> chosen);
    /// Once more, where it has come since.
    void showPicture();
    /// What the model of the one that is shown comes to, once it is known.
    void setModel(std::uint32_t place, const QString& words);
    /// The figures that the chosen may go on.
    void setFigures(const std::vector<std::string>& figures);
    const std::vector<std::uint32_t>& chosen() const { return chosen_; }
    /// As the field's pattern has it, one for each that is chosen.
    std::vector<std::string> names() const;

Q_SIGNALS:
    void piecesAsked();
    void folderAsked();
    void putOnAsked(const std::string& figure);

private:
    void showFacts();
    void showNames();
    QString pattern() const;

    const CatalogueList& list_;
    std::vector<std::uint32_t> chosen_;
    QString model_;
    QLabel *name_, *picture_, *facts_, *asked_, *preview_, *hint_;
    QLineEdit* called_;
    QPushButton *pieces_, *putOn_, *folder_;
    QMenu* figures_;
};

} // namespace zl::app
