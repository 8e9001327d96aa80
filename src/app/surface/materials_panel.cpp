#include "app/surface/materials_panel.h"

#include "app/qt_text.h"
#include "app/widgets/choosable_card.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/ui.h"

#include "core/solids/scene_model.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include <set>

namespace zl::app {

namespace {

constexpr std::size_t mostCards = 60;

QLabel* swatchLabel(const QImage& swatch, int edge) {
    auto* label = new QLabel;
    label->setFixedSize(edge, edge);
    label->setPixmap(
        QPixmap::fromImage(swatch.scaled(edge, edge, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)));
    label->setAttribute(Qt::WA_TransparentForMouseEvents);
    return label;
}

QString factsOf(const MaterialLook& material) {
    std::set<int> pictures; // one may be there for several roles
    for (const auto& picture : material.pictures) pictures.insert(picture.image);
    QStringList words{qs(showCount(long(pictures.size()), "picture", "pictures")),
                      qs(showCount(long(material.triangles), "triangle", "triangles"))};
    if (material.density > 0)
        words << QObject::tr("%1 texels a metre").arg(qs(showNumber(material.density, 0)));
    if (material.memory > 0) words << QObject::tr("%1 of memory").arg(qs(showBytes(material.memory)));
    return words.join(" · ");
}

QString pictureWords(const SurfaceLook& look, const MaterialLook::Picture& picture) {
    QString name = qs(look.model.images[std::size_t(picture.image)]->name);
    if (picture.channel != PictureChannel::Colour)
        name += QObject::tr(", %1").arg(qs(platform::channelName(picture.channel)));
    return name;
}

} // namespace

MaterialsPanel::MaterialsPanel(QWidget* parent) : QWidget(parent) {
    setObjectName("materials");
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(8);
}

void MaterialsPanel::show(std::shared_ptr<const SurfaceLook> look) {
    look_ = std::move(look);
    if (!look_->material(opened_))
        opened_ = look_->materials.empty() || isLit() ? QString() : look_->materials[0].name;
    rebuild();
}

void MaterialsPanel::showNone(const QString& why) {
    look_.reset();
    clearLayout(layout_);
    layout_->addWidget(textLabel(why, "dim"));
}

void MaterialsPanel::open(const QString& material) {
    if (opened_ == material || !look_ || !look_->material(material)) return;
    opened_ = material;
    shown_.reset();
    rebuild();
    scrollSoon(this, [this] { return findChild<QWidget*>("material-" + opened_); });
    Q_EMIT openedChanged();
}

void MaterialsPanel::setShown(std::optional<ChosenPicture> picture) {
    if (shown_ == picture) return;
    shown_ = picture;
    for (auto* row : findChildren<QPushButton*>())
        if (row->property("row").toBool())
            row->setChecked(shown_ && row->property("delivered").toBool() == shown_->delivered &&
                            row->property("index").toULongLong() == shown_->index);
}

bool MaterialsPanel::isLit() const {
    const solids::Shown* scene = look_ ? solids::shownBy(look_->model) : nullptr;
    return scene && scene->lit;
}

void MaterialsPanel::rebuild() {
    clearLayout(layout_);
    if (!look_) return;
    if (isLit()) { // a material for each face, which tells nobody anything
        layout_->addWidget(
            textLabel(tr("All light is in %1, one a face. Click a face in the view to see its own.")
                          .arg(qs(showCount(long(look_->materials.size()), "picture", "pictures"))),
                      "dim"));
        if (const MaterialLook* one = look_->material(opened_)) layout_->addWidget(card(*one));
        return;
    }
    const platform::SheetSurface& surface = look_->sheet->surface;
    const auto named = [](const MaterialLook& material) { return material.index >= 0; };
    const auto count = std::ranges::count_if(look_->materials, named);
    QString head =
        count == 0 ? tr("No materials.") : qs(showCount(long(count), "material", "materials")) + ".";
    if (count > 0 && surface.materialName != "{name}")
        head += tr(" The project keeps their plain names; %1 is written on delivery.")
                    .arg(qs(surface.materialFor(
                        std::ranges::find_if(look_->materials, named)->name.toStdString())));
    layout_->addWidget(textLabel(head, "dim"));
    for (std::size_t i = 0; i < std::min(mostCards, look_->materials.size()); ++i)
        layout_->addWidget(card(look_->materials[i]));
    if (look_->materials.size() > mostCards)
        layout_->addWidget(textLabel(
            tr("and %1 more; click one in the view to open it").arg(look_->materials.size() - mostCards),
            "dim"));
}

QWidget* MaterialsPanel::card(const MaterialLook& material) {
    const bool open = material.name == opened_;
    auto* frame = new ChoosableCard;
    frame->setObjectName("material-" + material.name);
    frame->setAccessibleName(tr("Material %1").arg(material.name));
    frame->setProperty("selected", open);
    frame->chosen = [this, name = material.name] { this->open(name); };
    auto* column = new QVBoxLayout(frame);
    column->setContentsMargins(11, open ? 9 : 6, 10, open ? 9 : 6);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->setSpacing(10);
    head->addWidget(swatchLabel(material.swatch, open ? 40 : 28), 0, Qt::AlignTop);
    auto* words = new QVBoxLayout;
    words->setSpacing(1);
    auto* name = headingLabel(breakable(material.name), 2);
    QLabel* facts = open ? textLabel(factsOf(material), "dim") : new ElidedLabel(factsOf(material));
    facts->setProperty("dim", true);
    for (QLabel* label : {name, facts}) {
        label->setAttribute(Qt::WA_TransparentForMouseEvents);
        words->addWidget(label);
    }
    head->addLayout(words, 1);
    column->addLayout(head);
    if (open) addPictures(material, column);
    return frame;
}

void MaterialsPanel::addPictures(const MaterialLook& material, QVBoxLayout* into) {
    const auto row = [&](const QString& what, const QString& name, const QImage& thumb,
                         std::optional<ChosenPicture> picture) {
        auto* button = new QPushButton;
        button->setProperty("row", true);
        button->setCheckable(true);
        auto* line = new QHBoxLayout(button);
        line->setContentsMargins(4, 0, 4, 0);
        line->setSpacing(6);
        auto* small = new QLabel;
        small->setFixedSize(18, 18);
        if (!thumb.isNull())
            small->setPixmap(
                QPixmap::fromImage(thumb.scaled(18, 18, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)));
        // What is delivered has a name as long as its material's; a role is short.
        const bool delivered = picture && picture->delivered;
        auto* named = delivered ? new ElidedLabel(what) : nullptr;
        if (named) named->setElide(Qt::ElideMiddle); // its ending tells it from the others
        QLabel* role = named ? named : new QLabel(what);
        role->setProperty("dim", !delivered);
        auto* file = new ElidedLabel(name);
        file->setElide(Qt::ElideMiddle);
        file->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        for (QWidget* label : std::initializer_list<QWidget*>{small, role, file})
            label->setAttribute(Qt::WA_TransparentForMouseEvents);
        line->addWidget(small);
        line->addWidget(role, delivered ? 3 : 0);
        line->addWidget(file, 2);
        button->setMinimumHeight(26);
        button->setAccessibleName(what + ": " + name);
        button->setToolTip(name);
        into->addWidget(button);
        if (!picture) {
            button->setEnabled(false);
            return;
        }
        button->setObjectName(
            QString("picture-%1-%2").arg(picture->delivered ? "delivered" : "source").arg(picture->index));
        button->setProperty("delivered", picture->delivered);
        button->setProperty("index", qulonglong(picture->index));
        button->setChecked(shown_ == picture);
        connect(button, &QPushButton::clicked, this,
                [this, picture = *picture] { Q_EMIT pictureChosen(picture); });
    };
    for (std::size_t i = 0; i < material.pictures.size(); ++i) {
        const auto& picture = material.pictures[i];
        QString role = qs(roleName(picture.role));
        row(role.left(1).toUpper() + role.mid(1), pictureWords(*look_, picture), picture.thumb,
            ChosenPicture{false, i});
    }
    if (material.pictures.empty()) into->addWidget(textLabel(tr("It wears no picture."), "dim"));
    if (!material.delivered.empty()) {
        using By = MaterialLook::Delivered::By;
        const By by = material.delivered[0].by;
        into->addWidget(textLabel(by == By::Importer  ? tr("As its importer shows it")
                                  : by == By::Console ? tr("As the console shows it, what loses least first")
                                                      : tr("Packed on delivery"),
                                  "dim"));
        for (std::size_t i = 0; i < material.delivered.size(); ++i) {
            const auto& made = material.delivered[i];
            row(made.name, made.about, {}, ChosenPicture{true, i});
            if (made.detail.isEmpty()) continue;
            auto* detail = textLabel(made.detail, "dim");
            detail->setIndent(29); // below the name
            into->addWidget(detail);
        }
        if (!material.missing.empty())
            into->addWidget(
                textLabel(tr("No picture of %1: the plain value is packed.")
                              .arg(QStringList(material.missing.begin(), material.missing.end()).join(", ")),
                          "warn"));
    }
    auto* bind = button(tr("Bind pictures…"), nullptr, "image");
    bind->setObjectName("bindPictures");
    bind->setToolTip(tr("Find pictures for the materials by the endings of their names"));
    connect(bind, &QPushButton::clicked, this, &MaterialsPanel::bindAsked);
    into->addWidget(bind, 0, Qt::AlignLeft);
}

} // namespace zl::app
