#include "app/fields/editors.h"
#include "app/fields/reference_box.h"
#include "app/qt_text.h"

#include "core/model/node_path.h"
#include "core/project/dependencies.h"

#include <QFileDialog>

#include <set>

namespace zl::app {

namespace {

QString nameIn(const nlohmann::json& reference) {
    return qs(reference.front().get<std::string>());
}

/// Adds "A file…", which asks for one, behind all else.
void offerFile(ReferenceBox& box, const QString& filter, const EditingPlace& place,
               const ValueChanged& changed, const nlohmann::json& now) {
    box.insertSeparator(box.count());
    const int file = box.count();
    box.addItem(QObject::tr("A file…"));
    QObject::connect(&box, &QComboBox::activated, &box, [&box, file, filter, changed, now, place](int index) {
        if (index != file) {
            if (box.has(index)) changed(box.value(index));
            return;
        }
        const QString chosen =
            QFileDialog::getOpenFileName(box.window(), QObject::tr("Choose a file"), {}, filter);
        if (chosen.isEmpty()) return box.setNow(now, {});
        const std::filesystem::path whole = chosen.toStdString();
        const auto path = place.project ? project::keptPath(*place.project, whole) : whole;
        changed({{"file", path.generic_string()}});
    });
}

} // namespace

QWidget* makeModelRefEditor(const fields::Field& field, const nlohmann::json& value,
                            const EditingPlace& place, const ValueChanged& changed) {
    auto* box = new ReferenceBox;
    if (value == nlohmann::json{{"piece", ""}}) box->offer(QObject::tr("choose…"), value);
    if (place.project) {
        if (!field.leastMeans.empty()) box->offer(qs(field.leastMeans), {{"yardstick", ""}});
        for (const auto& yardstick : place.project->yardsticks)
            box->offer(QObject::tr("%1 (yardstick)").arg(qs(yardstick.name)),
                       {{"yardstick", yardstick.name}});
        for (const auto& piece : place.project->pieces)
            if (piece.name != place.piece) box->offer(qs(piece.name), {{"piece", piece.name}});
    }
    box->setNow(value, QObject::tr("%1 (not there)").arg(nameIn(value)));
    offerFile(*box, {}, place, changed, value);
    return box;
}

QWidget* makePictureRefEditor(const fields::Field&, const nlohmann::json& value, const EditingPlace& place,
                              const ValueChanged& changed) {
    auto* box = new ReferenceBox;
    box->offer(QObject::tr("none"), {{"picture", ""}});
    for (const auto& image : place.model.images)
        if (image) box->offer(qs(image->name), {{"picture", image->name}});
    const bool isFile = value.begin().key() == "file";
    box->setNow(value, isFile ? nameIn(value) : QObject::tr("%1 (not there)").arg(nameIn(value)));
    offerFile(*box, QObject::tr("Pictures (*.png *.jpg *.jpeg *.tga *.bmp *.dds)"), place, changed, value);
    return box;
}

QWidget* makeNameEditor(const fields::Field& field, const nlohmann::json& value, const EditingPlace& place,
                        const ValueChanged& changed) {
    auto* box = new ReferenceBox;
    box->offer(field.leastMeans.empty() ? QObject::tr("choose…") : qs(field.leastMeans), "");
    std::set<std::string> offered;
    const auto offer = [&](const std::string& name, const QString& shown) {
        if (offered.insert(name).second) box->offer(shown, name);
    };
    if (field.isOf(fields::clipRef)) {
        for (const auto& clip : place.model.clips) offer(clip->name, qs(clip->name));
    } else if (field.isOf(fields::boneRef)) {
        for (const Skin& skin : place.model.skins)
            for (const int joint : skin.joints)
                offer(place.model.nodes[std::size_t(joint)].name,
                      qs(place.model.nodes[std::size_t(joint)].name));
    } else {
        const auto paths = nodePaths(place.model);
        for (std::size_t n = 0; n < paths.size(); ++n) offer(paths[n], qs(place.model.nodes[n].name));
    }
    const auto name = value.get<std::string>();
    box->setNow(value, QObject::tr("%1 (not there)").arg(qs(name)));
    QObject::connect(box, &QComboBox::activated, box,
                     [box, changed](int index) { changed(box->value(index)); });
    return box;
}

} // namespace zl::app
