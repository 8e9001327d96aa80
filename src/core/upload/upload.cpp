#include "core/upload/upload.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/base/units.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <set>

namespace zl::upload {

namespace {

class Uploader {
public:
    Uploader(const Cargo& cargo, Region region, Connection& connection, const Log& log,
             const Progress& progress)
        : cargo_(cargo), region_(region), connection_(connection), log_(log), progress_(progress) {}

    Uploaded take() {
        say(fmt::format("{} to the {} region: {}, {}, {}", cargo_.name, regionName(region_),
                        showCount(long(cargo_.pictures.size()), "picture", "pictures"),
                        showCount(long(cargo_.solids.size()), "solid", "solids"),
                        showCount(long(cargo_.groups.size()), "group", "groups")));
        connection_.logIn(progress_);
        say("logged in");
        if (region_ == Region::Main) demandVerdict();
        const Answer folder = demand("PUT", "/inventory/" + cargo_.name, {}, Connection::json);
        say(fmt::format("folder {} {}", cargo_.name, folder.status == 201 ? "made" : "is there"));
        const std::set<std::string> there = picturesThere();
        for (const Cargo::Picture& picture : cargo_.pictures) send(picture, there.contains(picture.hash));
        demand("PUT", build() + hash(), {}, Connection::json);
        standing(region_);
        for (const Cargo::Part& group : cargo_.groups)
            send("group", group, "groups", groupsThere_, Connection::json, out_.groups);
        for (const Cargo::Part& solid : cargo_.solids)
            send("solid", solid, "solids", solidsThere_, Connection::xml, out_.solids);
        finish();
        return std::move(out_);
    }

private:
    void say(std::string line) {
        out_.log.push_back(line);
        if (log_) log_(line);
    }
    void went() {
        ++done_;
        progress_.report(double(done_) / double(cargo_.pieces() + 1),
                         fmt::format("{} of {}", done_, cargo_.pieces()));
    }

    std::string build(Region region) const {
        return fmt::format("/regions/{}/builds/{}", regionName(region), cargo_.name);
    }
    std::string build() const { return build(region_); }
    std::string hash() const { return "?hash=" + cargo_.hash; }

    Answer demand(const char* method, const std::string& path, const std::string& body, const char* type) {
        Answer answer = connection_.ask(method, path, body, type, progress_);
        if (!answer.isFine()) {
            say("refused: " + answer.why());
            throw Refused(answer.why(), fmt::format("the {} region", regionName(region_)),
                          answer.status == 413 || answer.status == 422 || answer.status == 507
                              ? "Mend the scene, build it and upload it again."
                              : "");
        }
        return answer;
    }

    /// Whether the whole stands there; fills what is there of it.
    bool standing(Region region) {
        const Answer answer = connection_.ask("GET", build(region) + hash(), {}, Connection::json, progress_);
        if (!answer.isFine()) return false;
        const auto said = parsedJson(answer.body);
        if (!said.is_object()) return false;
        const auto numbers = [&](const char* name, std::set<int>& into) {
            into.clear();
            if (const auto found = said.find(name); found != said.end() && found->is_array())
                for (const auto& one : *found)
                    if (one.is_number_integer()) into.insert(one.get<int>());
        };
        numbers("solids", solidsThere_), numbers("groups", groupsThere_);
        return said.value("done", false);
    }

    void demandVerdict() {
        if (standing(Region::Test)) {
            say("it stands in the test region as it is");
            return;
        }
        say("refused: it does not stand in the test region");
        throw Refused("the main region wants what stands in the test region, as it is", cargo_.name,
                      "Upload it to the test region first.");
    }

    std::set<std::string> picturesThere() {
        const Answer answer = demand("GET", "/inventory/" + cargo_.name, {}, Connection::json);
        std::set<std::string> out;
        const auto said = parsedJson(answer.body);
        if (said.is_object() && said.contains("pictures") && said["pictures"].is_array())
            for (const auto& hash : said["pictures"])
                if (hash.is_string()) out.insert(hash.get<std::string>());
        return out;
    }

    void send(const Cargo::Picture& picture, bool there) {
        if (there)
            ++out_.there;
        else {
            const std::string bytes = readText(cargo_.folder / picture.file);
            demand("PUT", "/inventory/" + cargo_.name + "/" + picture.hash, bytes, Connection::bytes);
            ++out_.pictures;
            say(fmt::format("picture {}, {} bytes", picture.file, picture.bytes));
        }
        went();
    }

    void send(const char* what, const Cargo::Part& part, const char* in, const std::set<int>& there,
              const char* type, std::size_t& count) {
        if (there.contains(part.number))
            ++out_.there;
        else {
            demand("PUT", fmt::format("{}/{}/{}{}", build(), in, part.number, hash()), part.body, type);
            ++count;
            say(fmt::format("{} {} {}", what, part.number, part.name));
        }
        went();
    }

    void finish() {
        const Answer answer = demand(
            "POST", build() + "/done" + hash(),
            jsonText(nlohmann::json{{"solids", cargo_.solids.size()}, {"groups", cargo_.groups.size()}}),
            Connection::json);
        const auto said = parsedJson(answer.body);
        if (said.is_object()) {
            if (said.contains("verdict") && said["verdict"].is_string()) out_.verdict = said["verdict"];
            if (said.contains("above") && said["above"].is_number()) out_.above = said["above"];
        }
        say(fmt::format("it {} in the {} region, {} m above you; {} sent, {} there already",
                        out_.verdict.empty() ? "stands" : out_.verdict, regionName(region_), out_.above,
                        out_.pictures + out_.solids + out_.groups, out_.there));
        progress_.report(1);
    }

    const Cargo& cargo_;
    Region region_;
    Connection& connection_;
    const Log& log_;
    const Progress& progress_;
    Uploaded out_;
    std::set<int> solidsThere_, groupsThere_;
    std::size_t done_ = 0;
};

} // namespace

std::string_view regionName(Region region) {
    return region == Region::Test ? "test" : "main";
}

std::vector<std::string> dryRun(const Cargo& cargo, Region region) {
    std::vector<std::string> out{fmt::format("would make the folder {} in the inventory", cargo.name)};
    for (const Cargo::Picture& picture : cargo.pictures)
        out.push_back(fmt::format("would send picture {}, {} bytes", picture.file, picture.bytes));
    for (const Cargo::Part& group : cargo.groups)
        out.push_back(fmt::format("would make group {} {}", group.number, group.name));
    for (const Cargo::Part& solid : cargo.solids)
        out.push_back(fmt::format("would make solid {} {}", solid.number, solid.name));
    out.push_back(fmt::format("would put it up in the {} region: {} in all, {} bytes", regionName(region),
                              showCount(long(cargo.pieces()), "piece", "pieces"), cargo.bytes()));
    return out;
}

Uploaded upload(const Cargo& cargo, Region region, Connection& connection, const Log& log,
                const Progress& progress) {
    return Uploader(cargo, region, connection, log, progress).take();
}

} // namespace zl::upload
