// The unit, and which way is up and to the front: by what the files state, by things whose size everybody
// knows, and by how shapes stand.
#include "core/base/letters.h"
#include "core/base/toml_text.h"
#include "core/base/units.h"
#include "core/learn/all_properties.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::learn {

namespace {

/// A thing by a word in its name, how long its longest side is in metres, and how much that varies (as the
/// standard deviation of its logarithm).
struct KnownThing {
    std::string_view word;
    double metres;
    double spread;
    bool isTall; ///< its longest side stands up
};
constexpr KnownThing knownThings[] = {
    {"door", 2.05, 0.12, true},    {"doorway", 2.2, 0.15, true},   {"gate", 2.2, 0.4, false},
    {"figure", 1.75, 0.08, true},  {"person", 1.75, 0.08, true},   {"human", 1.75, 0.08, true},
    {"man", 1.78, 0.08, true},     {"woman", 1.68, 0.08, true},    {"child", 1.2, 0.15, true},
    {"chair", 0.95, 0.15, true},   {"stool", 0.6, 0.25, true},     {"bench", 1.6, 0.25, false},
    {"table", 1.4, 0.35, false},   {"desk", 1.4, 0.2, false},      {"bed", 2.05, 0.1, false},
    {"crate", 0.8, 0.4, false},    {"barrel", 0.95, 0.25, true},   {"bucket", 0.35, 0.25, true},
    {"bottle", 0.3, 0.2, true},    {"cup", 0.1, 0.25, true},       {"mug", 0.1, 0.2, true},
    {"sword", 1.0, 0.2, false},    {"spoon", 0.18, 0.2, false},    {"ladder", 3.0, 0.4, true},
    {"bicycle", 1.75, 0.1, false}, {"car", 4.3, 0.15, false},      {"truck", 7.0, 0.3, false},
    {"bus", 11.0, 0.15, false},    {"cart", 1.9, 0.35, false},     {"wheel", 0.65, 0.3, false},
    {"lamp", 2.5, 0.7, true},      {"lamppost", 4.5, 0.3, true},   {"post", 1.4, 0.5, true},
    {"bollard", 0.9, 0.25, true},  {"tree", 7.0, 0.5, true},       {"house", 9.0, 0.4, false},
    {"window", 1.3, 0.3, true},    {"brick", 0.22, 0.15, false},   {"coin", 0.025, 0.2, false},
    {"book", 0.24, 0.2, false},    {"wardrobe", 1.95, 0.12, true}, {"fridge", 1.75, 0.12, true},
};

/// Units that games have, the commonest first: of two that are as likely, the earlier is taken.
constexpr double usualUnits[] = {1,    0.01, 0.1,   0.001,     0.0254,   0.3048,   0.5,      0.25, 0.025,
                                 0.02, 0.05, 0.014, 1.0 / 128, 1.0 / 64, 1.0 / 32, 1.0 / 16, 2,    10};

std::vector<std::string> wordsOf(std::string_view name) {
    std::vector<std::string> out;
    std::string word;
    for (const char c : name) {
        const auto code = static_cast<unsigned char>(c);
        const bool begins =
            std::isupper(code) && !word.empty() && std::islower(static_cast<unsigned char>(word.back()));
        if (!std::isalpha(code) || begins) {
            if (!word.empty()) out.push_back(lowerCase(word)), word.clear();
            if (!std::isalpha(code)) continue;
        }
        word += c;
    }
    if (!word.empty()) out.push_back(lowerCase(word));
    return out;
}

const KnownThing* knownBy(const FileFacts& file) {
    const auto words = wordsOf(std::filesystem::path(file.path).stem().string());
    // The last word says what it is: a "door bell" is a bell.
    for (auto word = words.rbegin(); word != words.rend(); ++word)
        for (const KnownThing& thing : knownThings)
            if (*word == thing.word) return &thing;
    return nullptr;
}

/// Formats in which each file says its own unit and axes; those of others are by their standard, which games
/// do not always follow.
bool statesUnit(std::string_view format) {
    return format == "dae" || format == "level" || format == "fbx" || format == "3mf";
}

Property unitProperty(Basis& basis) {
    Property out{"unit", "Unit", ""};
    double weight = 0, sum = 0, squares = 0, stated = 0; // of the logarithms that known things make it
    std::size_t known = 0, saying = 0;
    std::vector<std::string> things;
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.hasShape() || file.refused) continue;
        const glm::dvec3 size = file.model->high - file.model->low;
        const double longest = std::max({size.x, size.y, size.z});
        if (!(longest > 0)) continue;
        Seen seen{i, longest, fmt::format("{} units long", showMeasure(longest))};
        if (file.model->saysFrame && statesUnit(file.model->format)) {
            stated = file.model->metres, ++saying;
            seen.text += fmt::format(", states {} m", file.model->metres);
        }
        if (const KnownThing* thing = knownBy(file)) {
            const double w = 1 / (thing->spread * thing->spread), metres = std::log(thing->metres / longest);
            sum += w * metres, squares += w * metres * metres, weight += w, ++known;
            seen.text += fmt::format(", a {} is about {} m", thing->word, thing->metres);
            if (things.size() < 3 && std::ranges::find(things, thing->word) == things.end())
                things.emplace_back(thing->word);
        }
        out.accepted.push_back(std::move(seen));
    }
    if (out.accepted.empty()) return out;
    double metres = 0;
    Offer offer;
    if (known >= 2 || (known == 1 && weight > 40)) {
        const double likely = std::exp(sum / weight), sigma = std::max(0.08, 1 / std::sqrt(weight));
        double best = 1e9;
        for (std::size_t i = 0; i < std::size(usualUnits); ++i) {
            const double off = std::log(usualUnits[i] / likely) / sigma, cost = off * off + 0.35 * double(i);
            if (cost < best) best = cost, metres = usualUnits[i];
        }
        // What files state holds, unless the things in them would be toys, or giants.
        if (saying > 0 && std::abs(std::log(stated / likely)) < 1.5) metres = stated;
        if (metres != stated && std::abs(std::log(metres / likely)) > 0.5) metres = 0;
        // Things that differ far more than such things do are toys, or giants, or called so by chance.
        const double apart = (squares - sum * sum / weight) / double(std::max<std::size_t>(known - 1, 1));
        const bool agree = apart < 9;
        offer.isSure = metres > 0 && known >= 3 && agree;
        std::string row;
        for (const std::string& thing : things) row += (row.empty() ? "" : ", ") + thing;
        offer.confidence = fmt::format("{} whose size is known ({}) make it {:.3g} m{}",
                                       showCount(double(known), "thing", "things"), row, likely,
                                       agree ? "" : " on the whole, but disagree");
        if (saying > 0)
            offer.confidence +=
                fmt::format("; {} {} m", showCount(double(saying), "file states", "files state"), stated);
    } else if (saying > 0) {
        metres = stated, offer.isSure = true;
        offer.confidence = fmt::format("{} it", showCount(double(saying), "file states", "files state"));
    }
    if (metres <= 0) {
        metres = saying > 0 ? stated : 1;
        offer.confidence =
            "no file states it, and none is called like a thing whose size is known; metres for now";
    } else {
        basis.unitIsKnown = true;
    }
    basis.metresPerUnit = metres;
    const Unit unit = unitOfMetres(metres);
    offer.keys = {{"unit.metres", tomlText(metres)},
                  {"unit.name", tomlText(std::string(unit.id.size() <= 3 ? unit.id : "u"))}};
    out.offered = std::move(offer);
    return out;
}

