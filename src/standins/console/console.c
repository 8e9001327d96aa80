/* The console: draws one piece into 320 by 240 pixels with whole numbers alone, as a machine of long ago.
 * It is compiled together with the piece's headers and spoken to by lines:
 *   all            plays every clip once; a line for each: clip K frames F ticks T hash H loads L bytes B cycles C
 *   play K         clip K is played once, then clip 0 goes on
 *   turn D         looks from D degrees round the piece
 *   frame          draws the next sixtieth of a second: a line
 *                  frame clip K ticks T loads L bytes B cycles C triangles N, then 153600 bytes, high byte first
 *   quit
 * NAME, MODEL_H and PICTURES_H are given when it is compiled. */
#include MODEL_H
#include PICTURES_H

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#define PASTE(a, b) a##_##b
#define OF_NAME(a, b) PASTE(a, b)
#define OF(what) OF_NAME(NAME, what)
#define COUNT(list) (sizeof(list) / sizeof((list)[0]))

enum { WIDTH = 320, HEIGHT = 240, TEXTURE_MEMORY = 3072, CORNERS_A_BATCH = 16, TICKS_A_FRAME = 4, BONES = 256 };
/* What work costs, in cycles. */
enum { CORNER_CYCLES = 60, TRIANGLE_CYCLES = 90, PIXEL_CYCLES = 5, BONE_CYCLES = 220, BYTE_CYCLES = 2 };
enum { UV_ONE = 2048, TURN_BITS = 14, LENS = 300 };

typedef struct vector { int32_t x, y, z; } vector;
typedef struct stance { int32_t turn[3][3]; vector place; } stance; /* turn in 1 / 2^TURN_BITS */
typedef struct seen { int32_t x, y, z, u, v, light; int behind; } seen;

static uint16_t screen[WIDTH * HEIGHT];
static int32_t depth[WIDTH * HEIGHT];
static uint8_t texture_memory[TEXTURE_MEMORY];
static int loaded;
static unsigned long loads, load_bytes, cycles, drawn;
static stance bones[BONES], camera;
static int32_t far_away;
static uint32_t hash;

static const brindle_piece *const piece = &OF(piece);

/* ---- numbers ---- */

static int32_t root_of(uint64_t value)
{
    uint64_t low = 0, high = 3037000499u;
    while (low < high) {
        const uint64_t middle = (low + high + 1) / 2;
        if (middle * middle <= value)
            low = middle;
        else
            high = middle - 1;
    }
    return (int32_t)low;
}

/* In 1 / 2^TURN_BITS, by Bhaskara's formula. */
static int32_t sine_of(int degrees)
{
    const int whole = (degrees % 360 + 360) % 360, d = whole % 180;
    const int32_t value = (int32_t)((int64_t)(4 * d * (180 - d)) * (1 << TURN_BITS) / (40500 - d * (180 - d)));
    return whole < 180 ? value : -value;
}

static vector turned(const stance *by, vector v)
{
    vector out;
    out.x = (int32_t)(((int64_t)by->turn[0][0] * v.x + (int64_t)by->turn[0][1] * v.y + (int64_t)by->turn[0][2] * v.z) >> TURN_BITS);
    out.y = (int32_t)(((int64_t)by->turn[1][0] * v.x + (int64_t)by->turn[1][1] * v.y + (int64_t)by->turn[1][2] * v.z) >> TURN_BITS);
    out.z = (int32_t)(((int64_t)by->turn[2][0] * v.x + (int64_t)by->turn[2][1] * v.y + (int64_t)by->turn[2][2] * v.z) >> TURN_BITS);
    return out;
}

static vector placed(const stance *by, vector v)
{
    vector out = turned(by, v);
    out.x += by->place.x, out.y += by->place.y, out.z += by->place.z;
    return out;
}

