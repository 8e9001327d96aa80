// Steps as data: every field of every step, and recipes with their cache.
#include "core/base/error.h"
#include "core/geometry/world.h"
#include "core/platform/sheet.h"
#include "core/recipe/recipe.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <cmath>
#include <set>
#include <thread>

using namespace zl;

namespace {

const platform::Sheet* table() {
    static const auto sheet = platform::sheetNamed(platform::loadSheets(), "hearthboard");
    return sheet.get();
}

Model ran(const recipe::Recipe& recipe, const Model& model, recipe::EvaluationCache* cache = nullptr) {
    return recipe::evaluate(model, 7, recipe, nullptr, cache).model;
}

recipe::Entry entry(const char* step,
                    const nlohmann::ordered_json& params = nlohmann::ordered_json::object()) {
    return {step, true, params};
}

/// A value in the middle of what a field takes, as JSON.
nlohmann::json sensible(const steps::Field& field) {
    const double low = std::max(field.least, -1000.0), high = std::min(field.most, 1000.0);
    const std::string_view type = field.type().name();
    if (type == "choice") return field.choices.back().id;
    if (type == "flag") return true;
    if (type == "colour") return "#e59a12";
    if (type == "text") return "lamp*";
    if (type == "parts") return nlohmann::json::array({"lamp*", "crate\\, large"});
    if (type == "point") return {0.5, 1, -2};
    if (type == "count") return static_cast<long long>(std::floor((low + high) / 2));
    if (type == "model") return {{"yardstick", "Gate"}};
    if (type == "list") {
        auto row = nlohmann::json::object();
        for (const auto& inner : field.rowFields) row[std::string(inner.name)] = sensible(inner);
        return nlohmann::json::array({row});
    }
    if (type == "bone" || type == "node" || type == "clip" || type == "word") return "hand.left";
    if (type == "picture") return nlohmann::json{{"file", "kit.zip/lamp_d.png"}};
    if (type == "selection") return nlohmann::json::parse(R"([{"parts": ["lamp*"]}])");
    return (low + high) / 2;
}

} // namespace

TEST_CASE("every field of every step takes a sensible value and gives it back") {
    for (const auto& made : steps::allSteps()) {
        const auto step = made->clone();
        for (const auto& field : step->fields()) {
            INFO(step->info().id << "." << field.name);
            const auto value = sensible(field);
            REQUIRE_NOTHROW(step->setParams({{std::string(field.name), value}}));
            const nlohmann::json back = step->params()[std::string(field.name)];
            if (value.is_number())
                CHECK(back.get<double>() == Approx(value.get<double>()));
            else
                CHECK(back == value);
        }
    }
}

TEST_CASE("every field of every step refuses what is not of its kind, naming itself") {
    for (const auto& made : steps::allSteps())
        for (const auto& field : made->fields()) {
            std::vector<nlohmann::json> wrong{nullptr, nlohmann::json::object(), nlohmann::json::array({1})};
            if (!field.isOf(fields::text) && !field.isOf(fields::word) && !field.isOf(fields::choice) &&
                !field.isOf(fields::parts) && !field.isOf(fields::modelRef) && !field.isOf(fields::nodeRef) &&
                !field.isOf(fields::clipRef))
                wrong.push_back("many");
            if (field.isOf(fields::choice)) wrong.push_back("no-such-choice");
            if (field.isOf(fields::text))
                wrong.insert(wrong.end(), {5, std::string(501, 'x'), std::string("a\nb")});
            if (field.isOf(fields::point)) wrong.insert(wrong.end(), {{1, 2}, {1, 2, "z"}, {1, 2, 1e300}});
            if (!field.isOf(fields::flag)) wrong.push_back(true);
            if (field.isOf(fields::count)) wrong.push_back(1.5);
            if (field.isOf(fields::number) || field.isOf(fields::length) || field.isOf(fields::share) ||
                field.isOf(fields::angle) || field.isOf(fields::count)) {
                if (field.most < 1e9) wrong.push_back(field.most * 2 + 1);
                if (field.least > -1e9) wrong.push_back(field.least - 1);
                wrong.push_back(std::numeric_limits<double>::quiet_NaN());
                wrong.push_back(std::numeric_limits<double>::infinity());
            }
            for (const auto& value : wrong) {
                const auto step = made->clone();
                const auto before = step->params();
                INFO(step->info().id << "." << field.name << " = " << value.dump());
                try {
                    step->setParams({{std::string(field.name), value}});
                    FAIL_CHECK("was taken");
                } catch (const Error& error) {
                    CHECK(error.whole().find(field.name) != std::string::npos);
                }
                CHECK(step->params() == before);
            }
        }
}

