// `bytes`: what takes the bytes of a kart.
#include "cli/commands/all_commands.h"
#include "cli/one_piece.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/formats/kart_shares.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

std::string_view kindName(formats::KartShare::Kind kind) {
    using Kind = formats::KartShare::Kind;
    return kind == Kind::Mesh      ? "mesh"
           : kind == Kind::Picture ? "picture"
           : kind == Kind::Clip    ? "clip"
                                   : "other";
}

class WhatTakesTheBytes final : public Command {
public:
    std::string name() const override { return "bytes"; }
    std::string help() const override {
        return "say what takes the bytes of a kart's file, and what mends would bring";
    }
    void declare(CLI::App& app) override { chosen_.declare(app, archives); }

    int execute(const Progress& progress) override {
        chosen_.open();
        const platform::Sheet& sheet = chosen_.sheet();
        const std::string& piece = chosen_.piece().name;
        const auto limits = sheet.rulesOf("kart-bytes");
        if (limits.empty())
            throw Error(fmt::format("{} takes no file that is counted so", sheet.name), "--platform",
                        "Choose a platform whose sheet has the rule kart-bytes.");
        const auto shares = formats::kartShares(
            chosen_.model(progress), {.metresPerUnit = sheet.metresPerUnit, .weighed = true}, progress);
        std::size_t all = 0;
        for (const auto& share : shares) all += share.bytes;
        const double most = limits.front()->limit("most-kib", 0) * 1024;
        if (json) {
            nlohmann::ordered_json out{{"piece", piece},
                                       {"platform", sheet.id},
                                       {"bytes", all},
                                       {"most", most},
                                       {"shares", nlohmann::ordered_json::array()}};
            for (const auto& share : shares)
                out["shares"].push_back({{"what", share.what},
                                         {"kind", kindName(share.kind)},
                                         {"bytes", share.bytes},
                                         {"saving", share.saving},
                                         {"mend", share.mend}});
            print(out);
        } else {
            std::cout << fmt::format("{} on {}: {} of {} bytes\n", piece, sheet.name,
                                     showNumber(double(all), 0), showNumber(most, 0));
            for (const auto& share : shares)
                std::cout << fmt::format("  {:<8} {:<24} {:>10}{}\n", kindName(share.kind), share.what,
                                         showNumber(double(share.bytes), 0),
                                         share.saving > 0 ? fmt::format("   {}: {} less", share.mend,
                                                                        showNumber(double(share.saving), 0))
                                                          : std::string());
        }
        return double(all) <= most ? Fine : DoesNotFit;
    }

private:
    OnePiece chosen_;
};

} // namespace

std::unique_ptr<Command> makeBytes() {
    return std::make_unique<WhatTakesTheBytes>();
}

} // namespace zl::cli
