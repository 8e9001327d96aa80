#pragma once
// tinygltf, compiled into the program (tinygltf.cpp). Its shared library must not be linked: another library
// that we load carries a different version of it under the same names, and which of the two is called would
// depend on the order of linking.
#define TINYGLTF_NO_STB_IMAGE
#define TINYGLTF_NO_STB_IMAGE_WRITE
#define TINYGLTF_NO_INCLUDE_JSON
#define TINYGLTF_NO_INCLUDE_STB_IMAGE
#define TINYGLTF_NO_INCLUDE_STB_IMAGE_WRITE
#include <nlohmann/json.hpp>
#include <tiny_gltf.h>
