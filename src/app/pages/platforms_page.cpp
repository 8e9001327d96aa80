#include "app/pages/platforms_page.h"

#include "app/qt_text.h"
#include "app/sheets/changed_sheet_dialog.h"
#include "app/sheets/sheet_places.h"
#include "app/theme.h"
#include "app/widgets/mark.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/platform/check.h"

#include <QAbstractButton>
#include <QFileDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// "triangles: 40 000": what a sheet wants at most, in the words of its first limits.
QStringList wantsOf(const platform::Sheet& sheet) {
    QStringList wants;
    wants << QObject::tr("figure %1").arg(qs(sheet.showLength(sheet.figureMetres())));
    constexpr int most = 4;
    for (const auto& rule : platform::check(Model{}, sheet).rules) {
        if (rule.severity != platform::Severity::Must || !rule.finding.limit.starts_with("of ")) continue;
        wants << QObject::tr("%1: %2").arg(qs(rule.label).toLower(), qs(rule.finding.limit.substr(3)));
        if (wants.size() == most) break;
    }
    return wants;
}

} // namespace

/// A platform to be chosen or not.
class PlatformCard : public QAbstractButton {
public:
    PlatformCard(SheetPointer sheet, const Session& session, QWidget* parent)
        : QAbstractButton(parent), sheet_(std::move(sheet)) {
        setCheckable(true);
        setObjectName("platform-" + qs(sheet_->id));
        setText(qs(sheet_->name));
        setCursor(Qt::PointingHandCursor);
        setFocusPolicy(Qt::StrongFocus);
        about_ = qs(sheet_->about);
        wants_ = wantsOf(*sheet_).join(QString::fromUtf8(" · "));
        if (sheet_->deliverable.empty()) wants_ += QObject::tr(" · checked only");
        whose_ = ownerWords(ownerOf(*sheet_, session));
        const QString fits = fittingWords(session, sheet_->id);
        stands_ = fits.isEmpty() ? whose_ : whose_ + QString::fromUtf8(" · ") + fits;
        setAccessibleName(
            QString("%1, %2. %3 %4. %5").arg(text(), qs(sheet_->kind), about_, wants_, stands_));
        setToolTip(about_);
        setMinimumHeight(146);
    }
    const platform::Sheet& sheet() const { return *sheet_; }
    /// A button within it that opens the sheet.
    void setOpener(QWidget* opener) { opener_ = opener; }
    bool isLike(const QString& words) const {
        for (const QString& word : words.split(' ', Qt::SkipEmptyParts))
            if (!accessibleName().contains(word, Qt::CaseInsensitive)) return false;
        return true;
    }

protected:
    void resizeEvent(QResizeEvent*) override {
        if (opener_) opener_->setGeometry(width() - 76, height() - 36, 64, 28);
    }
    void paintEvent(QPaintEvent*) override {
        const Tokens& t = tokens();
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
        painter.setPen(QPen(isChecked() ? t.zest : underMouse() ? t.dim : t.edge, isChecked() ? 2 : 1));
        painter.setBrush(isChecked() ? t.zestSoft : t.paper);
        painter.drawRoundedRect(box, 9, 9);
        const QRectF tick(box.right() - 30, box.top() + 12, 18, 18);
        painter.setPen(QPen(isChecked() ? t.leaf : t.edge, 1.5));
        painter.setBrush(isChecked() ? t.leaf : t.field);
        painter.drawRoundedRect(tick, 5, 5);
        if (isChecked())
            Theme::instance().icon("check", t.paper).paint(&painter, tick.toRect().adjusted(2, 2, -2, -2));
        const double left = 14, right = width() - 14;
        painter.setPen(t.ink);
        painter.setFont(Theme::instance().heading(16));
        painter.drawText(QRectF(left, 9, right - left - 30, 22), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(text(), Qt::ElideRight, int(right - left - 30)));
        painter.setFont(Theme::instance().text(12, 500));
        painter.setPen(t.dim);
        painter.drawText(
            QRectF(left, 31, right - left, 18), Qt::AlignLeft | Qt::AlignVCenter,
            painter.fontMetrics().elidedText(qs(sheet_->kind), Qt::ElideRight, int(right - left)));
        const auto paragraph = [&](double top, double high, const QString& words, const QColor& ink) {
            painter.setFont(Theme::instance().text(12));
            painter.setPen(ink);
            painter.save();
            painter.setClipRect(QRectF(left, top, right - left, high));
            painter.drawText(QRectF(left, top, right - left, high), Qt::AlignLeft | Qt::TextWordWrap, words);
            painter.restore();
        };
        const double line = painter.fontMetrics().lineSpacing();
        paragraph(51, 2 * line, about_, t.ink);
        paragraph(55 + 2 * line, 2 * line, wants_, t.dim);
        painter.setFont(Theme::instance().text(12, 500));
        painter.setPen(t.sea);
        painter.drawText(QRectF(left, height() - 31, right - left - 70, 18), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(stands_, Qt::ElideRight, int(right - left - 70)));
        if (!hasFocus()) return;
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 7, 7);
    }