/* x y z w of any length but 0 become a turn. */
static void turn_from(stance *to, const int32_t q[4])
{
    const int64_t one = 1 << TURN_BITS;
    int32_t n[4], length = root_of((uint64_t)((int64_t)q[0] * q[0] + (int64_t)q[1] * q[1] + (int64_t)q[2] * q[2] + (int64_t)q[3] * q[3]));
    int k;
    for (k = 0; k < 4; ++k)
        n[k] = length ? (int32_t)((q[k] * one) / length) : (k == 3 ? (int32_t)one : 0);
    to->turn[0][0] = (int32_t)(one - ((2 * ((int64_t)n[1] * n[1] + (int64_t)n[2] * n[2])) >> TURN_BITS));
    to->turn[1][1] = (int32_t)(one - ((2 * ((int64_t)n[0] * n[0] + (int64_t)n[2] * n[2])) >> TURN_BITS));
    to->turn[2][2] = (int32_t)(one - ((2 * ((int64_t)n[0] * n[0] + (int64_t)n[1] * n[1])) >> TURN_BITS));
    to->turn[0][1] = (int32_t)((2 * ((int64_t)n[0] * n[1] - (int64_t)n[2] * n[3])) >> TURN_BITS);
    to->turn[1][0] = (int32_t)((2 * ((int64_t)n[0] * n[1] + (int64_t)n[2] * n[3])) >> TURN_BITS);
    to->turn[0][2] = (int32_t)((2 * ((int64_t)n[0] * n[2] + (int64_t)n[1] * n[3])) >> TURN_BITS);
    to->turn[2][0] = (int32_t)((2 * ((int64_t)n[0] * n[2] - (int64_t)n[1] * n[3])) >> TURN_BITS);
    to->turn[1][2] = (int32_t)((2 * ((int64_t)n[1] * n[2] - (int64_t)n[0] * n[3])) >> TURN_BITS);
    to->turn[2][1] = (int32_t)((2 * ((int64_t)n[1] * n[2] + (int64_t)n[0] * n[3])) >> TURN_BITS);
}

/* ---- the piece is looked through once: no number in it may lead outside ---- */

static int wrong(const char *what, long number)
{
    fprintf(stderr, "%s %ld\n", what, number);
    return 0;
}

static int holds_together(void)
{
    const long batches = (long)COUNT(OF(batches)), triangles = (long)COUNT(OF(triangles)) / 3, corners = (long)COUNT(OF(corners));
    const long keys = (long)COUNT(OF(keys)), tracks = (long)COUNT(OF(tracks)), pictures = (long)COUNT(OF(pictures));
    long k, t;
    if (piece->bone_count < 0 || piece->bone_count > BONES || piece->bone_count > (long)COUNT(OF(bones)))
        return wrong("there are more bones than have a place:", piece->bone_count);
    if (piece->segment_count < 0 || piece->segment_count > (long)COUNT(OF(segments)))
        return wrong("a segment is missing:", piece->segment_count);
    if (piece->segment_count > 32)
        return wrong("32 segments have a place in the list, and there are", piece->segment_count);
    if (piece->clip_count < 0 || piece->clip_count > (long)COUNT(OF(clips)))
        return wrong("a clip is missing:", piece->clip_count);
    if (piece->shift < 0 || piece->shift > 8)
        return wrong("the shift is", piece->shift);
    for (k = 0; k < piece->bone_count; ++k)
        if (piece->bones[k].above >= k || piece->bones[k].above < -1)
            return wrong("what a bone hangs on does not stand before it: bone", k);
    for (k = 0; k < piece->segment_count; ++k) {
        const brindle_segment *s = piece->segments + k;
        if (s->bone >= piece->bone_count || (long)s->first_batch + s->batches > batches)
            return wrong("it has no such bone or batches: segment", k);
        for (t = s->first_batch; t < (long)s->first_batch + s->batches; ++t) {
            const brindle_batch *b = piece->batches + t;
            long i;
            if (b->corners > CORNERS_A_BATCH)
                return wrong("it has more than 16 corners: batch", t);
            if ((long)b->first_corner + b->corners > corners || (long)b->first_triangle + b->triangles > triangles)
                return wrong("it reaches behind the end: batch", t);
            if (b->picture >= pictures || b->picture < -1)
                return wrong("there is no such picture for batch", t);
            for (i = 0; i < 3 * (long)b->triangles; ++i)
                if (piece->triangles[3 * (long)b->first_triangle + i] >= b->corners)
                    return wrong("a triangle names a corner that is not in batch", t);
        }
    }
    for (k = 0; k < piece->clip_count; ++k) {
        const brindle_clip *c = piece->clips + k;
        if ((long)c->first_track + c->tracks > tracks)
            return wrong("it reaches behind the end: clip", k);
        for (t = c->first_track; t < (long)c->first_track + c->tracks; ++t) {
            const brindle_track *track = piece->tracks + t;
            if (track->bone >= piece->bone_count || track->keys == 0 || (long)track->first_key + track->keys > keys)
                return wrong("it has no such bone or keys: track", t);
        }
    }
    for (k = 0; k < pictures; ++k) {
        const brindle_picture *p = OF(pictures) + k;
        static const int bits[] = {16, 8, 4, 8, 4}, colours[] = {0, 0, 0, 256, 16};
        if (p->width == 0 && p->height == 0 && p->bytes == 0)
            continue; /* there is none at all */
        if (p->format > 4 || p->width == 0 || p->height == 0 || (p->width & (p->width - 1)) || (p->height & (p->height - 1)))
            return wrong("its sides are no powers of two, or its format is none: picture", k);
        if (((long)p->width * p->height * bits[p->format] + 7) / 8 + 2 * colours[p->format] != (long)p->bytes ||
            (unsigned long)p->offset + p->bytes > sizeof(OF(picture_data).bytes))
            return wrong("its bytes are not as many as it says: picture", k);
        if (p->bytes > TEXTURE_MEMORY) {
            fprintf(stderr, "picture %ld takes %lu bytes and the memory for it is %d\n", k, (unsigned long)p->bytes, TEXTURE_MEMORY);
            return 0;
        }
    }
    return 1;
}

