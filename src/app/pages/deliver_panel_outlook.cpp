// What a build would write, or what stands in its way.
#include "app/pages/deliver_panel.h"

#include "app/pages/files_dialog.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include "core/base/units.h"
#include "core/deliver/deliver.h"
#include "core/project/dependencies.h"

#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace zl::app {

void DeliverPanel::addPreview() {
    if (preview_.isNull()) return;
    constexpr int wide = 280; // logical pixels, what the side column has room for
    auto* picture = new QLabel;
    picture->setObjectName("preview");
    picture->setAccessibleName(tr("Preview"));
    QPixmap pixels =
        QPixmap::fromImage(preview_.scaledToWidth(int(wide * devicePixelRatioF()), Qt::SmoothTransformation));
    pixels.setDevicePixelRatio(devicePixelRatioF());
    picture->setPixmap(pixels);
    layout_->addWidget(picture, 0, Qt::AlignLeft);
}

void DeliverPanel::addFiles(const std::vector<std::pair<std::string, std::size_t>>& files) {
    constexpr std::size_t most = 14; // of hundreds nobody reads more
    const std::size_t listed = files.size() > most ? most - 2 : files.size();
    std::size_t rest = 0;
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (i >= listed) {
            rest += files[i].second;
            continue;
        }
        auto* row = new QHBoxLayout;
        const QFileInfo file(qs(files[i].first)); // within its folder, where it is not written yet
        row->addWidget(textLabel(file.isAbsolute() ? file.fileName() : qs(files[i].first)), 1);
        auto* size = textLabel(qs(showBytes(double(files[i].second))), "dim");
        size->setWordWrap(false);
        row->addWidget(size);
        layout_->addLayout(row);
    }
    if (listed < files.size())
        layout_->addWidget(textLabel(
            tr("and %1 more, %2").arg(files.size() - listed).arg(qs(showBytes(double(rest)))), "dim"));
}

void DeliverPanel::addOutlook(const SheetPointer& sheet) {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (state.kind != CrossingState::Kind::Ready) return;
    layout_->addWidget(line());
    if (!state.report.fits()) {
        layout_->addWidget(headingLabel(tr("Stands in the way"), 2));
        layout_->addWidget(textLabel(tr("Nothing is written while a limit is broken."), "dim"));
        for (const auto& rule : state.report.rules) {
            if (rule.state != platform::State::Broken || rule.severity != platform::Severity::Must) continue;
            auto* go = button(qs(rule.label), nullptr, "triangle-alert");
            go->setObjectName("inTheWay-" + qs(rule.id));
            go->setToolTip(tr("Show it, with what mends it"));
            connect(go, &QPushButton::clicked, this, [this, id = qs(rule.id)] { Q_EMIT ruleAsked(id); });
            layout_->addWidget(go, 0, Qt::AlignLeft);
            layout_->addWidget(
                textLabel(tr("%1; limit %2.").arg(qs(rule.finding.note), qs(rule.finding.limit)), "dim"));
        }
        return;
    }
    const Hash key = session_.deliveryKey(piece_.toStdString(), platform_.toStdString());
    if (outlook_.key != key) lookAhead(sheet, key);
    layout_->addWidget(headingLabel(tr("Will be written"), 2));
    if (!outlook_.problem.isEmpty()) {
        layout_->addWidget(textLabel(outlook_.problem, "bad"));
    } else if (!outlook_.ready) {
        layout_->addWidget(textLabel(tr("Working out which files…"), "dim"));
    } else {
        std::size_t all = 0;
        for (const auto& [name, bytes] : outlook_.files) all += bytes;
        addFiles(outlook_.files);
        layout_->addWidget(textLabel(
            tr("%1 together, %2")
                .arg(qs(showCount(long(outlook_.files.size()), "file", "files")), qs(showBytes(double(all)))),
            "dim"));
        auto* look = button(tr("Look into them…"), nullptr, "eye");
        look->setObjectName("lookIntoFiles");
        look->setToolTip(tr("Shows every file as it would be written: texts, pictures, models"));
        connect(look, &QPushButton::clicked, this, [this, sheet] { lookInto(sheet); });
        layout_->addWidget(look, 0, Qt::AlignLeft);
    }
}

std::function<std::vector<OutFile>(const Progress&)> DeliverPanel::maker(const SheetPointer& sheet) const {
    const auto* piece = session_.project().piece(piece_.toStdString());
    return [model = session_.state(piece_.toStdString(), sheet->id).evaluation.model, sheet,
            labels = labelled(*piece, sheet->id),
            params = deliveryFor(*piece, sheet->id)](const Progress& progress) {
        return deliver::deliverableFor(*sheet, params)->make(model, *sheet, labels, progress);
    };
}

void DeliverPanel::lookInto(const SheetPointer& sheet) {
    if (!session_.project().piece(piece_.toStdString())) return;
    (new FilesDialog(session_.jobs(), tr("%1 for %2").arg(piece_, qs(sheet->name)), maker(sheet), window()))
        ->open();
}

deliver::Labels DeliverPanel::labelled(const project::Piece& piece, const std::string& platform) const {
    auto labels = project::labelsFor(session_.project(), piece, platform);
    labels.sizes = session_.state(piece.name, platform).sizes();
    return labels;
}

void DeliverPanel::lookAhead(const SheetPointer& sheet, Hash key) {
    const auto* piece = session_.project().piece(piece_.toStdString());
    if (!piece) return;
    outlook_ = {};
    outlook_.key = key;
    session_.jobs().start<Outlook>(
        tr("Working out the files of %1").arg(piece_), this,
        [make = maker(sheet), key](const Progress& progress) {
            Outlook outlook;
            outlook.key = key, outlook.ready = true;
            for (const OutFile& file : make(progress)) {
                outlook.files.emplace_back(file.name, file.bytes.size());
                if (file.name == "preview.png")
                    outlook.preview.loadFromData(QByteArray::fromStdString(file.bytes), "PNG");
            }
            return outlook;
        },
        [this, key](Outlook outlook) {
            if (outlook_.key != key) return;
            outlook_ = std::move(outlook);
            preview_ = outlook_.preview;
            rebuild();
        },
        [this, key](const QString& problem) {
            if (outlook_.key != key) return;
            outlook_.problem = problem;
            rebuild();
        },
        Urgency::Shown, [this] { outlook_ = {}; });
}

} // namespace zl::app