private:
    SheetPointer sheet_;
    QWidget* opener_ = nullptr;
    QString about_, wants_, whose_, stands_;
};

PlatformsPage::PlatformsPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("page");
    setAttribute(Qt::WA_StyledBackground);
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(28, 22, 18, 18);
    outer->setSpacing(10);
    auto* head = new QHBoxLayout;
    head->setSpacing(16);
    outer->addLayout(head);
    auto* words = new QVBoxLayout;
    words->setSpacing(2);
    title_ = headingLabel(tr("Which platforms do you make for?"), 3);
    words->addWidget(title_);
    words_ = textLabel({}, "dim");
    words->addWidget(words_);
    head->addLayout(words, 1);
    filter_ = new QLineEdit;
    filter_->setObjectName("platformFilter");
    filter_->setPlaceholderText(tr("Find a platform…"));
    filter_->setClearButtonEnabled(true);
    filter_->setFixedWidth(240);
    head->addWidget(filter_, 0, Qt::AlignTop);
    auto* learn = button(tr("Learn from files…"), nullptr, "folder-open");
    learn->setObjectName("learnFromFiles");
    learn->setToolTip(
        tr("Makes a sheet for your own game out of files that it takes; a folder can be dropped here too"));
    connect(learn, &QPushButton::clicked, this, [this] { Q_EMIT learnAsked({}); });
    head->addWidget(learn, 0, Qt::AlignTop);
    auto* fresh = button(tr("New sheet"), nullptr, "plus");
    fresh->setObjectName("newSheet");
    fresh->setToolTip(
        tr("Begins with nothing but a unit; to begin with the nearest, open its sheet and change it"));
    connect(fresh, &QPushButton::clicked, this, [this] { Q_EMIT sheetAsked({}); });
    head->addWidget(fresh, 0, Qt::AlignTop);
    auto* take = iconButton("package", tr("Takes in a sheet that somebody gave away (.zestsheet)"));
    take->setObjectName("takeInSheet");
    connect(take, &QToolButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("A sheet to take in"), {},
                                                          tr("Sheets of Zest Loom (*.zestsheet)"));
        if (!file.isEmpty()) Q_EMIT takeInAsked(file);
    });
    head->addWidget(take, 0, Qt::AlignTop);
    changed_ = new QVBoxLayout;
    changed_->setSpacing(4);
    outer->addLayout(changed_);
    connect(&session_, &Session::projectChanged, this, &PlatformsPage::showChanged);
    auto* inner = scrolled(this, outer);
    inner->setContentsMargins(0, 4, 10, 4);
    field_ = new QWidget;
    grid_ = new QGridLayout(field_);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(12);
    inner->addWidget(field_);
    none_ = textLabel(tr("No platform is called or described so. Clear the field to see all."), "dim");
    inner->addWidget(none_);
    inner->addStretch(1);
    auto* foot = new QHBoxLayout;
    outer->addLayout(foot);
    foot->addWidget(textLabel(tr("Columns can be added and taken away at any time."), "dim"), 1);
    leave_ = button(tr("Back"), "quiet");
    begin_ = button({}, "main", "check");
    begin_->setObjectName("takePlatforms");
    leave_->setObjectName("leavePlatforms");
    foot->addWidget(leave_);
    foot->addWidget(begin_);
    connect(filter_, &QLineEdit::textChanged, this, &PlatformsPage::layCards);
    connect(filter_, &QLineEdit::returnPressed, this, [this] { // the only one left is meant
        QList<PlatformCard*> seen;
        for (auto* card : cards_)
            if (card->isVisible()) seen << card;
        if (seen.size() == 1) seen[0]->click(), filter_->selectAll();
    });
    connect(leave_, &QPushButton::clicked, this, &PlatformsPage::left);
    connect(begin_, &QPushButton::clicked, this, [this] {
        QStringList kept;
        for (const auto& id : ticked()) kept << qs(id);
        QSettings().setValue("platforms", kept);
        Q_EMIT chosen(ticked());
    });
}

