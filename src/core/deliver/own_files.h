#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

/// What one section of a sheet writes.
struct SectionFiles {
    enum class Section { File, Still, Table, Text };
    Section section = Section::File;
    std::size_t index = 0; ///< of its kind, from 0
    std::vector<OutFile> files;
    std::string problem; ///< why nothing comes of it; empty where something does
};

/// What a sheet itself says is written: model files, pictures, texts from templates, entries of tables and
/// drawn pictures, in a folder or in one archive (docs/sheets.md). Its parameters are the sheet's questions.
class OwnFiles final : public Deliverable {
public:
    static constexpr std::string_view id = "files";

    const DeliverableInfo& info() const override;
    std::span<const Field> fields() const override { return fields_; }
    std::unique_ptr<Deliverable> clone() const override { return std::make_unique<OwnFiles>(*this); }
    void forSheet(const platform::Sheet& sheet) override;
    std::vector<OutFile> make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                              const Progress& progress) const override;
    /// The same, section by section, before all of it goes into an archive: to be looked at. What goes wrong
    /// in one section is said there, and the others go on. Throws Refused for answers that are none,
    /// Cancelled.
    std::vector<SectionFiles> preview(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const;

protected:
    const void* data() const override { return &answers_; }
    void* data() override { return &answers_; }

private:
    std::map<std::string, std::string> answers(const platform::Sheet& sheet) const;

    std::span<const Field> fields_;
    std::array<std::string, platform::mostAsks> answers_;
};

} // namespace zl::deliver
