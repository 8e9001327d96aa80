/* pip_names.h: what the game calls clips, pictures, segments and bones by.
 */
#ifndef PIP_NAMES_H
#define PIP_NAMES_H

enum pip_clip {
    PIP_CLIP_IDLE = 0,
    PIP_CLIP_COUNT = 1
};

#endif
