#pragma once
#include "app/selected.h"
#include "app/session.h"

#include <QFrame>

class QVBoxLayout;

namespace zl::app {

/// A framed card above a stage's panel; hidden until it has something to say.
class SideCard : public QFrame {
    Q_OBJECT
public:
    explicit SideCard(QWidget* parent = nullptr);

Q_SIGNALS:
    /// A step that the card offers was chosen.
    void stepAsked(const std::string& step, const nlohmann::json& params);
    void closed();

protected:
    void empty();
    /// A heading with a button that closes the card.
    void addHead(const QString& text);
    void addOffer(const QString& text, const QString& icon, const std::string& step, nlohmann::json params,
                  const QString& name = {}, bool main = false);
    QVBoxLayout* layout_;
};

/// That something was stopped or cannot be worked out, and how to go on.
class NoticeCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    /// Without an `action` there is nothing to press but the cross.
    void show(const QString& head, const QString& words, const QString& action);

Q_SIGNALS:
    void goOnAsked();
};

/// What a rule found, what the platform wants, and the steps that mend it.
class RuleCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    void show(const platform::RuleResult& rule, const Model& model, const platform::Sheet& sheet);
};

/// The distance between two picked points, and what can be made of it.
class MeasureCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    void show(const glm::dvec3& from, const glm::dvec3& to, const platform::Sheet& sheet);
};

/// What is selected: names, triangles, extents, and what can be done with it.
class SelectionCard : public SideCard {
    Q_OBJECT
public:
    using SideCard::SideCard;
    void show(const Selected& selected, const Model& model, const platform::Sheet& sheet, bool hasYardstick);

private:
    void addKeeping();
    void addKinds(const contact::Touch& touch);

    std::string kind_; ///< that was painted last

Q_SIGNALS:
    void keepAsked(const QString& name);
    /// It is to be made of this surface kind.
    void paintAsked(const std::string& kind);
};

} // namespace zl::app