TEST_CASE("fields have words, choices have labels, and ids are what recipes can be typed with") {
    std::set<std::string> ids;
    const auto typed = [](std::string_view id) {
        return !id.empty() && id.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789-") == id.npos;
    };
    for (const auto& step : steps::allSteps()) {
        INFO(step->info().id);
        CHECK(typed(step->info().id));
        CHECK(ids.insert(std::string(step->info().id)).second);
        CHECK_FALSE(step->info().help.empty());
        std::set<std::string> names;
        for (const auto& field : step->fields()) {
            INFO(field.name);
            CHECK(typed(field.name));
            CHECK(names.insert(std::string(field.name)).second);
            CHECK_FALSE(field.label.empty());
            CHECK((field.isOf(fields::choice)) == !field.choices.empty());
            for (const auto& choice : field.choices) CHECK_FALSE(choice.label.empty());
            if (!field.whenField.empty()) { // what it depends on is a field of the same step
                const auto fields = step->fields();
                const auto parent = std::ranges::find(fields, field.whenField, &steps::Field::name);
                REQUIRE(parent != fields.end());
                CHECK((parent->isOf(fields::choice) || parent->isOf(fields::flag)));
            }
        }
    }
}

TEST_CASE("no step falls over an empty model, a point cloud or a model without size") {
    Model nothing;
    Model points = shapes::modelOf(shapes::sphere(8, 4));
    auto cloud = std::make_shared<Mesh>();
    cloud->positions = points.meshes[0]->positions;
    points.meshes[0] = cloud;
    Model flat = shapes::modelOf(shapes::sphere(8, 4, 0)); // every corner at one place
    for (const auto& made : steps::allSteps())
        for (const Model* model : {&nothing, &points, &flat}) {
            INFO(made->info().id);
            const Progress progress;
            steps::StepContext context{progress, table()};
            try {
                const Model out = made->apply(*model, context);
                for (const auto& mesh : out.meshes)
                    for (const glm::vec3& p : mesh->positions) CHECK(std::isfinite(p.x + p.y + p.z));
                for (int i = 0; i < 16; ++i) CHECK(std::isfinite(out.placement[i / 4][i % 4]));
            } catch (const Error& error) {
                CHECK_FALSE(error.whole().empty()); // says why it cannot
            }
        }
}

TEST_CASE("no step changes what it was given") {
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(12, 8)));
    const auto mesh = model.meshes[0];
    const Mesh before = *mesh;
    for (const auto& made : steps::allSteps()) {
        const Progress progress;
        steps::StepContext context{progress, table()};
        try {
            made->apply(model, context);
        } catch (const Error&) {
            continue; // it needs what this model lacks, such as a yardstick
        }
        INFO(made->info().id);
        CHECK(mesh->positions == before.positions);
        CHECK(mesh->indices == before.indices);
    }
}

TEST_CASE("a recipe comes back from its JSON, with entries that are off") {
    const auto recipe = recipe::fromJson(
        {{{"step", "turn"}, {"params", {{"x", 90}}}}, {{"step", "stand-on-floor"}, {"on", false}}});
    CHECK(recipe::fromJson(recipe::toJson(recipe)) == recipe);
    CHECK_FALSE(recipe[1].on);
    CHECK(recipe[1].params.contains("lift")); // defaults are written out, so that they cannot change unseen
    for (const auto& wrong : std::vector<nlohmann::json>{{{"step", "turn"}},
                                                         {{{"on", true}}},
                                                         {{{"step", 5}}},
                                                         {{{"step", "fly"}}},
                                                         {{{"step", "turn"}, {"on", "yes"}}},
                                                         {{{"step", "turn"}, {"params", {{"q", 1}}}}},
                                                         {"turn"}}) {
        INFO(wrong.dump());
        CHECK_THROWS_AS(recipe::fromJson(wrong), Error);
    }
    try {
        recipe::fromJson({{{"step", "turn"}}, {{"step", "turn"}, {"params", {{"x", "far"}}}}});
        FAIL("was taken");
    } catch (const Error& error) {
        CHECK(error.whole().find("line 2") != std::string::npos);
    }
}

TEST_CASE("entries that are off do nothing, and order matters") {
    const Model model = shapes::box({0, 1, 0}, {1, 3, 4});
    const recipe::Entry turn = entry("turn", {{"x", 90}}), floor = entry("stand-on-floor");
    recipe::Entry off = turn;
    off.on = false;
    CHECK(geometry::worldBounds(ran({off, floor}, model)).size() == glm::dvec3(1, 2, 4));
    CHECK(geometry::worldBounds(ran({turn, floor}, model)).min.y == Approx(0).margin(1e-12));
    CHECK(geometry::worldBounds(ran({floor, turn}, model)).min.y != Approx(0).margin(1e-3));
}