Property upProperty(Basis& basis) {
    Property out{"up", "Up axis", ""};
    std::array<double, 3> votes{0, 0, 0};
    std::size_t stating = 0;
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.hasShape() || file.refused) continue;
        const ModelFacts& m = *file.model;
        const glm::dvec3 size = m.high - m.low;
        const double longest = std::max({size.x, size.y, size.z});
        if (!(longest > 0)) continue;
        std::array<double, 3> own{0, 0, 0};
        if (m.saysFrame && statesUnit(m.format)) own[m.upIsZ ? 2 : 1] += 3, ++stating;
        for (int k = 1; k < 3; ++k) {
            const int other = 3 - k;
            const auto K = std::size_t(k);
            // It stands on the floor along one axis, and lies about the middle along the other.
            const bool onFloor = std::abs(m.low[k]) < 0.01 * longest && size[k] > 0.02 * longest;
            const bool otherFloor = std::abs(m.low[other]) < 0.01 * longest && size[other] > 0.02 * longest;
            const bool centred = std::abs(m.low[other] + m.high[other]) < 0.2 * std::max(size[other], 1e-12);
            own[K] += onFloor && !otherFloor ? 1 : 0;
            own[K] += onFloor && !otherFloor && centred ? 1 : 0;
            own[K] += m.footShare[K] > 0.03 && m.footShare[K] > 2 * m.footShare[std::size_t(other)] ? 1 : 0;
        }
        if (const KnownThing* thing = knownBy(file); thing && thing->isTall)
            for (int k = 0; k < 3; ++k)
                if (size[k] > 1.3 * std::max(size[(k + 1) % 3], size[(k + 2) % 3])) own[std::size_t(k)] += 2;
        for (std::size_t k = 0; k < 3; ++k) votes[k] += own[k];
        const auto most = std::ranges::max_element(own) - own.begin();
        if (own[std::size_t(most)] > 0)
            out.accepted.push_back({i, double(most), std::string(1, "XYZ"[most])});
    }
    basis.up = votes[2] > votes[1] ? 2 : 1;
    if (out.accepted.empty()) return out;
    const double total = votes[0] + votes[1] + votes[2], own = votes[std::size_t(basis.up)];
    std::size_t agreeing = 0;
    for (const Seen& seen : out.accepted) agreeing += int(seen.value) == basis.up;
    const auto all = out.accepted.size();
    Offer offer;
    offer.keys = {{"axes.up", basis.up == 2 ? "\"Z\"" : "\"Y\""}};
    offer.isSure = own > 0.75 * total;
    offer.confidence = fmt::format("{} {} along {}", shareWords(agreeing, all, "file", "files"),
                                   agreeing == 1 ? "stands" : "stand", basis.up == 2 ? "Z" : "Y");
    if (stating > 0)
        offer.confidence += fmt::format("; {} it", showCount(double(stating), "states", "state"));
    for (const Seen& seen : out.accepted)
        if (int(seen.value) != basis.up) out.outliers.push_back(seen.file);
    out.offered = std::move(offer);
    return out;
}

