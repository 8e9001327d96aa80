// `learn`: a sheet out of files that a game takes, with the evidence for each limit.
#include "cli/commands/all_commands.h"

#include "core/base/file_set.h"
#include "core/learn/sheet_from.h"
#include "core/platform/check.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

nlohmann::ordered_json toJson(const platform::RuleSpec& rule) {
    nlohmann::ordered_json limits = nlohmann::ordered_json::object();
    for (const auto& [name, value] : rule.limits) limits[name] = value;
    for (const auto& [name, value] : rule.texts) limits[name] = value;
    return {{"check", rule.check}, {"severity", platform::severityName(rule.severity)}, {"limits", limits}};
}

class Learn : public Command {
public:
    std::string name() const override { return "learn"; }
    std::string help() const override { return "make a platform's sheet out of files that a game takes"; }
    void declare(CLI::App& app) override {
        app.add_option("FOLDER", folder_, "folder or archive of files that the game takes")->required();
        app.add_option("--refused", refused_, "folder or archive of files that it did not take");
        app.add_option("--out", out_, "sheet to write, ending in .toml");
        app.add_option("--name", name_, "what the game is called (as the sheet's file)");
        app.add_flag("--all", all_, "take in what is not sure too");
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        archives.give();
        const auto evidence = learn::evidenceOf({folder_, refused_}, progress);
        if (!out_.empty()) write(evidence);
        if (json)
            print(asJson(evidence));
        else
            tell(evidence);
        return Fine;
    }

private:
    std::set<std::string> taken(const learn::Evidence& evidence) const {
        if (!all_) return learn::sureOffers(evidence);
        std::set<std::string> out;
        for (const auto& property : evidence.properties)
            if (property.offered) out.insert(property.id);
        return out;
    }

    void write(const learn::Evidence& evidence) const {
        const std::filesystem::path file(out_);
        if (file.extension() != ".toml") throw Error("is no name for a sheet", out_, "Let it end in .toml.");
        std::string id = fileNameFrom(file.stem().string());
        std::ranges::replace(id, '_', '-');
        const std::string text = learn::sheetFrom(
            evidence, {id, name_.empty() ? file.stem().string() : name_, {}, {}}, taken(evidence));
        writeFile(file, text);
        platform::readSheet(file, sheetWords()); // what is written is what will be read
    }

    static nlohmann::ordered_json asJson(const learn::Evidence& evidence) {
        using Json = nlohmann::ordered_json;
        Json unreadable = Json::array(), properties = Json::array(), groups = Json::array(),
             templates = Json::array();
        for (const auto& passed : evidence.unreadable)
            unreadable.push_back({{"file", passed.path}, {"why", passed.why}});
        for (const auto& property : evidence.properties) {
            Json one{{"id", property.id}, {"label", property.label}, {"files", property.accepted.size()}};
            if (property.isNumber()) {
                one["unit"] = property.unit;
                one["least"] = property.least, one["middle"] = property.middle, one["most"] = property.most;
            }
            Json outliers = Json::array();
            for (const std::size_t file : property.outliers) outliers.push_back(evidence.files[file].path);
            one["outliers"] = outliers;
            if (property.offered) {
                Json offered{{"confidence", property.offered->confidence},
                             {"sure", property.offered->isSure}};
                if (property.offered->rule) offered.update(toJson(*property.offered->rule));
                for (const auto& [key, value] : property.offered->keys) offered["keys"][key] = value;
                if (!property.offered->sections.empty()) offered["sections"] = property.offered->sections;
                one["offered"] = std::move(offered);
            }
            if (property.id.starts_with("text:"))
                templates.push_back(
                    {{"path", property.id.substr(5)}, {"sections", one["offered"]["sections"]}});
            properties.push_back(std::move(one));
        }
        for (const auto& group : evidence.layout.groups) {
            Json files = Json::array();
            for (const auto& member : group.members)
                files.push_back({{"file", evidence.files[member.file].path},
                                 {"part", learn::partWord(member.part)},
                                 {"pattern", member.pattern}});
            groups.push_back({{"name", group.name}, {"refused", group.refused}, {"files", files}});
        }
        Json layout = Json::array();
        for (const auto& pattern : evidence.layout.patterns)
            layout.push_back({{"path", pattern.path},
                              {"part", learn::partWord(pattern.part)},
                              {"pieces", pattern.groups}});
        return {{"files", evidence.files.size()},
                {"unreadable", unreadable},
                {"properties", properties},
                {"files-layout", {{"layout", layout}, {"groups", groups}, {"templates", templates}}}};
    }

    void tell(const learn::Evidence& evidence) const {
        std::cout << fmt::format("  {}, {} unreadable\n",
                                 showCount(double(evidence.files.size()), "file", "files"),
                                 evidence.unreadable.size());
        for (const auto& passed : evidence.unreadable)
            std::cout << fmt::format("   ! {}: {}\n", passed.path, passed.why);
        for (const auto& property : evidence.properties) {
            std::cout << fmt::format("  {} {}", property.offered ? property.offered->isSure ? "+" : "?" : " ",
                                     property.label);
            if (property.isNumber())
                std::cout << fmt::format(": {} to {}, middle {} {}", showMeasure(property.least),
                                         showMeasure(property.most), showMeasure(property.middle),
                                         property.unit);
            std::cout << "\n";
            if (property.offered) std::cout << "      " << property.offered->confidence << "\n";
        }
        if (!out_.empty()) std::cout << "  wrote " << out_ << "\n";
    }

    std::string folder_, refused_, out_, name_;
    bool all_ = false;
};

} // namespace

std::unique_ptr<Command> makeLearn() {
    return std::make_unique<Learn>();
}

} // namespace zl::cli
