#include "app/pages/matched_pictures.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include <QLabel>
#include <QVBoxLayout>

namespace zl::app {

using project::OfferedPicture;

namespace {

QString useWords(const OfferedPicture& picture) {
    QString words = qs(roleName(picture.role));
    if (picture.channel != PictureChannel::Colour)
        words += QObject::tr(" (its %1)").arg(qs(platform::channelName(picture.channel)));
    return words;
}

} // namespace

MatchedPictures::MatchedPictures(QWidget* parent) : QWidget(parent) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    title_ = headingLabel({}, 2);
    title_->setObjectName("matchedTitle");
    layout->addWidget(title_);
    rows_ = new QVBoxLayout;
    rows_->setSpacing(6);
    layout->addLayout(rows_);
    more_ = textLabel({}, "dim");
    more_->setObjectName("matchedMore");
    layout->addWidget(more_);
    setVisible(false);
}

void MatchedPictures::hideAll() {
    chosen_.clear();
    setVisible(false);
}

void MatchedPictures::show(const std::vector<OfferedPicture>& now,
                           const std::vector<OfferedPicture>& matching,
                           const project::PictureShelf::Left& left) {
    chosen_ = now;
    clearLayout(rows_);
    std::vector<std::string> goes;
    for (const OfferedPicture& picture : matching)
        if (std::ranges::find(goes, picture.path) == goes.end()) goes.push_back(picture.path);
    title_->setText(!goes.empty()  ? tr("Pictures that go with it")
                    : left.all > 0 ? tr("Pictures beside it")
                                   : tr("No other pictures beside it"));
    const auto materialOf = [&](const std::string& path) {
        return std::ranges::find(matching, path, &OfferedPicture::path)->material;
    };
    std::ranges::stable_sort(goes, {}, materialOf);
    std::string material;
    for (const std::string& path : goes) {
        if (materialOf(path) != material)
            rows_->addWidget(textLabel(breakable(qs(material = materialOf(path))), "dim"));
        addRow(path, matching);
    }
    if (!goes.empty() && !left.first.empty()) rows_->addWidget(textLabel(tr("Left over"), "dim"));
    for (const std::string& path : left.first) addRow(path, {});
    more_->setVisible(left.all > left.first.size());
    more_->setText(tr("and %1 more that go with nothing").arg(left.all - left.first.size()));
    setVisible(true);
}

void MatchedPictures::addRow(const std::string& path, const std::vector<OfferedPicture>& said) {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(8);
    const QString whole = qs(path);
    auto* name = new ElidedLabel(whole.section('/', -1));
    name->setElide(Qt::ElideMiddle); // the ending says what it is for
    auto* use = new ChoiceBox;
    use->setObjectName("role-" + whole.section('/', -1));
    use->setAccessibleName(tr("What %1 is for").arg(whole.section('/', -1)));
    const auto of = [&](const std::vector<OfferedPicture>& all) {
        std::vector<OfferedPicture> uses;
        for (const OfferedPicture& picture : all)
            if (picture.path == path) uses.push_back(picture);
        return uses;
    };
    const auto bySaid = of(said), now = of(chosen_);
    std::vector<std::vector<OfferedPicture>> meanings;
    const auto offer = [&](const QString& words, std::vector<OfferedPicture> uses) {
        use->addItem(words);
        if (uses == now) use->setCurrentIndex(use->count() - 1);
        meanings.push_back(std::move(uses));
    };
    // What its name says comes first, for that may be more than one role for all of it.
    if (!bySaid.empty()) {
        QStringList words;
        for (const OfferedPicture& picture : bySaid) words << useWords(picture);
        offer(words.size() == 1 ? words[0] : tr("%1 in one").arg(words.size()), bySaid);
        use->setItemData(0, words.join(", "), Qt::ToolTipRole);
    }
    offer(tr("not used"), {});
    for (const PictureRole role : allPictureRoles)
        if (const OfferedPicture one{path, role, PictureChannel::Colour,
                                     bySaid.empty() ? "" : bySaid[0].material};
            bySaid != std::vector{one})
            offer(qs(roleName(role)), {one});
    const auto tellWhole = [use] {
        const QString tip = use->currentData(Qt::ToolTipRole).toString();
        use->setToolTip(tip.isEmpty() ? use->currentText() : tip);
    };
    tellWhole();
    connect(use, &QComboBox::activated, this, [this, path, tellWhole, meanings](int index) {
        std::erase_if(chosen_, [&](const OfferedPicture& picture) { return picture.path == path; });
        const auto& uses = meanings[std::size_t(index)];
        chosen_.insert(chosen_.end(), uses.begin(), uses.end());
        tellWhole();
        Q_EMIT changed();
    });
    line->addWidget(name, 3);
    line->addWidget(use, 2);
    rows_->addWidget(row);
}

} // namespace zl::app
