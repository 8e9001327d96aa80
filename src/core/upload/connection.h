#pragma once
#include "core/base/progress.h"
#include "core/upload/secret.h"

#include <functional>
#include <memory>
#include <string>

namespace zl::upload {

/// What a request came to.
struct Answer {
    int status = 0;
    std::string body;
    bool isFine() const { return status >= 200 && status < 300; }
    /// What the server says about it in words.
    std::string why() const;
};

/// How long to go on trying, and how long to wait between: each pause is twice the one before.
struct Patience {
    int tries = 8;
    double firstPause = 0.25, longestPause = 20; ///< seconds
};

/// A region's server, over HTTP, or TLS where its address begins with https. Logs in by itself, again where
/// the server has forgotten; tries again where a connection breaks or the server is busy.
class Connection {
public:
    static constexpr const char *json = "application/json", *xml = "application/xml",
                                *bytes = "application/octet-stream";

    struct To {
        std::string url, user;
        std::string trust; ///< a PEM file with a certificate to trust besides the system's
        Patience patience;
    };
    /// `log` gets a line for whatever goes wrong on the way. Throws Error for an address that is none, and
    /// Refused where the password would go to another machine in the open.
    Connection(const To& to, Secret password, std::function<void(const std::string&)> log);
    ~Connection();

    /// Throws Refused with the server's reason where it does not let one in, and as ask() does.
    void logIn(const Progress& progress);
    /// Any answer that is none of the passing troubles. Throws Refused where they do not pass, and Cancelled.
    Answer ask(const char* method, const std::string& path, const std::string& body, const char* type,
               const Progress& progress);

private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

} // namespace zl::upload
