#include "standins/region/region_server.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"
#include "standins/region/accounts.h"
#include "standins/region/region_store.h"

#include <fmt/format.h>
#include <httplib.h>
#include <nlohmann/json.hpp>

#include <condition_variable>
#include <thread>

namespace zl::standins::region {

namespace {

using httplib::Request;
using httplib::Response;
using nlohmann::json;

constexpr std::size_t mostBody = 2u << 20;
constexpr const char* jsonType = "application/json";

void answer(Response& response, int status, const json& said) {
    response.status = status;
    response.set_content(said.dump(-1, ' ', false, json::error_handler_t::replace), jsonType);
}

/// Breaks the connection: the answer that is promised does not come.
void breakOff(Response& response) {
    response.body.clear();
    response.headers.clear();
    response.set_content_provider(1 << 20, "text/plain",
                                  [](std::size_t, std::size_t, httplib::DataSink&) { return false; });
}

json bodyOf(const Request& request) {
    const json said = json::parse(request.body, nullptr, false);
    if (!said.is_object()) throw Denied{400, "that is no JSON object"};
    return said;
}

int numberOf(const json& said, const char* name, int least, int most) {
    const auto found = said.find(name);
    if (found == said.end() || !found->is_number_integer())
        throw Denied{400, fmt::format("no number \"{}\"", name)};
    const auto value = found->get<long long>();
    if (value < least || value > most) throw Denied{422, fmt::format("\"{}\" is {}", name, value)};
    return int(value);
}

std::string textOf(const json& said, const char* name) {
    const auto found = said.find(name);
    if (found == said.end() || !found->is_string()) throw Denied{400, fmt::format("no text \"{}\"", name)};
    return found->get<std::string>();
}

std::string demandName(std::string text) {
    if (!RegionStore::isName(text)) throw Denied{400, "names are of lower-case letters, digits and hyphens"};
    return text;
}
std::string demandHash(std::string text) {
    if (!RegionStore::isHash(text)) throw Denied{400, "that is no hash"};
    return text;
}
std::string demandRegion(std::string text) {
    if (text != "test" && text != "main") throw Denied{404, "there is no such region"};
    return text;
}

json sayBuild(const WholeBuild& build) {
    json out{
        {"name", build.name}, {"hash", build.hash}, {"solids", json::array()}, {"groups", json::array()}};
    for (const auto& [number, solid] : build.solids) {
        json one{{"number", number},
                 {"name", solid.name},
                 {"kind", solid.kind},
                 {"group", solid.group},
                 {"physics", solid.physics},
                 {"at", {solid.at.x, solid.at.y, solid.at.z}},
                 {"turn", {solid.turn.x, solid.turn.y, solid.turn.z}},
                 {"size", {solid.size.x, solid.size.y, solid.size.z}},
                 {"shape", solid.shape}};
        for (const auto& [face, picture] : solid.pictures) one["pictures"][std::to_string(face)] = picture;
        for (const auto& [face, colour] : solid.colours)
            one["colours"][std::to_string(face)] = {colour.r, colour.g, colour.b};
        out["solids"].push_back(std::move(one));
    }
    for (const auto& [number, group] : build.groups)
        out["groups"].push_back(
            {{"number", number}, {"name", group.name}, {"within", group.within}, {"lead", group.lead}});
    return out;
}

} // namespace

struct RegionServer::Inside {
    explicit Inside(const Options& given) : options(given), store(given.folder), faults(given.faults) {
        if (options.certificate.empty())
            server = std::make_unique<httplib::Server>();
        else
            server = std::make_unique<httplib::SSLServer>(options.certificate.c_str(), options.key.c_str());
        if (!server->is_valid())
            throw Error("the certificate or its key cannot be used", options.certificate.string());
        server->set_payload_max_length(mostBody), server->set_tcp_nodelay(true);
        server->set_read_timeout(5), server->set_write_timeout(5), server->set_keep_alive_timeout(5);
        server->new_task_queue = [] { return new httplib::ThreadPool(8); };
        server->set_exception_handler([](const Request&, Response& response, std::exception_ptr) {
            answer(response, 500, {{"why", "something went wrong here"}});
        });
        routes();
        port = options.port == 0                                 ? server->bind_to_any_port("127.0.0.1")
               : server->bind_to_port("127.0.0.1", options.port) ? options.port
                                                                 : -1;
        if (port < 0)
            throw Error("cannot listen", fmt::format("port {}", options.port), "Choose another port.");
        listener = std::thread([this] {
            server->listen_after_bind();
            const std::lock_guard lock(mutex);
            ended = true;
            end.notify_all();
        });
        while (!server->is_running()) std::this_thread::sleep_for(std::chrono::milliseconds(2));
    }
    ~Inside() {
        server->stop();
        listener.join();
    }

