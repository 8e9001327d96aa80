#define TINYGLTF_IMPLEMENTATION
#include "core/formats/tinygltf.h"