/* ---- movement ---- */

static void key_at(const brindle_track *track, unsigned ticks, int32_t value[4])
{
    const brindle_key *key = piece->keys + track->first_key, *last = key + track->keys - 1;
    int k;
    while (key < last && key[1].ticks <= ticks)
        ++key;
    for (k = 0; k < 4; ++k) {
        value[k] = key->value[k];
        if (key < last && ticks > key->ticks)
            value[k] += (key[1].value[k] - key->value[k]) * (int32_t)(ticks - key->ticks) / (int32_t)(key[1].ticks - key->ticks);
    }
}

static void pose(int clip, unsigned ticks)
{
    static int32_t turns[BONES][4];
    static vector places[BONES];
    int b, t, r, c;
    for (b = 0; b < piece->bone_count; ++b) {
        const brindle_bone *bone = piece->bones + b;
        for (c = 0; c < 4; ++c)
            turns[b][c] = bone->turn[c];
        places[b].x = bone->place[0], places[b].y = bone->place[1], places[b].z = bone->place[2];
    }
    if (clip >= 0)
        for (t = 0; t < piece->clips[clip].tracks; ++t) {
            const brindle_track *track = piece->tracks + piece->clips[clip].first_track + t;
            int32_t value[4];
            key_at(track, ticks, value);
            if (track->kind)
                memcpy(turns[track->bone], value, sizeof value);
            else
                places[track->bone].x = value[0], places[track->bone].y = value[1], places[track->bone].z = value[2];
        }
    for (b = 0; b < piece->bone_count; ++b) {
        stance own;
        turn_from(&own, turns[b]);
        own.place = places[b];
        cycles += BONE_CYCLES;
        if (piece->bones[b].above < 0) {
            bones[b] = own;
            continue;
        }
        {
            const stance *above = bones + piece->bones[b].above;
            for (r = 0; r < 3; ++r)
                for (c = 0; c < 3; ++c)
                    bones[b].turn[r][c] = (int32_t)(((int64_t)above->turn[r][0] * own.turn[0][c] + (int64_t)above->turn[r][1] * own.turn[1][c] +
                                                     (int64_t)above->turn[r][2] * own.turn[2][c]) >> TURN_BITS);
            bones[b].place = placed(above, own.place);
        }
    }
}

