#pragma once

#include "app/fields/choice_box.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <vector>

namespace zl::app {

/// A list of things by name in which the present one is shown even when it is not there.
class ReferenceBox : public ChoiceBox {
public:
    void offer(const QString& label, const nlohmann::json& value) {
        addItem(label);
        values_.push_back(value);
    }
    void setNow(const nlohmann::json& now, const QString& missing) {
        const auto at = std::ranges::find(values_, now) - values_.begin();
        if (at == std::ssize(values_)) offer(missing, now);
        setCurrentIndex(int(at));
    }
    const nlohmann::json& value(int index) const { return values_.at(std::size_t(index)); }
    bool has(int index) const { return index >= 0 && std::size_t(index) < values_.size(); }

private:
    std::vector<nlohmann::json> values_;
};

} // namespace zl::app
