#include "core/deliver/own_files.h"

#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/base/lines.h"
#include "core/base/words.h"
#include "core/deliver/asked_fields.h"
#include "core/deliver/output_model.h"
#include "core/deliver/packed_pictures.h"
#include "core/deliver/piece_data.h"
#include "core/deliver/placed_for.h"
#include "core/deliver/table_entries.h"
#include "core/formats/written_pictures.h"
#include "core/model/clothe_bare.h"
#include "core/model/used_only.h"
#include "core/platform/delivered_path.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

namespace fs = std::filesystem;

namespace zl::deliver {

namespace {

using platform::Each;
using platform::FileOutput;
using Values = std::map<std::string, std::string>;

/// One delivery on its way: files so far, and what texts can say of them.
class Making {
public:
    Making(const Model& model, const platform::Sheet& sheet, const Labels& labels, Values answers)
        : model_(model), sheet_(sheet), labels_(labels), answers_(std::move(answers)), values_(answers_) {
        values_["name"] = labels.name;
        values_["platform"] = sheet.id;
        values_["size"] = labels.sizes.first;
    }

    void write(const FileOutput& file) {
        if (!isMeant(file.when)) return;
        const auto* format = formats::formatWithId(file.format);
        if (!format || !format->write)
            throw Refused(fmt::format("\"{}\" is no format that is written", file.format), sheet_.name,
                          "Name another one in its sheet.");
        frame_ = frame_ ? frame_ : writeOptionsFor(file, sheet_);
        const bool packed = file.pictures == FileOutput::Pictures::Packed;
        if (packed) packPictures();
        for (Output& output : outputsOf(file, packed ? packedModel() : model_, sheet_, values_))
            write(file, *format, std::move(output));
    }

    void write(const platform::StillOutput& still, const Progress& progress) {
        if (!isMeant(still.when)) return;
        progress.report(0, "drawing a picture");
        add({platform::filledPath(still.path, values_),
             texture::encodePng(render::snapshot(model_, {.width = still.width, .height = still.height}),
                                false)},
            {Written::Kind::Other});
    }

    void write(const platform::TextOutput& text) {
        if (!isMeant(text.when)) return;
        for (auto& [path, made] : filled(text.text, text.from.empty() ? text.path : text.from, text.each,
                                         text.path, text.escaping))
            add({path, text.windowsLines ? withWindowsLines(made) : std::move(made)}, {Written::Kind::Other});
    }

    void write(const platform::TableOutput& table) {
        if (!isMeant(table.when)) return;
        const Escaping as = table.form == platform::TableOutput::Form::Csv   ? Escaping::Csv
                            : table.form == platform::TableOutput::Form::Xml ? Escaping::Xml
                                                                             : Escaping::Json;
        std::vector<std::string> entries;
        for (auto& [path, entry] : filled(table.entry, table.path, table.each, table.path, as))
            entries.push_back(std::move(entry));
        const std::string path = platform::filledPath(table.path, values_);
        add({path, tableWith("", table, entries, path)}, {Written::Kind::Other});
    }

    const std::vector<OutFile>& files() const { return files_; }

    /// Everything in one archive, where the sheet wants that.
    std::vector<OutFile> packed() {
        const std::string& path = sheet_.files.packed;
        if (path.empty()) return std::move(files_);
        return {{platform::filledPath(path, values_),
                 path.ends_with(".7z") ? sevenZipped(files_) : zipped(files_)}};
    }

private:
    bool isMeant(const platform::When& when) const {
        return when.ask.empty() || answers_.at(when.ask) == when.answer;
    }

    void add(OutFile file, Written about) {
        about.path = file.name;
        about.bytes = file.bytes.size();
        if (!taken_.insert(file.name).second)
            throw Refused(fmt::format("\"{}\" would be written twice", file.name), sheet_.name,
                          "Put {object}, {material} or {n} into its path, or name one of them otherwise.");
        written_.push_back(std::move(about));
        files_.push_back(std::move(file));
    }