TEST_CASE("a cache gives the same results and runs nothing twice") {
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(20, 12)));
    const recipe::Recipe recipe{entry("weld-and-clean"),
                                {"reduce-triangles", true, {{"goal", "number"}, {"number", 100}}},
                                entry("stand-on-floor")};
    recipe::EvaluationCache cache;
    const auto plain = recipe::evaluate(model, 7, recipe, nullptr, nullptr);
    const auto first = recipe::evaluate(model, 7, recipe, nullptr, &cache);
    const auto again = recipe::evaluate(model, 7, recipe, nullptr, &cache);
    CHECK(first.key == again.key);
    CHECK(first.key == plain.key);
    for (const auto& outcome : again.outcomes) {
        CHECK(outcome.fromCache);
        CHECK_FALSE(outcome.ran);
    }
    CHECK(plain.model.meshes[0]->positions == again.model.meshes[0]->positions);
    CHECK(first.outcomes[1].notes == again.outcomes[1].notes); // what it said is kept too
    // Another source or another platform is other work.
    CHECK(recipe::evaluate(model, 8, recipe, nullptr, &cache).outcomes[0].ran);
    CHECK(recipe::evaluate(model, 7, recipe, table(), &cache).outcomes.back().ran);
}

TEST_CASE("a cache holds the most recent results only") {
    recipe::EvaluationCache cache(2000);
    recipe::EvaluationCache::Result made;
    made.bytes = 900;
    const auto result = std::make_shared<const recipe::EvaluationCache::Result>(made);
    cache.store(1, result), cache.store(2, result);
    CHECK(cache.find(1)); // now 2 is the oldest
    cache.store(3, result);
    CHECK(cache.find(1));
    CHECK_FALSE(cache.find(2));
    CHECK(cache.find(3));
    CHECK(cache.bytes() == 1800);
    made.bytes = 5000; // larger than all that may be kept: it stays alone
    cache.store(4, std::make_shared<const recipe::EvaluationCache::Result>(made));
    CHECK(cache.find(4));
    CHECK_FALSE(cache.find(3));
    CHECK(cache.bytes() == 5000);
}

TEST_CASE("a cache may be shared by threads") {
    recipe::EvaluationCache cache(20000);
    const Model model = shapes::modelOf(shapes::sphere(8, 6));
    std::vector<std::thread> threads;
    std::atomic<int> wrong{0};
    for (int t = 0; t < 4; ++t)
        threads.emplace_back([&, t] {
            for (int i = 0; i < 50; ++i) {
                const recipe::Recipe recipe{{"turn", true, {{"y", (i + t) % 12}}}, entry("stand-on-floor")};
                const auto evaluated = recipe::evaluate(model, 7, recipe, nullptr, &cache);
                wrong += std::abs(geometry::worldBounds(evaluated.model).min.y) > 1e-9;
            }
        });
    for (std::thread& thread : threads) thread.join();
    CHECK(wrong == 0);
}

TEST_CASE("going on behind an evaluation is the same as running the whole") {
    const Model model = shapes::box({0, 1, 0}, {1, 3, 4});
    const recipe::Entry turn = entry("turn", {{"x", 90}}), floor = entry("stand-on-floor");
    recipe::EvaluationCache cache;
    const auto first = recipe::evaluate(model, 7, {turn}, nullptr, &cache);
    const auto rest = recipe::evaluateFrom(first.model, first.key, {floor}, nullptr, &cache);
    const auto whole = recipe::evaluate(model, 7, {turn, floor}, nullptr, &cache);
    CHECK(rest.key == whole.key);
    CHECK(whole.outcomes[0].fromCache);
    CHECK(whole.outcomes[1].fromCache);
}

TEST_CASE("a step that cannot run passes its input on when asked to, and says why") {
    const Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    const recipe::Recipe recipe{entry("match-yardstick"), {"turn", true, {{"y", 90}}}};
    CHECK_THROWS_AS(recipe::evaluate(model, 7, recipe, nullptr, nullptr), Error);
    const auto evaluated =
        recipe::evaluate(model, 7, recipe, nullptr, nullptr, {}, recipe::OnProblem::PassOn);
    CHECK_FALSE(evaluated.outcomes[0].problem.empty());
    CHECK(evaluated.outcomes[1].problem.empty());
    CHECK(geometry::worldBounds(evaluated.after[0]).size() == glm::dvec3(1, 1, 1));
}
