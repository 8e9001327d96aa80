#include "app/pages/catalogue_page.h"

#include "app/pages/item_delegate.h"
#include "app/pages/item_panel.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/files/terms.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QElapsedTimer>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QPushButton>
#include <QScrollBar>
#include <QSettings>
#include <QVBoxLayout>

namespace zl::app {

namespace {

QPushButton* choice(const QString& text, const QString& name) {
    auto* made = button(text);
    made->setObjectName(name);
    made->setCheckable(true);
    return made;
}

} // namespace

CataloguePage::CataloguePage(Session& session, QWidget* parent) : SourcePage(session, parent) {
    auto* finding = makeSide();
    auto* facts = layOut(finding, makeMiddle());
    panel_ = new ItemPanel(list_);
    facts->addWidget(panel_, 1);
    connect(panel_, &ItemPanel::piecesAsked, this, [this] { makePieces({}); });
    connect(panel_, &ItemPanel::putOnAsked, this, &CataloguePage::makePieces);
    connect(&session_, &Session::crossingChanged, this, [this] {
        if (isVisible()) panel_->setFigures(session_.figures());
    });
    connect(panel_, &ItemPanel::folderAsked, this, &CataloguePage::takeOut);
    for (QTimer* timer : {&lookSoon_, &fetchSoon_, &chosenSoon_}) timer->setSingleShot(true);
    lookSoon_.setInterval(25), fetchSoon_.setInterval(40), chosenSoon_.setInterval(60);
    connect(&lookSoon_, &QTimer::timeout, this, &CataloguePage::look);
    // Keys that are held down move on through many.
    connect(&chosenSoon_, &QTimer::timeout, this, &CataloguePage::showChosen);
    connect(&fetchSoon_, &QTimer::timeout, this, &CataloguePage::fetchPictures);
}

QWidget* CataloguePage::makeSide() {
    QVBoxLayout* side = nullptr;
    auto* box = makeFinding("catalogue", tr("Find an item…"), 232, side);
    words_->setToolTip(tr("Beginnings of words in title, code or pack"));
    auto* rest = scrolled(this, side);
    rest->setContentsMargins(0, 4, 0, 0);
    rest->setSpacing(7);
    const auto section = [&](const QString& title) {
        rest->addWidget(headingLabel(title, 2));
        auto* layout = new QVBoxLayout;
        layout->setSpacing(7);
        rest->addLayout(layout);
        rest->addSpacing(8);
        return layout;
    };
    packs_.layout = section(tr("Pack"));
    kinds_.layout = section(tr("Kind"));
    prefixes_ = section(tr("For"));
    rest->addStretch(1);
    side->addWidget(makeBack("leaveCatalogue"), 0, Qt::AlignLeft);
    connect(words_, &QLineEdit::textChanged, this, [this] { lookSoon_.start(); });
    connect(words_, &QLineEdit::returnPressed, this, [this] {
        view_->setFocus();
        if (!view_->currentIndex().isValid() && list_.rowCount() > 0) view_->setCurrentIndex(list_.index(0));
    });
    return box;
}

QWidget* CataloguePage::makeMiddle() {
    auto* box = new QWidget;
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(18, 12, 8, 0);
    layout->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->setSpacing(7);
    title_ = headingLabel({}, 1);
    title_->setWordWrap(false);
    head->addWidget(title_, 1);
    head->addWidget(textLabel(tr("sorted by"), "dim"));
    order_ = new QButtonGroup(this);
    const std::array<std::pair<QString, QString>, 3> orders{
        {{tr("name"), "orderName"}, {tr("pack"), "orderPack"}, {tr("newest"), "orderNewest"}}};
    for (int id = 0; id < 3; ++id) {
        auto* made = choice(orders[std::size_t(id)].first, orders[std::size_t(id)].second);
        order_->addButton(made, id);
        head->addWidget(made);
    }
    order_->button(QSettings().value("catalogueOrder", 0).toInt() % 3)->setChecked(true);
    head->addSpacing(8);
    auto* rows = choice(tr("As a list"), "catalogueRows");
    rows->setToolTip(tr("One item a row instead of cards"));
    rows->setChecked(QSettings().value("catalogueRows", false).toBool());
    cards_ = !rows->isChecked();
    head->addWidget(rows);
    head->addSpacing(8);
    layout->addLayout(head);
    state_ = textLabel({}, "dim");
    state_->setObjectName("catalogueState");
    layout->addWidget(state_);
    view_ = new QListView;
    view_->setObjectName("catalogueItems");
    view_->setAccessibleName(tr("Items"));
    view_->setModel(&list_);
    delegate_ = new ItemDelegate(view_);
    view_->setItemDelegate(delegate_);
    view_->setViewMode(QListView::IconMode);
    view_->setMovement(QListView::Static);
    view_->setResizeMode(QListView::Adjust);
    view_->setUniformItemSizes(true);
    view_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    view_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    view_->verticalScrollBar()->setSingleStep(40);
    view_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    view_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
    view_->setFrameShape(QFrame::NoFrame);
    view_->setMouseTracking(true);
    view_->setProperty("bare", true);
    view_->viewport()->installEventFilter(this);
    layout->addWidget(view_, 1);
    connect(order_, &QButtonGroup::idToggled, this, [this](int id, bool on) {
        if (!on) return;
        QSettings().setValue("catalogueOrder", id);
        look();
    });
    connect(rows, &QPushButton::toggled, this, [this](bool on) {
        QSettings().setValue("catalogueRows", on);
        cards_ = !on;
        arrange();
    });
    connect(view_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            [this] { chosenSoon_.start(); });
    connect(view_, &QListView::activated, this, [this] { makePieces({}); });
    const auto fetch = [this] { fetchSoon_.start(); };
    connect(view_->verticalScrollBar(), &QScrollBar::valueChanged, this, fetch);
    connect(&list_, &QAbstractItemModel::modelReset, this, fetch);
    return box;
}

void CataloguePage::open(const QString& file) {
    file_ = file;
    panel_->setFigures(session_.figures());
    list_.open(nullptr, {});
    filter_ = {};
    packs_.leftOut.clear(), kinds_.leftOut.clear();
    for (QLayout* layout : {packs_.layout, kinds_.layout, prefixes_}) clearLayout(layout);
    title_->setText(QFileInfo(file).completeBaseName());
    count_->clear();
    state_->setText(tr("Reading the catalogue…"));
    state_->show();
    const QSignalBlocker quiet(words_);
    words_->clear();
    words_->setFocus();
    panel_->show({});
    if (reading_) reading_->cancel();
    using Opened = std::shared_ptr<const catalogue::Catalogue>;
    reading_ = session_.jobs().start<Opened>(
        tr("Opening %1").arg(QFileInfo(file).fileName()), this,
        [path = std::filesystem::path(file.toStdString())](const Progress& progress) {
            return std::make_shared<const catalogue::Catalogue>(path, files::termsOf(path).limits, progress);
        },
        [this, file](const Opened& opened) {
            reading_ = nullptr;
            if (file == file_) take(opened);
        },
        [this](const QString& problem) { state_->setText(problem); }, Urgency::Asked,
        [this] { state_->setText(tr("Stopped before all was read.")); });
}

void CataloguePage::take(const std::shared_ptr<const catalogue::Catalogue>& opened) {
    std::vector<platform::Prefix> legend;
    for (const auto& sheet : session_.sheets())
        legend.insert(legend.end(), sheet->prefixes.begin(), sheet->prefixes.end());
    list_.open(opened, std::move(legend));
    fill(packs_, &catalogue::Entry::pack);
    fill(kinds_, &catalogue::Entry::kind);
    fillPrefixes();
    arrange();
    look();
}

void CataloguePage::fill(Ticks& ticks, const std::string catalogue::Entry::*of) {
    std::map<std::string, long> counts;
    for (const catalogue::Entry& entry : list_.catalogue()->entries()) ++counts[entry.*of];
    constexpr std::size_t most = 300;
    std::size_t shown = 0;
    for (const auto& [value, count] : counts) {
        if (++shown > most) {
            ticks.layout->addWidget(
                textLabel(tr("and %1 more, found by typing").arg(counts.size() - most), "dim"));
            break;
        }
        QString words = value.empty() ? tr("without") : qs(value);
        auto* tick = new QCheckBox(QString("%1  %2").arg(words, qs(showNumber(double(count), 0))));
        tick->setObjectName("only-" + qs(value));
        if (&ticks == &kinds_ && value == "loose") tick->setToolTip(tr("Set down beside a figure"));
        if (&ticks == &kinds_ && value == "worn") tick->setToolTip(tr("Worn on one of a figure's bones"));
        tick->setChecked(true);
        ticks.layout->addWidget(tick);
        connect(tick, &QCheckBox::toggled, this, [this, &ticks, value = value](bool on) {
            on ? void(ticks.leftOut.erase(value)) : void(ticks.leftOut.insert(value));
            look();
        });
    }
}

void CataloguePage::fillPrefixes() {
    std::set<std::string> used;
    for (const catalogue::Entry& entry : list_.catalogue()->entries())
        if (const auto* prefix = list_.prefixOf(entry)) used.insert(prefix->code);
    for (const platform::Prefix& prefix : list_.legend()) {
        if (!used.erase(prefix.code)) continue;
        auto* chip =
            choice(QString("%1  %2").arg(qs(prefix.code), qs(prefix.means)), "for-" + qs(prefix.code));
        chip->setToolTip(tr("Only items whose code begins with %1").arg(qs(prefix.code)));
        chip->setProperty("chip", true);
        prefixes_->addWidget(chip, 0, Qt::AlignLeft);
        connect(chip, &QPushButton::toggled, this, [this, code = prefix.code](bool on) {
            on ? void(filter_.prefixes.insert(code)) : void(filter_.prefixes.erase(code));
            look();
        });
    }
}

void CataloguePage::look() {
    if (!list_.catalogue()) return;
    std::set<std::uint32_t> chosen(panel_->chosen().begin(), panel_->chosen().end());
    filter_.words = words_->text();
    filter_.packsLeftOut = packs_.leftOut, filter_.kindsLeftOut = kinds_.leftOut;
    filter_.order = catalogue::Order(order_->checkedId());
    QElapsedTimer clock;
    clock.start();
    {
        const QSignalBlocker quiet(view_->selectionModel()); // the same items stay chosen
        list_.filter(filter_);
        for (int row = 0; !chosen.empty() && row < list_.rowCount(); ++row)
            if (chosen.erase(list_.placeAt(list_.index(row))))
                view_->selectionModel()->select(list_.index(row), QItemSelectionModel::Select);
    }
    const auto all = list_.catalogue()->entries().size();
    count_->setText(tr("%1 of %2, in %3\u202fms")
                        .arg(qs(showNumber(list_.rowCount(), 0)), qs(showNumber(double(all), 0)))
                        .arg(std::max<qint64>(1, clock.elapsed())));
    state_->setText(list_.rowCount() > 0 ? QString()
                    : all == 0           ? tr("The catalogue lists nothing.")
                                         : tr("No item is called or marked so. Clear the field, or tick more "
                                                        "packs and kinds."));
    state_->setVisible(!state_->text().isEmpty());
    showChosen();
}

void CataloguePage::showChosen() {
    std::vector<std::uint32_t> places;
    for (const QModelIndex& row : view_->selectionModel()->selectedIndexes())
        places.push_back(list_.placeAt(row));
    std::ranges::sort(places);
    panel_->show(std::move(places));
    fetchModel();
}

void CataloguePage::choose(const QString& title) {
    for (int row = 0; row < list_.rowCount(); ++row)
        if (list_.index(row).data().toString() == title) {
            view_->setCurrentIndex(list_.index(row));
            view_->scrollTo(list_.index(row));
        }
}

void CataloguePage::arrange() {
    const int wide = view_->viewport()->width() - 2;
    const int columns = cards_ ? std::max(1, wide / 196) : 1;
    const QSize size(wide / columns, cards_ ? 190 : 56);
    delegate_->setCards(cards_);
    delegate_->setSize(size);
    view_->setGridSize(size);
    fetchSoon_.start();
}

bool CataloguePage::eventFilter(QObject* watched, QEvent* event) {
    if (watched == view_->viewport() && event->type() == QEvent::Resize) arrange();
    return QWidget::eventFilter(watched, event);
}

} // namespace zl::app
