#pragma once
#include "core/model/model.h"
#include "dice.h"

namespace torture {

/// A model as its maker did not mean to make it: rough meshes shown by several nodes, mirrored, flattened and
/// sheared nodes, faces without a material, empty ranges, materials and parts of one name, names of every
/// kind, clips on anything, pictures of odd sides. Keeps all promises of a Model; nothing else.
zl::Model roughModel(Dice& dice);

/// A name that somebody, somewhere, gave to something. UTF-8.
std::string roughName(Dice& dice);

} // namespace torture