/// What names of parts say: the way from the middle of what is behind to the middle of what is in front.
std::optional<glm::dvec3> frontByNames(const ModelFacts& m, int up) {
    const auto has = [](const std::vector<std::string>& words,
                        std::initializer_list<std::string_view> wanted) {
        return std::ranges::any_of(words, [&](const std::string& word) {
            return std::ranges::find(wanted, std::string_view(word)) != wanted.end();
        });
    };
    glm::dvec3 front(0), back(0), left(0), right(0);
    int fronts = 0, backs = 0, lefts = 0, rights = 0;
    for (const ModelFacts::Part& part : m.parts) {
        const auto words = wordsOf(part.name);
        if (has(words, {"front", "nose", "face", "head", "headlight", "bonnet", "beak", "eye", "eyes"}))
            front += part.middle, ++fronts;
        if (has(words, {"back", "rear", "tail", "stern"})) back += part.middle, ++backs;
        if (has(words, {"left"})) left += part.middle, ++lefts;
        if (has(words, {"right"})) right += part.middle, ++rights;
    }
    const glm::dvec3 middle = (m.low + m.high) * 0.5;
    glm::dvec3 way(0);
    if (fronts > 0 && backs > 0)
        way = front / double(fronts) - back / double(backs);
    else if (fronts > 0)
        way = front / double(fronts) - middle;
    else if (backs > 0)
        way = middle - back / double(backs);
    else if (lefts > 0 && rights > 0) {
        glm::dvec3 top(0);
        top[up] = 1;
        way = glm::cross(left / double(lefts) - right / double(rights), top); // left × up is ahead
    }
    way[up] = 0;
    const double length = glm::length(way), size = glm::length(m.high - m.low);
    if (!(length > 0.02 * size)) return std::nullopt;
    return way / length;
}

