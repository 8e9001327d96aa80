#ifndef PIP_MODEL_H
#define PIP_MODEL_H

#include <stdint.h>

#include "pip_names.h"

#define PIP_SHIFT 4
static const brindle_corner pip_corners[2] = {
    {{2,-5,9},{0,2048},{0,127,0}}, {{2,5,9},{0,0},{0,127,0}}
};
typedef char pip_names_are_of_this_model[(PIP_CLIP_COUNT == 1 && PIP_BONE_COUNT == 2) ? 1 : -1];

#endif
