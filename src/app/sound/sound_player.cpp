#include "app/sound/sound_player.h"

#include "app/sound/sound_mixer.h"

#include "core/contact/step_sound.h"

#include <pulse/error.h>
#include <pulse/simple.h>

#include <array>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace zl::app {

namespace {

constexpr int blockSamples = contact::soundRate / 100;

struct CloseOutput {
    void operator()(pa_simple* output) const { pa_simple_free(output); }
};
using Output = std::unique_ptr<pa_simple, CloseOutput>;

Output openOutput(int& error) {
    const pa_sample_spec format{PA_SAMPLE_FLOAT32NE, contact::soundRate, 1};
    pa_buffer_attr waiting{};
    waiting.maxlength = waiting.prebuf = waiting.minreq = waiting.fragsize = std::uint32_t(-1);
    waiting.tlength = 5 * blockSamples * sizeof(float); // a step is heard when it is seen
    return Output(pa_simple_new(nullptr, "Zest Loom", PA_STREAM_PLAYBACK, nullptr, "steps", &format, nullptr,
                                &waiting, &error));
}

} // namespace

struct SoundPlayer::Shared {
    std::mutex mutex;
    std::condition_variable wake;
    SoundMixer mixer;
    bool isRunning = false, ends = false;
    SoundPlayer* player = nullptr; ///< null once it is gone

    void say(int error) {
        mixer.clear();
        if (player)
            QMetaObject::invokeMethod(
                player,
                [player = player, why = QString::fromUtf8(pa_strerror(error))] {
                    Q_EMIT player->failed(why);
                },
                Qt::QueuedConnection);
    }
    void run() {
        int error = 0;
        const Output output = openOutput(error);
        std::array<float, blockSamples> block;
        std::unique_lock lock(mutex);
        while (output && !ends) {
            wake.wait(lock, [this] { return ends || !mixer.isSilent(); });
            if (ends) break;
            mixer.next(block);
            lock.unlock();
            const bool written = pa_simple_write(output.get(), block.data(), sizeof(block), &error) >= 0;
            lock.lock();
            if (!written) break;
        }
        if (!ends) say(error);
        isRunning = false;
    }
};

SoundPlayer::SoundPlayer(QObject* parent) : QObject(parent), shared_(std::make_shared<Shared>()) {
    shared_->player = this;
}

SoundPlayer::~SoundPlayer() {
    const std::lock_guard lock(shared_->mutex);
    shared_->player = nullptr, shared_->ends = true;
    shared_->wake.notify_all();
}

void SoundPlayer::play(std::vector<float> sound) {
    const std::lock_guard lock(shared_->mutex);
    shared_->mixer.add(std::move(sound));
    shared_->wake.notify_all();
    if (std::exchange(shared_->isRunning, true)) return;
    // On its own: an output that does not answer must not hold up the closing of the window.
    std::thread([shared = shared_] { shared->run(); }).detach();
}

void SoundPlayer::hush() {
    const std::lock_guard lock(shared_->mutex);
    shared_->mixer.clear();
}

} // namespace zl::app
