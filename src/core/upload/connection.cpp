#include "core/upload/connection.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/plain_number.h"
#include "core/base/units.h"
#include "core/base/words.h"

#include <fmt/format.h>
#include <httplib.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <chrono>
#include <thread>

namespace zl::upload {

namespace {

bool isUntrusted(httplib::Error error) {
    return error == httplib::Error::SSLServerVerification || error == httplib::Error::SSLLoadingCerts;
}

/// Why there was no answer, in words.
std::string troubleOf(httplib::Error error) {
    using httplib::Error;
    switch (error) {
    case Error::Connection:
        return "it cannot be reached";
    case Error::ConnectionTimeout:
        return "it takes too long";
    case Error::Read:
    case Error::Write:
    case Error::SSLConnection:
        return "the connection broke";
    default:
        return httplib::to_string(error);
    }
}

struct Address {
    bool secure = false;
    std::string host;
    int port = 0;
};

Address addressIn(const std::string& url) {
    Address out;
    std::string_view rest = url;
    if (rest.starts_with("https://"))
        out.secure = true, rest.remove_prefix(8);
    else if (rest.starts_with("http://"))
        rest.remove_prefix(7);
    else
        throw Error("is no address of a region's server", url, "It begins with http:// or https://.");
    while (rest.ends_with('/')) rest.remove_suffix(1);
    const auto colon = rest.rfind(':');
    out.host = std::string(rest.substr(0, colon));
    out.port = out.secure ? 443 : 80;
    if (colon != rest.npos) {
        const auto port = onlyNumber<int>(rest.substr(colon + 1));
        if (!port || *port < 1 || *port > 65535) throw Error("has no port that is one", url);
        out.port = *port;
    }
    if (out.host.empty() || out.host.find_first_of("/@?# ") != out.host.npos)
        throw Error("is no address of a region's server", url,
                    "Give its host, and its port: http://HOST:PORT.");
    return out;
}

bool isThisMachine(const std::string& host) {
    return host == "localhost" || host == "127.0.0.1" || host == "[::1]";
}

} // namespace

std::string Answer::why() const {
    const auto said = parsedJson(body);
    if (said.is_object() && said.contains("why") && said["why"].is_string()) return said["why"];
    return fmt::format("it answers {}", status);
}

struct Connection::Inside {
    Inside(const To& given, Secret secret, std::function<void(const std::string&)> tell)
        : to(given), password(std::move(secret)), log(std::move(tell)) {
        const Address address = addressIn(to.url);
        if (!address.secure && !isThisMachine(address.host))
            throw Refused("the password would go to another machine in the open", to.url,
                          "Use its https address.");
        if (address.secure) {
            auto secured = std::make_unique<httplib::SSLClient>(address.host, address.port);
            secured->enable_server_certificate_verification(true);
            if (!to.trust.empty()) secured->set_ca_cert_path(to.trust);
            client = std::move(secured);
        } else
            client = std::make_unique<httplib::ClientImpl>(address.host, address.port);
        client->set_keep_alive(true), client->set_tcp_nodelay(true);
        client->set_connection_timeout(10), client->set_read_timeout(30), client->set_write_timeout(30);
    }

    /// One try; status 0 where no whole answer came.
    Answer once(const char* method, const std::string& path, const std::string& body, const char* type) {
        httplib::Request request;
        request.method = method, request.path = path, request.body = body;
        if (!body.empty()) request.set_header("Content-Type", type);
        if (!token.empty()) request.set_header("Authorization", "Bearer " + token);
        httplib::Response response;
        httplib::Error error = httplib::Error::Success;
        if (!client->send(request, response, error)) {
            if (isUntrusted(error)) // which no further try will change
                throw Refused("its certificate is not trusted", to.url,
                              "Have the system trust it, or name it with --trust on the command line.");
            return {0, troubleOf(error)};
        }
        return {response.status, std::move(response.body)};
    }

    void pause(double seconds, const Progress& progress) {
        const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
        while (std::chrono::steady_clock::now() < end) {
            progress.checkCancel();
            std::this_thread::sleep_for(std::chrono::milliseconds(20));
        }
    }

    Answer patiently(const char* method, const std::string& path, const std::string& body, const char* type,
                     const Progress& progress) {
        double wait = to.patience.firstPause;
        for (int number = 1;; ++number) {
            progress.checkCancel();
            Answer answer = once(method, path, body, type);
            const bool passes = answer.status == 0 || answer.status == 503;
            if (!passes) return answer;
            const std::string what =
                answer.status == 0 ? "no answer (" + answer.body + ")" : "the server is busy";
            if (number >= to.patience.tries)
                throw Refused(fmt::format("{}, after {}", what, showCount(number, "try", "tries")), to.url,
                              "What is there stays there: begin again, and it goes on from there.");
            log(fmt::format("{}: again in {:.2g} s", what, wait));
            pause(wait, progress);
            wait = std::min(2 * wait, to.patience.longestPause);
        }
    }

    void logIn(const Progress& progress) {
        token.clear();
        std::string body = jsonText(nlohmann::json{{"name", to.user}, {"password", password.text()}});
        const Answer answer = patiently("POST", "/log-in", body, Connection::json, progress);
        wipe(body);
        if (!answer.isFine())
            throw Refused(answer.why(), fmt::format("{} at {}", to.user, to.url),
                          answer.status == 403 ? "Try again with the right one." : "Try again later.");
        const auto said = parsedJson(answer.body);
        if (!said.is_object() || !said.contains("token") || !said["token"].is_string())
            throw Error("does not answer as a region's server does", to.url);
        token = said["token"];
    }

    To to;
    Secret password;
    std::function<void(const std::string&)> log;
    std::unique_ptr<httplib::ClientImpl> client;
    std::string token;
};

Connection::Connection(const To& to, Secret password, std::function<void(const std::string&)> log)
    : inside_(std::make_unique<Inside>(to, std::move(password), std::move(log))) {}
Connection::~Connection() = default;

void Connection::logIn(const Progress& progress) {
    inside_->logIn(progress);
}

Answer Connection::ask(const char* method, const std::string& path, const std::string& body, const char* type,
                       const Progress& progress) {
    Answer answer = inside_->patiently(method, path, body, type, progress);
    // It was started anew, and knows nobody any more; that can happen again while we log in.
    for (int number = 0; answer.status == 401 && number < inside_->to.patience.tries; ++number) {
        inside_->log("the server has forgotten us: logging in again");
        inside_->logIn(progress);
        answer = inside_->patiently(method, path, body, type, progress);
    }
    return answer;
}

} // namespace zl::upload
