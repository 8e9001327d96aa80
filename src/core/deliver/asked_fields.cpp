#include "core/deliver/asked_fields.h"

#include "core/platform/sheet.h"

#include <mutex>
#include <utility>

namespace zl::deliver {

namespace {

using Answers = std::array<std::string, platform::mostAsks>;

/// The field for the question number `I`.
template <std::size_t I>
fields::Field fieldOf(const platform::Ask& ask) {
    fields::Field out;
    out.name = ask.name;
    out.label = ask.label;
    out.explanation = ask.help;
    out.get = [](const void* owner) -> nlohmann::json { return (*static_cast<const Answers*>(owner))[I]; };
    out.set = [](void* owner, const nlohmann::json& held) {
        (*static_cast<Answers*>(owner))[I] = held.get<std::string>();
    };
    if (ask.options.empty()) {
        out.type = fields::text;
        out.leastMeans = ask.usual.empty() ? "none" : std::string_view(ask.usual);
        return out;
    }
    out.type = fields::word;
    out.offers = [](const platform::Sheet& sheet) {
        return I < sheet.files.asks.size() ? sheet.files.asks[I].options : std::vector<std::string>{};
    };
    return out;
}

template <std::size_t... I>
std::vector<fields::Field> fieldsOf(const std::vector<platform::Ask>& asks, std::index_sequence<I...>) {
    std::vector<fields::Field> out;
    ((I < asks.size() ? out.push_back(fieldOf<I>(asks[I])) : void()), ...);
    return out;
}

struct Asked {
    std::vector<platform::Ask> asks;
    std::vector<fields::Field> fields;
};

} // namespace

std::span<const fields::Field> askedFields(const std::vector<platform::Ask>& asks) {
    static std::mutex mutex;
    static std::map<std::vector<std::string>, std::unique_ptr<Asked>> known;
    const std::lock_guard lock(mutex);
    std::vector<std::string> key;
    for (const platform::Ask& ask : asks) {
        key.insert(key.end(), {ask.name, ask.label, ask.help, ask.usual});
        key.insert(key.end(), ask.options.begin(), ask.options.end());
        key.emplace_back();
    }
    auto& asked = known[key];
    if (!asked) {
        asked = std::make_unique<Asked>(Asked{asks, {}});
        asked->fields = fieldsOf(asked->asks, std::make_index_sequence<platform::mostAsks>());
    }
    return asked->fields;
}

} // namespace zl::deliver