/* ---- drawing ---- */

static void load_picture(int number)
{
    const brindle_picture *p = OF(pictures) + number;
    if (number == loaded)
        return;
    memcpy(texture_memory, OF(picture_data).bytes + p->offset, p->bytes);
    loaded = number;
    ++loads, load_bytes += p->bytes, cycles += BYTE_CYCLES * p->bytes;
}

/* A pixel of the picture that is loaded: red, green, blue of 8 bits; nothing to draw gives 0. */
static int texel(const brindle_picture *p, int32_t u, int32_t v, int out[3])
{
    const unsigned x = (unsigned)((u * p->width) >> 11) & (p->width - 1u), y = (unsigned)((v * p->height) >> 11) & (p->height - 1u);
    const unsigned at = y * p->width + x, pixels = (unsigned)p->width * p->height;
    unsigned word, entry;
    switch (p->format) {
    case 1:
        out[0] = out[1] = out[2] = (texture_memory[at] >> 4) * 17;
        return (texture_memory[at] & 15) >= 8;
    case 2:
        out[0] = out[1] = out[2] = ((texture_memory[at / 2] >> (at & 1 ? 0 : 4)) & 15) * 17;
        return 1;
    case 3:
        entry = pixels + 2u * texture_memory[at];
        break;
    case 4:
        entry = (pixels + 1) / 2 + 2u * ((texture_memory[at / 2] >> (at & 1 ? 0 : 4)) & 15u);
        break;
    default:
        entry = 2 * at;
    }
    word = (unsigned)texture_memory[entry] << 8 | texture_memory[entry + 1];
    out[0] = (int)((word >> 11 & 31) * 255 / 31), out[1] = (int)((word >> 6 & 31) * 255 / 31), out[2] = (int)((word >> 1 & 31) * 255 / 31);
    return (int)(word & 1);
}

/* Eight bits to five, with what is lost spread by a fixed pattern of four by four. */
static int to_five(int value, int x, int y)
{
    static const int pattern[16] = {0, 8, 2, 10, 12, 4, 14, 6, 3, 11, 1, 9, 15, 7, 13, 5};
    const int out = (value * 31 * 16 / 255 + pattern[(y & 3) * 4 + (x & 3)]) / 16;
    return out > 31 ? 31 : out < 0 ? 0 : out;
}

static int64_t side_of(const seen *a, const seen *b, int32_t x, int32_t y)
{
    return (int64_t)(b->x - a->x) * (y - a->y) - (int64_t)(b->y - a->y) * (x - a->x);
}

/* Places on the screen are in sixteenths of a pixel. */
static void triangle(const seen *a, const seen *b, const seen *c, const brindle_batch *batch)
{
    const brindle_picture *picture = batch->picture < 0 ? NULL : OF(pictures) + batch->picture;
    int64_t area;
    int32_t left, right, top, bottom, x, y;
    if (a->behind || b->behind || c->behind)
        return;
    area = side_of(a, b, c->x, c->y);
    if (area >= 0) /* y runs downward: what faces us runs this way */
        return;
    cycles += TRIANGLE_CYCLES, ++drawn;
    left = a->x < b->x ? a->x : b->x, right = a->x > b->x ? a->x : b->x, top = a->y < b->y ? a->y : b->y, bottom = a->y > b->y ? a->y : b->y;
    left = left < c->x ? left : c->x, right = right > c->x ? right : c->x, top = top < c->y ? top : c->y, bottom = bottom > c->y ? bottom : c->y;
    left = left < 0 ? 0 : left / 16, top = top < 0 ? 0 : top / 16;
    right = right / 16 + 1 > WIDTH ? WIDTH : right / 16 + 1, bottom = bottom / 16 + 1 > HEIGHT ? HEIGHT : bottom / 16 + 1;
    for (y = top; y < bottom; ++y)
        for (x = left; x < right; ++x) {
            const int64_t wa = -side_of(b, c, 16 * x + 8, 16 * y + 8), wb = -side_of(c, a, 16 * x + 8, 16 * y + 8), wc = -area - wa - wb;
            int32_t z, light;
            int colour[3] = {255, 255, 255}, k;
            uint16_t word = 1;
            if (wa < 0 || wb < 0 || wc < 0)
                continue;
            z = (int32_t)((wa * a->z + wb * b->z + wc * c->z) / -area);
            if (z >= depth[y * WIDTH + x])
                continue;
            cycles += PIXEL_CYCLES;
            if (picture && !texel(picture, (int32_t)((wa * a->u + wb * b->u + wc * c->u) / -area), (int32_t)((wa * a->v + wb * b->v + wc * c->v) / -area), colour))
                continue;
            light = (int32_t)((wa * a->light + wb * b->light + wc * c->light) / -area);
            depth[y * WIDTH + x] = z;
            for (k = 0; k < 3; ++k)
                word = (uint16_t)(word | to_five(colour[k] * batch->colour[k] / 255 * light / 256, x, y) << (11 - 5 * k));
            screen[y * WIDTH + x] = word;
        }
}