void PlatformsPage::ask() {
    for (auto* card : cards_) delete card;
    cards_.clear();
    filter_->clear();
    const auto& has = session_.project().platforms;
    const QStringList last = QSettings().value("platforms").toStringList();
    for (const auto& sheet : session_.sheets()) {
        auto* card = new PlatformCard(sheet, session_, field_);
        card->setChecked(has.empty() ? last.contains(qs(sheet->id))
                                     : std::ranges::find(has, sheet->id) != has.end());
        connect(card, &QAbstractButton::toggled, this, &PlatformsPage::refreshWords);
        auto* open = new QPushButton(tr("Sheet"), card);
        open->setProperty("quiet", true);
        open->setObjectName("open-" + qs(sheet->id));
        open->setToolTip(tr("Shows what %1 wants, to read and to change").arg(qs(sheet->name)));
        open->setCursor(Qt::PointingHandCursor);
        connect(open, &QPushButton::clicked, this, [this, id = qs(sheet->id)] { Q_EMIT sheetAsked(id); });
        card->setOpener(open);
        cards_.push_back(card);
    }
    std::ranges::stable_sort(
        cards_, [](const PlatformCard* a, const PlatformCard* b) { return a->isChecked() > b->isChecked(); });
    for (std::size_t i = 1; i < cards_.size(); ++i) setTabOrder(cards_[i - 1], cards_[i]);
    showChanged();
    layCards();
    refreshWords();
    filter_->setFocus();
}

void PlatformsPage::showChanged() {
    clearLayout(changed_);
    for (const auto& one : session_.changedSheets()) {
        auto* row = new QHBoxLayout;
        row->setSpacing(12);
        row->addLayout(
            markRow(
                Mark::Tight,
                tr("The sheet of %1 is another one than this project was saved with").arg(qs(one.now->name)),
                qs(showCount(double(one.changes.size()), "change", "changes"))),
            1);
        auto* show = button(tr("What changed…"));
        show->setObjectName("changed-" + qs(one.now->id));
        connect(show, &QPushButton::clicked, this,
                [this, one] { (new ChangedSheetDialog(session_, one, window()))->open(); });
        row->addWidget(show);
        changed_->addLayout(row);
    }
}

std::vector<std::string> PlatformsPage::ticked() const {
    std::vector<std::string> ids;
    for (const std::string& id : session_.project().platforms) // stay where they were
        for (const auto* card : cards_)
            if (card->sheet().id == id && card->isChecked()) ids.push_back(id);
    for (const auto* card : cards_)
        if (card->isChecked() && std::ranges::find(ids, card->sheet().id) == ids.end())
            ids.push_back(card->sheet().id);
    return ids;
}

void PlatformsPage::refreshWords() {
    const auto count = long(ticked().size());
    const bool fresh = session_.project().platforms.empty();
    words_->setText(fresh ? tr("Each one that you choose gets a column on the Loom.")
                          : tr("%1 on the Loom").arg(qs(showCount(count, "column", "columns"))));
    begin_->setEnabled(count > 0);
    begin_->setText(count == 0 ? tr("Choose one at least")
                               : tr("Make for %1").arg(qs(showCount(count, "platform", "platforms"))));
    for (auto* card : cards_) card->update();
}

void PlatformsPage::layCards() {
    const int columns = std::max(1, (width() - 60) / 380);
    for (int c = 0; c < grid_->columnCount(); ++c) grid_->setColumnStretch(c, 0);
    int place = 0;
    for (auto* card : cards_) {
        const bool seen = card->isLike(filter_->text());
        grid_->removeWidget(card);
        card->setVisible(seen);
        if (!seen) continue;
        grid_->addWidget(card, place / columns, place % columns);
        ++place;
    }
    for (int c = 0; c < columns; ++c) grid_->setColumnStretch(c, 1);
    none_->setVisible(place == 0);
}

void PlatformsPage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    layCards();
}

void PlatformsPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        Q_EMIT left();
    } else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        if (focusWidget() == filter_) return; // it has had the key
        if (auto* card = dynamic_cast<PlatformCard*>(focusWidget())) return card->click();
        if (begin_->isEnabled()) begin_->click();
    } else {
        QWidget::keyPressEvent(event);
    }
}

} // namespace zl::app