    void write(const FileOutput& file, const formats::Format& format, Output output) {
        const fs::path path(output.path), folder = path.parent_path();
        formats::WriteOptions options = output.options;
        options.name = path.stem().string();
        Model made = std::move(output.model);
        using enum FileOutput::Pictures;
        const formats::WrittenPictures* shared = nullptr;
        const bool inside =
            format.write == formats::writeGlb && file.pictures == Usual && file.pictureFolder.empty();
        const bool names = !format.loses.has(formats::Aspect::Pictures) && !inside && file.pictures != None &&
                           file.pictures != Packed && file.what == FileOutput::What::Model;
        if (file.pictures == Apart || (file.each != Each::Piece && names)) {
            shared = &picturesIn(platformFolder(file.pictureFolder));
            writeOnce(*shared);
        }
        // Other writers leave out by themselves what nobody wears, and number the rest as the model does.
        if (format.write == formats::writeGlb) made = withUsedMaterialsOnly(std::move(made));
        if (file.pictures == Apart || file.pictures == None || file.pictures == Packed)
            made = withoutPictures(std::move(made));
        formats::WrittenPictures renumbered;
        if (shared && file.pictures != Apart) {
            renumbered = namesFor(made, *shared, folder);
            options.written = &renumbered;
        }
        if (!file.pictureFolder.empty()) {
            const std::string relative =
                fs::path(platformFolder(file.pictureFolder)).lexically_relative(folder).generic_string();
            options.pictureFolder = relative == "." ? "" : relative + (relative.ends_with('/') ? "" : "/");
        }
        auto written = format.write(made, options, nullptr);
        if (!whole_ && file.what == FileOutput::What::Model && file.each == Each::Piece) whole_ = made;
        written[0].name = path.filename().string();
        for (std::size_t i = 0; i < written.size(); ++i) {
            written[i].name = (folder / written[i].name).lexically_normal().generic_string();
            const bool picture = i > 0 && texture::isPictureFile(written[i].name);
            const auto main =
                file.what == FileOutput::What::Body ? Written::Kind::Body : Written::Kind::Model;
            if (i > 0 && file.what == FileOutput::What::Body) continue; // bodies wear nothing
            if (picture && taken_.contains(written[i].name)) continue;  // of another size, or file
            add(std::move(written[i]), {picture  ? Written::Kind::Picture
                                        : i == 0 ? main
                                                 : Written::Kind::Other,
                                        {},
                                        0,
                                        output.object,
                                        output.material});
        }
    }

    std::string platformFolder(const std::string& folder) const {
        return folder.empty() ? "" : platform::filledPath(folder, values_);
    }

    /// All pictures of the piece as they lie in one folder, whatever file they belong to.
    const formats::WrittenPictures& picturesIn(const std::string& folder) {
        auto [at, isNew] = shared_.try_emplace(folder);
        if (isNew) at->second = formats::writtenPictures(model_, folder);
        return at->second;
    }
    void writeOnce(const formats::WrittenPictures& pictures) {
        for (const OutFile& picture : pictures.files) {
            if (taken_.contains(picture.name)) continue;
            int material = -1;
            for (const auto& [image, name] : pictures.names)
                if (name == picture.name)
                    for (int m = int(model_.materials.size()) - 1; m >= 0; --m)
                        if (std::ranges::any_of(model_.materials[std::size_t(m)].pictures,
                                                [&](const PictureUse& use) { return use.image == image; }))
                            material = m;
            add(picture, {Written::Kind::Picture, {}, 0, {}, material});
        }
    }
    /// Their names by the numbers that pictures have in a part of the model, as seen from its folder.
    formats::WrittenPictures namesFor(const Model& part, const formats::WrittenPictures& all,
                                      const fs::path& folder) const {
        formats::WrittenPictures out;
        for (const auto& [image, name] : all.names)
            for (std::size_t i = 0; i < part.images.size(); ++i)
                if (part.images[i] == model_.images[std::size_t(image)])
                    out.names[int(i)] = fs::path(name).lexically_relative(folder).generic_string();
        return out;
    }

    const Model& packedModel() {
        if (!packed_) {
            Model clothed = withUsedMaterialsOnly(model_);
            clotheBare(clothed, fileNameFrom(labels_.name).substr(0, 40));
            packed_ = withMaterialNamesOnce(std::move(clothed));
            for (Material& material : packed_->materials)
                material.name = sheet_.surface.materialFor(material.name);
        }
        return *packed_;
    }
    void packPictures() {
        if (isPacked_) return;
        isPacked_ = true;
        if (sheet_.surface.pictures.empty())
            throw Refused("its sheet names no pictures", sheet_.name, "Add a [[picture]] section to it.");
        const Model& model = packedModel();
        for (int m = 0; m < int(model.materials.size()); ++m)
            for (const platform::SheetPicture& picture : sheet_.surface.pictures) {
                const PackedPicture packed = packedFor(picture, model.materials[std::size_t(m)], model);
                const auto& format = texture::pictureFormat(picture.format);
                const auto roles = picture.roles();
                const std::string path =
                    platform::filledPath(picture.name, {{"material", model.materials[std::size_t(m)].name},
                                                        {"name", labels_.name}});
                add({path + std::string(format.extension),
                     format.write(packed.pixels, packed.alpha,
                                  roles.empty() ? texture::PixelKind::Numbers
                                                : texture::pixelKindOf(roles[0]))},
                    {Written::Kind::Picture, {}, 0, {}, m, roleOf(picture)});
            }
    }
    /// "{material}-n" is "n".
    static std::string roleOf(const platform::SheetPicture& picture) {
        std::string out = picture.nameFor("");
        const auto isMark = [](char c) { return c == '-' || c == '_' || c == '.' || c == '/'; };
        while (!out.empty() && isMark(out.front())) out.erase(0, 1);
        while (!out.empty() && isMark(out.back())) out.pop_back();
        return out;
    }