static void draw_batch(const brindle_batch *batch, const stance *bone)
{
    static seen corners[CORNERS_A_BATCH];
    int k;
    if (batch->picture >= 0)
        load_picture(batch->picture);
    for (k = 0; k < batch->corners; ++k) {
        const brindle_corner *corner = piece->corners + batch->first_corner + k;
        vector v, n;
        seen *to = corners + k;
        int32_t lit;
        v.x = corner->place[0], v.y = corner->place[1], v.z = corner->place[2];
        n.x = corner->normal[0], n.y = corner->normal[1], n.z = corner->normal[2];
        v = placed(&camera, placed(bone, v));
        n = turned(&camera, turned(bone, n));
        to->behind = v.z <= 16;
        to->z = v.z;
        if (!to->behind) {
            to->x = 16 * (WIDTH / 2) + (int32_t)((int64_t)16 * LENS * v.x / v.z);
            to->y = 16 * (HEIGHT / 2) - (int32_t)((int64_t)16 * LENS * v.y / v.z);
        }
        to->u = corner->uv[0], to->v = corner->uv[1];
        /* A lamp over the left shoulder of who looks. */
        lit = (-60 * n.x + 80 * n.y - 80 * n.z) / 128;
        to->light = 96 + (lit > 0 ? lit * 3 / 2 : lit / 4);
        cycles += CORNER_CYCLES;
    }
    for (k = 0; k < batch->triangles; ++k) {
        const uint8_t *t = piece->triangles + 3 * (batch->first_triangle + k);
        triangle(corners + t[0], corners + t[1], corners + t[2], batch);
    }
}

static void draw(int clip, unsigned ticks)
{
    int s, b, k, x, y;
    loads = load_bytes = cycles = drawn = 0;
    loaded = -1;
    for (y = 0; y < HEIGHT; ++y)
        for (x = 0; x < WIDTH; ++x) {
            const int level = 60 + y * 90 / HEIGHT;
            screen[y * WIDTH + x] = (uint16_t)(to_five(level / 3, x, y) << 11 | to_five(level / 2, x, y) << 6 | to_five(level * 2 / 3, x, y) << 1 | 1);
            depth[y * WIDTH + x] = 0x7fffffff;
        }
    pose(clip, ticks);
    for (s = 0; s < piece->segment_count; ++s)
        for (b = 0; b < piece->segments[s].batches; ++b)
            draw_batch(piece->batches + piece->segments[s].first_batch + b, bones + piece->segments[s].bone);
    hash = 2166136261u; /* FNV-1a */
    for (k = 0; k < WIDTH * HEIGHT; ++k)
        hash = (hash ^ screen[k]) * 16777619u;
}