Property frontProperty(Basis& basis) {
    Property out{"front", "Front", ""};
    std::map<std::pair<int, bool>, double> votes;
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.hasShape() || file.refused) continue;
        const bool says = file.model->saysFront;
        const auto named = says ? file.model->front : frontByNames(*file.model, basis.up);
        const bool readsUp = file.model->upIsZ == (basis.up == 2); // its shape was looked at the right way up
        const auto& way = named ? named : readsUp ? file.model->front : std::nullopt;
        if (!way) continue;
        int axis = basis.up == 0 ? 1 : 0;
        for (int k = 0; k < 3; ++k)
            if (k != basis.up && std::abs((*way)[k]) > std::abs((*way)[axis])) axis = k;
        if (std::abs((*way)[axis]) < 0.8) continue;
        const bool negative = (*way)[axis] < 0;
        votes[{axis, negative}] += says ? 6 : named ? 2 : 1;
        out.accepted.push_back({i, double(axis) + (negative ? 3 : 0),
                                fmt::format("{}{}{}", negative ? '-' : '+', "XYZ"[axis],
                                            says    ? ", as it states"
                                            : named ? ", by the names of its parts"
                                                    : ", by its shape")});
    }
    basis.front = basis.up == 2 ? 0 : 2; // as most have it that stand so
    if (votes.empty()) return out;
    const auto best = std::ranges::max_element(votes, {}, [](const auto& v) { return v.second; });
    basis.front = best->first.first, basis.frontIsNegative = best->first.second;
    double total = 0;
    for (const auto& [way, count] : votes) total += count;
    const std::string word = fmt::format("{}{}", basis.frontIsNegative ? '-' : '+', "XYZ"[basis.front]);
    std::size_t agreeing = 0;
    for (const Seen& seen : out.accepted) {
        const bool agrees = seen.text.starts_with(word);
        agreeing += agrees;
        if (!agrees) out.outliers.push_back(seen.file);
    }
    Offer offer;
    offer.keys = {{"axes.front", tomlText(word)}};
    offer.isSure = best->second > 0.7 * total && agreeing >= 2;
    offer.confidence =
        fmt::format("{} that {} a front {} {}", shareWords(agreeing, out.accepted.size(), "file", "files"),
                    out.accepted.size() == 1 ? "has" : "have", agreeing == 1 ? "looks" : "look", word);
    out.offered = std::move(offer);
    return out;
}

Property figureProperty(Basis& basis) {
    Property out{"figure", "A standing figure", "u"};
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.hasShape() || file.refused) continue;
        const KnownThing* thing = knownBy(file);
        static constexpr std::string_view figures[] = {"figure", "person", "human", "man", "woman"};
        if (!thing || std::ranges::find(figures, thing->word) == std::end(figures)) continue;
        out.accepted.push_back({i, file.model->high[basis.up] - file.model->low[basis.up], {}});
    }
    if (out.accepted.empty()) return out;
    summarise(out);
    out.offered =
        Offer{{},
              {{"figure.height", tomlText(std::round(out.middle * 1000) / 1000)}},
              {},
              fmt::format("{} {} that tall", showCount(double(out.accepted.size()), "figure", "figures"),
                          out.accepted.size() == 1 ? "is" : "are"),
              true};
    return out;
}

} // namespace

void learnFrame(Basis& basis, std::vector<Property>& out) {
    for (auto made : {unitProperty, upProperty, frontProperty, figureProperty})
        if (Property property = made(basis); !property.accepted.empty()) out.push_back(std::move(property));
}

} // namespace zl::learn