    /// The texts of a section: where each goes, and the template with what it can name there.
    std::vector<std::pair<std::string, std::string>> filled(const std::string& text, const std::string& where,
                                                            Each what, const std::string& path, Escaping as) {
        const TextTemplate made(text, where, sheet_.files.parts);
        const Model& model = packed_ ? *packed_ : model_;
        const nlohmann::json data =
            pieceData(model, whole_ ? *whole_ : model, sheet_, labels_,
                      frame_ ? *frame_ : writeOptionsFor(sheet_, {}), answers_, written_);
        const TemplateData all(data, as);
        if (what == Each::Piece) return {{platform::filledPath(path, values_), made.filled(all)}};
        const bool pictures = what == Each::Picture;
        const char* list = what == Each::Object ? "objects" : pictures ? "pictures" : "materials";
        const char* one = what == Each::Object ? "object" : pictures ? "picture" : "material";
        std::vector<std::pair<std::string, std::string>> out;
        for (const auto& entry : data[list]) {
            Values places = values_;
            places[one] = entry.at(pictures ? "stem" : "name").get<std::string>();
            places["n"] = std::to_string(out.size() + 1);
            const TemplateData own({{one, entry}}, as);
            out.emplace_back(platform::filledPath(pictures ? withPicturePath(path, entry) : path, places),
                             made.filled(all, &own));
        }
        return out;
    }
    /// `{file}` of a picture is its whole path, as it is.
    static std::string withPicturePath(std::string path, const nlohmann::json& picture) {
        if (const std::size_t at = path.find("{file}"); at != std::string::npos)
            path.replace(at, 6, picture.at("path").get<std::string>());
        return path;
    }

    const Model& model_;
    const platform::Sheet& sheet_;
    const Labels& labels_;
    Values answers_, values_;
    std::optional<Model> whole_; ///< as the first file has it that holds all
    std::optional<Model> packed_;
    bool isPacked_ = false;
    std::optional<formats::WriteOptions> frame_; ///< of the first model file, for numbers in texts
    std::map<std::string, formats::WrittenPictures> shared_;
    std::vector<Written> written_;
    std::vector<OutFile> files_;
    std::set<std::string> taken_;
};

/// Every section of a sheet in the order in which they are written: texts last, as they name the others.
/// `visit` gets the section's kind and number, and what writes it.
void forEachSection(Making& making, const platform::SheetFiles& own, const Progress& progress,
                    const auto& visit) {
    using enum SectionFiles::Section;
    for (std::size_t i = 0; i < own.files.size(); ++i) {
        progress.report(0.8 * double(i) / double(own.files.size()), "writing " + own.files[i].path);
        visit(File, i, [&] { making.write(own.files[i]); });
    }
    for (std::size_t i = 0; i < own.stills.size(); ++i)
        visit(Still, i, [&] { making.write(own.stills[i], progress.between(0.8, 0.9)); });
    for (std::size_t i = 0; i < own.tables.size(); ++i) visit(Table, i, [&] { making.write(own.tables[i]); });
    for (std::size_t i = 0; i < own.texts.size(); ++i) visit(Text, i, [&] { making.write(own.texts[i]); });
}

} // namespace

const DeliverableInfo& OwnFiles::info() const {
    static constexpr DeliverableInfo info{id, "Files as the sheet says",
                                          "Model files, pictures, texts and tables that the platform's sheet "
                                          "describes."};
    return info;
}

void OwnFiles::forSheet(const platform::Sheet& sheet) {
    fields_ = askedFields(sheet.files.asks);
}

Values OwnFiles::answers(const platform::Sheet& sheet) const {
    Values out;
    for (std::size_t i = 0; i < sheet.files.asks.size(); ++i) {
        const platform::Ask& ask = sheet.files.asks[i];
        std::string answer = answers_[i];
        if (answer.empty()) answer = ask.options.empty() ? ask.usual : ask.options.front();
        if (!ask.options.empty() && std::ranges::find(ask.options, answer) == ask.options.end())
            throw Refused(fmt::format("there is no {} \"{}\"", ask.name, answer), sheet.name,
                          "Choose one of " + inARow(ask.options) + ".");
        out[ask.name] = answer;
    }
    return out;
}

std::vector<OutFile> OwnFiles::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                    const Progress& progress) const {
    Making making(model, sheet, labels, answers(sheet));
    forEachSection(making, sheet.files, progress,
                   [](SectionFiles::Section, std::size_t, const auto& write) { write(); });
    if (!sheet.files.packed.empty()) progress.report(0.95, "packing");
    return making.packed();
}

std::vector<SectionFiles> OwnFiles::preview(const Model& model, const platform::Sheet& sheet,
                                            const Labels& labels, const Progress& progress) const {
    std::vector<SectionFiles> out;
    Making making(model, sheet, labels, answers(sheet));
    forEachSection(making, sheet.files, progress,
                   [&](SectionFiles::Section section, std::size_t index, const auto& write) {
                       SectionFiles made{section, index, {}, {}};
                       const std::size_t before = making.files().size();
                       try {
                           write();
                       } catch (const Error& problem) {
                           made.problem = problem.whole();
                       }
                       made.files.assign(making.files().begin() + std::ptrdiff_t(before),
                                         making.files().end());
                       out.push_back(std::move(made));
                   });
    return out;
}

} // namespace zl::deliver
