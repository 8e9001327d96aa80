#pragma once
#include "standins/stand_in.h"
#include "standins/world/physics.h"

#include <functional>
#include <utility>

namespace zl::standins::world {

/// Something that can be done on an arena: a button, with a key of its own where it has one ("1"); or a
/// choice of several.
struct Action {
    std::string id, label, tip, key{};
};
struct Choice {
    std::string id, name;
    std::vector<std::string> options;
    int chosen = 0;
};

/// How much of something, from 0 to 1.
struct Slider {
    std::string id, label;
    double value = 0;
};

/// Where somebody looks from who sits on what moves, and where to.
struct Ride {
    glm::vec3 eye{0}, to{0};
};

/// One thing as it stands now.
struct Drawn {
    int item = 0;
    glm::mat4 pose{1.0f};
};
/// A line on the arena, with an arrowhead at its end when it has one, and a word at its middle.
struct Mark {
    glm::vec3 from{0}, to{0};
    std::string text;
    bool arrow = false;
    bool warning = false;
};
/// A table of measured things: each row a name and one value a column.
struct Table {
    std::string title;
    std::vector<std::string> columns; ///< empty for one unnamed value
    struct Row {
        std::string name;
        std::vector<std::string> values;
        bool warning = false;
    };
    std::vector<Row> rows;
};

/// Something that makes a sound: the platform's word for it.
struct Heard {
    std::string sound;
    unsigned step = 0; ///< the how many-th, as no two are alike
};

class Shading;

/// The small world that all stand-ins share: figure, floor, things, physics. Y is up, +Z faces the viewer,
/// lengths are the platform's units. Each platform adds its loader, its checks, and what can be done.
class Arena {
public:
    Arena(std::string unit, double figureHeight)
        : unit_(std::move(unit)), figureHeight_(figureHeight), physics_(figureHeight) {
        physics_.keepWithin(glm::vec2(static_cast<float>(12 * figureHeight)), false);
    }
    virtual ~Arena() = default;

    const std::string& unit() const { return unit_; }
    double figureHeight() const { return figureHeight_; }
    const std::vector<Item>& items() const { return items_; }
    /// Grows whenever items came, went or got another picture.
    int itemsRevision() const { return itemsRevision_; }
    /// How its items are drawn, where it has a way of its own; its items are `items()` then, in their order.
    virtual const Shading* shading() const { return nullptr; }
    Physics& physics() { return physics_; }
    const Physics& physics() const { return physics_; }

    /// What stands where now: by default every body as the item of its shape's number.
    virtual std::vector<Drawn> drawn() const;
    /// An item whose corners have moved among themselves, as they are now; null for one that is stiff.
    virtual const Shape* bent(int item) const {
        (void)item;
        return nullptr;
    }
    /// What the camera and the figure make room for: what is drawn, and what is still to come.
    virtual std::vector<Drawn> expected() const { return drawn(); }
    /// Outlines of what physics uses, where the arena wants them shown.
    virtual bool showsColliders() const { return false; }
    virtual std::vector<Mark> marks() const { return {}; }
    virtual std::vector<Action> actions() const { return {}; }
    virtual void act(const std::string& id) { (void)id; }
    virtual std::vector<Choice> choices() const { return {}; }
    virtual void choose(const std::string& id, int option) { (void)id, (void)option; }
    virtual std::vector<Slider> sliders() const { return {}; }
    virtual void slide(const std::string& id, double value) { (void)id, (void)value; }
    /// The pointer is over the arena: its ray.
    virtual void pointAt(const glm::vec3& from, const glm::vec3& direction) { (void)from, (void)direction; }
    /// An item was clicked; below 0 for none. Whether a choice stands elsewhere now.
    virtual bool click(int item) {
        (void)item;
        return false;
    }
    /// Whether the figure goes where the keys say, and the camera along with it.
    virtual bool isWalked() const { return false; }
    /// The way that it is to go from now on, level, as long as its pace is a share of; zero to stand.
    virtual void walk(const glm::vec2& way) { (void)way; }
    virtual std::vector<Table> tables() const { return {}; }
    /// Whether it wants to know how long a picture takes; drew() tells it then.
    virtual bool isTimed() const { return false; }
    virtual void drew(double milliseconds) { (void)milliseconds; }
    /// What a picture is put on, "face" say; empty where an arena takes none.
    virtual std::string takesPictureOn() const { return {}; }
    /// A picture for an item, or for what is chosen where that is below 0. False, with why, when it is
    /// refused.
    virtual bool takePicture(const std::filesystem::path& file, int item, std::string& why) {
        (void)file, (void)item, (void)why;
        return false;
    }
    /// The item that a ray meets first; below 0 for none.
    int itemAt(const glm::vec3& from, const glm::vec3& direction) const;
    /// How far it is along a ray to the first item that `counts`; nothing where there is none within `most`.
    std::optional<float> wayTo(const glm::vec3& from, const glm::vec3& direction, float most,
                               const std::function<bool(int item)>& counts) const;
    /// Lines under the verdict, such as a credit.
    virtual std::vector<std::string> notes() const { return {}; }
    /// The stand-in has not come to a verdict yet: an upload still waits for its check, say.
    virtual bool isChecking() const { return false; }
    /// The verdict as it stands, where what is done on the arena can change it; nothing where it stays as it
    /// was on opening.
    virtual std::optional<TryReport> verdictNow() const { return std::nullopt; }
    /// Whether it stands on ground of its own, so that no grid is drawn for a floor.
    virtual bool hasGround() const { return false; }
    /// Half the width and depth of a wooden table top; zero where there is the open floor instead.
    virtual glm::vec2 table() const { return glm::vec2(0); }
    /// Time passes; true while the arena has something of its own going on (an upload, say).
    virtual bool advance(double seconds);

    /// Whether anything on it is ever heard, and what was since it was last asked.
    virtual bool isHeard() const { return false; }
    std::vector<Heard> takeHeard() { return std::exchange(heard_, {}); }

    /// The space the camera should show, and where the figure stands.
    virtual std::pair<glm::vec3, glm::vec3> frame() const;
    virtual glm::vec3 figureFoot() const;
    /// For a camera that goes along; nothing where it is the user's.
    virtual std::optional<Ride> ride() const { return std::nullopt; }
    /// From how far round, in radians from the front, it is looked at first.
    virtual double seenFrom() const { return table().x > 0 ? 0.12 : 0.5; }

protected:
    /// Adds an item and a hull for it (its own corners); returns the number of both.
    int addItem(Item item);
    void itemsChanged() { ++itemsRevision_; }
    void hear(std::string sound) { heard_.push_back({std::move(sound), ++sounds_}); }

    std::vector<Item> items_;

private:
    std::string unit_;
    double figureHeight_;
    int itemsRevision_ = 0;
    std::vector<Heard> heard_;
    unsigned sounds_ = 0;
    Physics physics_;
};

} // namespace zl::standins::world