    using Work = std::function<void(const std::string& account, const Request&, Response&)>;

    /// The work with what may go wrong around it: faults, and log-in where it `needs` one.
    auto guarded(Work work, bool needsLogIn = true) {
        return [this, work = std::move(work), needsLogIn](const Request& request, Response& response) {
            if (faults.slowMillis() > 0)
                std::this_thread::sleep_for(std::chrono::milliseconds(faults.slowMillis()));
            const Faults::Now fault = faults.next();
            if (fault == Faults::Now::Drop) return breakOff(response);
            if (fault == Faults::Now::Busy) {
                response.set_header("Retry-After", "0");
                return answer(response, 503, {{"why", "busy, come again"}});
            }
            try {
                std::string account;
                if (needsLogIn) {
                    const std::string said = request.get_header_value("Authorization");
                    const auto known =
                        said.starts_with("Bearer ") ? accounts.nameOf(said.substr(7)) : std::nullopt;
                    if (!known) throw Denied{401, "log in first"};
                    account = *known;
                }
                work(account, request, response);
            } catch (const Denied& denied) {
                answer(response, denied.status, {{"why", denied.why}});
            } catch (const std::exception&) {
                answer(response, 500, {{"why", "something went wrong here"}});
            }
            if (options.log)
                options.log(fmt::format("{} {} {}", response.status < 0 ? 200 : response.status,
                                        request.method, request.path));
            if (fault == Faults::Now::Lose) breakOff(response);
        };
    }

    void routes() {
        server->Post("/log-in", guarded([this](const std::string&, const Request& request,
                                               Response& response) { logIn(request, response); },
                                        false));
        const std::string region = "/regions/([^/]+)", build = region + "/builds/([^/]+)",
                          folder = "/inventory/([^/]+)";
        server->Get(region, guarded([this](const std::string&, const Request& request, Response& response) {
                        const std::string name = demandRegion(request.matches[1]);
                        answer(response, 200,
                               {{"name", name},
                                {"places", mostPlaces},
                                {"taken", store.placesTaken(name)},
                                {"builds", store.builds(name)}});
                    }));
        server->Put(folder,
                    guarded([this](const std::string& account, const Request& request, Response& response) {
                        const bool made = store.makeFolder(account, demandName(request.matches[1]));
                        answer(response, made ? 201 : 200, {{"made", made}});
                    }));
        server->Get("/pictures/([^/]+)",
                    guarded([this](const std::string&, const Request& request, Response& response) {
                        const auto bytes = store.picture(demandHash(request.matches[1]));
                        if (!bytes) throw Denied{404, "there is no such picture"};
                        response.status = 200;
                        response.set_content(*bytes, "application/octet-stream");
                    }));
        server->Get(folder,
                    guarded([this](const std::string& account, const Request& request, Response& response) {
                        const auto pictures = store.picturesIn(account, demandName(request.matches[1]));
                        if (!pictures) throw Denied{404, "there is no such folder"};
                        answer(response, 200, {{"pictures", *pictures}});
                    }));
        server->Put(folder + "/([^/]+)",
                    guarded([this](const std::string& account, const Request& request, Response& response) {
                        const bool made = store.keepPicture(account, demandName(request.matches[1]),
                                                            demandHash(request.matches[2]), request.body);
                        answer(response, made ? 201 : 200, {{"made", made}});
                    }));
        server->Get(build, guarded([this](const std::string&, const Request& request, Response& response) {
                        sayProgress(request, response);
                    }));
        server->Get(build + "/whole",
                    guarded([this](const std::string&, const Request& request, Response& response) {
                        const auto whole =
                            store.build(demandRegion(request.matches[1]), demandName(request.matches[2]));
                        if (!whole) throw Denied{404, "no such build stands here"};
                        json groups = json::array(), solids = json::array();
                        for (const auto& [number, group] : whole->groups)
                            groups.push_back({{"number", number},
                                              {"name", group.name},
                                              {"within", group.within},
                                              {"lead", group.lead}});
                        for (const auto& [number, text] : whole->texts) solids.push_back(text);
                        answer(response, 200, {{"groups", groups}, {"solids", solids}, {"above", hover}});
                    }));
        server->Put(build,
                    guarded([this](const std::string& account, const Request& request, Response& response) {
                        const std::string in = demandRegion(request.matches[1]),
                                          name = demandName(request.matches[2]);
                        const std::string hash = demandHash(request.get_param_value("hash"));
                        if (in == "main") demandVerdict(name, hash);
                        store.begin(in, name, hash, account);
                        answer(response, 200, {{"begun", true}});
                    }));
        server->Put(build + "/solids/([^/]+)",
                    guarded([this](const std::string&, const Request& request, Response& response) {
                        store.keepSolid(demandRegion(request.matches[1]), demandName(request.matches[2]),
                                        demandHash(request.get_param_value("hash")), numberIn(request),
                                        request.body);
                        answer(response, 201, {{"made", true}});
                    }));
        server->Put(build + "/groups/([^/]+)",
                    guarded([this](const std::string&, const Request& request, Response& response) {
                        const json said = bodyOf(request);
                        constexpr int most = 1000000000;
                        store.keepGroup(demandRegion(request.matches[1]), demandName(request.matches[2]),
                                        demandHash(request.get_param_value("hash")), numberIn(request),
                                        {textOf(said, "name"), numberOf(said, "within", 0, most),
                                         numberOf(said, "lead", 0, most)});
                        answer(response, 201, {{"made", true}});
                    }));
        server->Post(
            build + "/done", guarded([this](const std::string&, const Request& request, Response& response) {
                const json said = bodyOf(request);
                const std::string in = demandRegion(request.matches[1]),
                                  name = demandName(request.matches[2]);
                const std::string hash = demandHash(request.get_param_value("hash"));
                if (in == "main") demandVerdict(name, hash);
                const int places =
                    store.finish(in, name, hash, std::size_t(numberOf(said, "solids", 0, mostPlaces)),
                                 std::size_t(numberOf(said, "groups", 0, mostPlaces)));
                answer(response, 200, {{"verdict", "stands"}, {"places", places}, {"above", hover}});
            }));
    }

