#pragma once
#include <QObject>

#include <memory>
#include <vector>

namespace zl::app {

/// Plays sounds on the desktop's own output, from a thread of its own: neither asking for the output nor a
/// slow one holds up the window. Nothing is asked for before the first sound.
class SoundPlayer : public QObject {
    Q_OBJECT
public:
    explicit SoundPlayer(QObject* parent = nullptr);
    ~SoundPlayer() override;
    /// Mono, at contact::soundRate. Heard at once, over what is still heard.
    void play(std::vector<float> sound);
    void hush();

Q_SIGNALS:
    /// There is no output; why. The next sound asks for it again.
    void failed(const QString& why);

private:
    struct Shared;
    std::shared_ptr<Shared> shared_; ///< with the thread, which may outlast this
};

} // namespace zl::app
