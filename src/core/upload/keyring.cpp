#include "core/upload/keyring.h"

#include "core/base/error.h"

#include <libsecret/secret.h>

namespace zl::upload {

namespace {

const SecretSchema* schema() {
    static const SecretSchema known{
        "org.zestloom.Upload",
        SECRET_SCHEMA_NONE,
        {{"server", SECRET_SCHEMA_ATTRIBUTE_STRING}, {"user", SECRET_SCHEMA_ATTRIBUTE_STRING}}};
    return &known;
}

} // namespace

std::optional<Secret> keptSecret(const std::string& url, const std::string& user) {
    GError* error = nullptr;
    gchar* found = secret_password_lookup_sync(schema(), nullptr, &error, "server", url.c_str(), "user",
                                               user.c_str(), nullptr);
    if (error) g_error_free(error);
    if (!found) return std::nullopt;
    Secret out{std::string(found)};
    secret_password_wipe(found), secret_password_free(found);
    return out.empty() ? std::nullopt : std::optional(std::move(out));
}

void keepSecret(const std::string& url, const std::string& user, const Secret& secret) {
    GError* error = nullptr;
    const bool kept = secret_password_store_sync(
        schema(), SECRET_COLLECTION_DEFAULT, ("Zest Loom: " + user + " at " + url).c_str(),
        secret.text().c_str(), nullptr, &error, "server", url.c_str(), "user", user.c_str(), nullptr);
    const std::string why = error ? error->message : "";
    if (error) g_error_free(error);
    if (!kept)
        throw Refused("the desktop has no keyring that keeps the password", why,
                      "Go on without having it kept; it stays nowhere else.");
}

void forgetSecret(const std::string& url, const std::string& user) {
    GError* error = nullptr;
    secret_password_clear_sync(schema(), nullptr, &error, "server", url.c_str(), "user", user.c_str(),
                               nullptr);
    if (error) g_error_free(error);
}

Secret typedOrKept(Secret typed, bool keeps, const std::string& url, const std::string& user) {
    if (typed.empty()) {
        auto kept = keptSecret(url, user);
        if (!kept) throw Error("no password is given, and the keyring has none", user, "Type it in.");
        return std::move(*kept);
    }
    if (keeps) keepSecret(url, user, typed);
    return typed;
}

} // namespace zl::upload