    void logIn(const Request& request, Response& response) {
        const json said = bodyOf(request);
        int wait = 0;
        const auto token = accounts.logIn(textOf(said, "name"), textOf(said, "password"), wait);
        if (wait > 0) {
            response.set_header("Retry-After", std::to_string(wait));
            throw Denied{429, fmt::format("too many wrong passwords: wait {} s", wait)};
        }
        if (!token) throw Denied{403, "the name or the password is wrong"};
        answer(response, 200, {{"token", *token}, {"regions", {"test", "main"}}});
    }

    void sayProgress(const Request& request, Response& response) {
        const std::string in = demandRegion(request.matches[1]), name = demandName(request.matches[2]);
        if (!request.has_param("hash")) {
            const auto whole = store.build(in, name);
            if (!whole) throw Denied{404, "no such build stands there"};
            return answer(response, 200, sayBuild(*whole));
        }
        const auto progress = store.progressOf(in, name, demandHash(request.get_param_value("hash")));
        if (!progress) throw Denied{404, "no such build was begun"};
        answer(response, 200,
               {{"done", progress->done}, {"solids", progress->solids}, {"groups", progress->groups}});
    }

    void demandVerdict(const std::string& name, const std::string& hash) {
        const auto tried = store.progressOf("test", name, hash);
        if (!tried || !tried->done)
            throw Denied{403, "the main region takes what stands in the test region, as it stands there"};
    }

    static int numberIn(const Request& request) {
        const auto number = onlyNumber<int>(request.matches[3].str());
        if (!number || *number < 1) throw Denied{400, "that is no number"};
        return *number;
    }

    static constexpr double hover = 3; ///< metres above the one who uploads

    Options options;
    RegionStore store;
    Accounts accounts;
    Faults faults;
    std::unique_ptr<httplib::Server> server;
    std::thread listener;
    int port = 0;
    std::mutex mutex;
    std::condition_variable end;
    bool ended = false;
};

RegionServer::RegionServer(const Options& options) : inside_(std::make_unique<Inside>(options)) {}
RegionServer::~RegionServer() = default;

int RegionServer::port() const {
    return inside_->port;
}
std::string RegionServer::url() const {
    return fmt::format("{}://127.0.0.1:{}", inside_->options.certificate.empty() ? "http" : "https", port());
}
void RegionServer::wait() {
    std::unique_lock lock(inside_->mutex);
    inside_->end.wait(lock, [this] { return inside_->ended; });
}
void RegionServer::stop() {
    inside_->server->stop();
}

} // namespace zl::standins::region
