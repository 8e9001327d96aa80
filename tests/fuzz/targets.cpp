// What is fed to what. One program holds all targets; libFuzzer's runner picks one by its name.
#include "fuzz/targets.h"

namespace fuzz {

// One file for each kind: what comes from outside, what is ours, what is delivered, what games have.
namespace models {
const std::vector<Target>& targets();
}
namespace documents {
const std::vector<Target>& targets();
}
namespace stand_ins {
const std::vector<Target>& targets();
}
namespace games {
const std::vector<Target>& targets();
}

const std::vector<Target>& allTargets() {
    static const std::vector<Target> all = [] {
        std::vector<Target> out;
        for (const auto* some :
             {&models::targets(), &documents::targets(), &stand_ins::targets(), &games::targets()})
            out.insert(out.end(), some->begin(), some->end());
        return out;
    }();
    return all;
}

} // namespace fuzz