/* The camera stands off so that the piece at rest is seen whole. */
static void look_from(int degrees)
{
    const int32_t one = 1 << TURN_BITS, sine = sine_of(degrees), cosine = sine_of(degrees + 90);
    vector middle;
    static int32_t low[3], high[3];
    static int known;
    if (!known) {
        int s, b, k, a, any = 0;
        pose(-1, 0);
        for (s = 0; s < piece->segment_count; ++s)
            for (b = 0; b < piece->segments[s].batches; ++b) {
                const brindle_batch *batch = piece->batches + piece->segments[s].first_batch + b;
                for (k = 0; k < batch->corners; ++k) {
                    const brindle_corner *corner = piece->corners + batch->first_corner + k;
                    vector v;
                    int32_t at[3];
                    v.x = corner->place[0], v.y = corner->place[1], v.z = corner->place[2];
                    v = placed(bones + piece->segments[s].bone, v);
                    at[0] = v.x, at[1] = v.y, at[2] = v.z;
                    for (a = 0; a < 3; ++a) {
                        low[a] = !any || at[a] < low[a] ? at[a] : low[a];
                        high[a] = !any || at[a] > high[a] ? at[a] : high[a];
                    }
                    any = 1;
                }
            }
        far_away = 64;
        for (a = 0; a < 3; ++a)
            if (high[a] - low[a] > far_away)
                far_away = high[a] - low[a];
        known = 1;
    }
    memset(&camera, 0, sizeof camera);
    camera.turn[0][0] = cosine, camera.turn[0][2] = -sine;
    camera.turn[1][1] = one;
    camera.turn[2][0] = -sine, camera.turn[2][2] = -cosine;
    middle.x = (low[0] + high[0]) / 2, middle.y = (low[1] + high[1]) / 2, middle.z = (low[2] + high[2]) / 2;
    middle = turned(&camera, middle);
    camera.place.x = -middle.x, camera.place.y = -middle.y, camera.place.z = far_away * 8 / 5 - middle.z;
}

static void play_all(void)
{
    int clip;
    for (clip = 0; clip < piece->clip_count; ++clip) {
        unsigned long frames = 0, all_loads = 0, all_bytes = 0, all_cycles = 0;
        uint32_t all = 2166136261u;
        unsigned ticks;
        for (ticks = 0; ticks <= piece->clips[clip].ticks; ticks += TICKS_A_FRAME) {
            draw(clip, ticks);
            ++frames, all_loads += loads, all_bytes += load_bytes, all_cycles += cycles;
            all = (all ^ hash) * 16777619u;
        }
        printf("clip %d frames %lu ticks %u hash %lu loads %lu bytes %lu cycles %lu\n", clip, frames, piece->clips[clip].ticks, (unsigned long)all,
               all_loads, all_bytes, all_cycles);
        fflush(stdout);
    }
}

int main(void)
{
    char line[64];
    int clip = piece->clip_count > 0 ? 0 : -1;
    unsigned ticks = 0;
    if (!holds_together())
        return 3;
    look_from(24);
    while (fgets(line, sizeof line, stdin)) {
        if (!strncmp(line, "all", 3)) {
            play_all();
        } else if (!strncmp(line, "play ", 5)) {
            const int wanted = atoi(line + 5);
            if (wanted >= 0 && wanted < piece->clip_count)
                clip = wanted, ticks = 0;
        } else if (!strncmp(line, "turn ", 5)) {
            look_from(atoi(line + 5) % 360);
        } else if (!strncmp(line, "frame", 5)) {
            static uint8_t bytes[2 * WIDTH * HEIGHT];
            int k;
            draw(clip, ticks);
            printf("frame clip %d ticks %u loads %lu bytes %lu cycles %lu triangles %lu\n", clip, ticks, loads, load_bytes, cycles, drawn);
            for (k = 0; k < WIDTH * HEIGHT; ++k)
                bytes[2 * k] = (uint8_t)(screen[k] >> 8), bytes[2 * k + 1] = (uint8_t)(screen[k] & 255);
            fwrite(bytes, 1, sizeof bytes, stdout);
            fflush(stdout);
            ticks += TICKS_A_FRAME;
            if (clip >= 0 && ticks > piece->clips[clip].ticks)
                clip = 0, ticks = 0;
        } else if (!strncmp(line, "quit", 4)) {
            break;
        }
    }
    return 0;
}
