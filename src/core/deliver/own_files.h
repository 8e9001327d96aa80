#pragma once
#include "core/deliver/deliver.h"

namespace zl::deliver {

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

protected:
    const void* data() const override { return &answers_; }
    void* data() override { return &answers_; }

private:
    std::map<std::string, std::string> answers(const platform::Sheet& sheet) const;

    std::span<const Field> fields_;
    std::array<std::string, platform::mostAsks> answers_;
};

} // namespace zl::deliver
