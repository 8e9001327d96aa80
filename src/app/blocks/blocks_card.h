#pragma once
#include "app/pages/cards.h"

#include <glm/glm.hpp>

namespace zl::app {

/// What a build is made of: blocks by kind, its size, its weight, what slopes and hollowing saved, and what
/// was left out on the way.
class BlocksCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    /// Hidden for a crossing that is no build.
    void show(const CrossingState& state, const platform::Sheet& sheet);

Q_SIGNALS:
    /// A place, in the world, that is to be seen.
    void placeAsked(const glm::dvec3& place);
};

} // namespace zl::app
