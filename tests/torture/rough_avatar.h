#pragma once
#include "dice.h"

#include "core/model/model.h"

namespace torture {

/// Sets a model up as an avatar of whatever it has and much that it has not.
void makeRoughAvatar(zl::Model& model, Dice& dice);

} // namespace torture
