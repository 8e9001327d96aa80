#include "core/planner/together.h"

namespace zl::planner {

namespace {

/// The ways in which one step may help, and the next of them as it was tried.
class Mend {
public:
    Mend(std::string id, std::vector<nlohmann::json> ways) : id_(std::move(id)), ways_(std::move(ways)) {}

    /// Tries on until a way brings the value nearer; false when none is left. What was tried on an older
    /// draft is tried again.
    bool prepare(const Draft& draft, Trials& trials, const platform::RuleSpec& spec) {
        const auto value = [&](const platform::FitReport& report) {
            return report.rule(spec.id)->finding.value;
        };
        for (; next_ < ways_.size(); ++next_, tried_.reset()) {
            if (tried_ && onValue_ == value(draft.report)) return true; // every one that is taken changes it
            steps_ = draft.steps;
            const platform::RuleResult& was = *draft.report.rule(spec.id);
            PlannedStep step{entryOf(id_, ways_[next_]),
                             was.finding.measured,
                             {},
                             spec.message,
                             spec.severity == platform::Severity::Must};
            const auto own = std::ranges::find_if(
                steps_, [&](const PlannedStep& one) { return taken_ && one.entry.step == id_; });
            own_ = std::size_t(own - steps_.begin());
            if (own != steps_.end())
                step.before = own->before, *own = std::move(step);
            else
                steps_.push_back(std::move(step));
            tried_ = trials.attempt(steps_);
            onValue_ = value(draft.report);
            if (tried_ && value(tried_->report) < 0.995 * onValue_ &&
                broken(tried_->report, false) <= broken(draft.report, false))
                return true;
        }
        return false;
    }

    double lost() const { return tried_->lost.at(own_); }

    void take(Draft& draft, const platform::RuleSpec& spec, const platform::Sheet& sheet) {
        PlannedStep& step = steps_[own_];
        step.after = tried_->report.rule(spec.id)->finding.measured;
        if (lost() > 0)
            step.why += fmt::format(" It loses what is smaller than {}, the least of all ways.",
                                    sheet.showLength(lost()));
        draft = {std::move(steps_), std::move(tried_->model), std::move(tried_->report)};
        tried_.reset();
        taken_ = true;
        ++next_;
    }

private:
    std::string id_;
    std::vector<nlohmann::json> ways_;
    std::size_t next_ = 0, own_ = 0;
    bool taken_ = false; ///< a milder way of it is in the draft
    std::vector<PlannedStep> steps_;
    std::optional<Trials::Outcome> tried_;
    double onValue_ = 0; ///< of the draft that it was tried on
};

} // namespace

void mendTogether(Draft& draft, Trials& trials, const platform::Sheet& sheet, const platform::RuleSpec& spec,
                  const std::function<bool(const std::string&)>& isAnswered) {
    std::vector<Mend> mends;
    for (const std::string& id : spec.mends)
        if (!isAnswered(id))
            mends.emplace_back(id, proposals(id, *draft.report.rule(spec.id), draft.model, sheet));
    while (draft.report.rule(spec.id)->state == platform::State::Broken) {
        Mend* cheapest = nullptr;
        for (Mend& mend : mends)
            if (mend.prepare(draft, trials, spec) && (!cheapest || mend.lost() < cheapest->lost()))
                cheapest = &mend;
        if (!cheapest) return;
        cheapest->take(draft, spec, sheet);
    }
}

} // namespace zl::planner
