#include "app/pages/plan_questions.h"

#include "app/fields/choice_box.h"
#include "app/qt_text.h"
#include "app/widgets/ui.h"

#include <QComboBox>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>

namespace zl::app {

namespace {

/// Which way the front points: four ways here, any other by the arrow on the floor.
class FrontQuestion final : public QuestionCard {
public:
    FrontQuestion(const planner::Question& question, const recipe::Entry* known, QWidget* parent)
        : QuestionCard(question,
                       tr("Nothing about the piece says it. The arrow on the floor shows your answer; it can "
                          "be dragged."),
                       parent) {
        auto* row = new QHBoxLayout;
        row->setSpacing(6);
        static constexpr std::pair<const char*, const char*> ways[] = {
            {"+z", "+Z"}, {"+x", "+X"}, {"-z", "−Z"}, {"-x", "−X"}};
        for (const auto& [id, label] : ways) {
            auto* way = new QToolButton;
            way->setObjectName(QString("front-%1").arg(id));
            way->setText(QString::fromUtf8(label));
            way->setToolTip(tr("The front points to %1 as the piece stands now").arg(way->text()));
            way->setProperty("mode", true);
            way->setCheckable(true);
            way->setAutoExclusive(true);
            way->setFocusPolicy(Qt::StrongFocus);
            way->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
            way->setChecked(known && known->params.value("front", "") == id);
            connect(way, &QToolButton::clicked, this, [this, id = id] { answer({{"front", id}}); });
            row->addWidget(way);
            if (!begin_) begin_ = way;
        }
        layout_->addLayout(row);
    }
    QWidget* begin() const override { return begin_; }

private:
    QWidget* begin_ = nullptr;
};

/// What all of it is made of: one of the platform's kinds of surfaces.
class SurfaceQuestion final : public QuestionCard {
public:
    SurfaceQuestion(const planner::Question& question, const recipe::Entry* known, const EditingPlace& place,
                    QWidget* parent)
        : QuestionCard(
              question,
              tr("The names of its materials do not say it of every face. What is of another kind can be "
                 "painted afterwards, on Contact."),
              parent) {
        kinds_ = new ChoiceBox;
        kinds_->setObjectName("surfaceKind");
        kinds_->setPlaceholderText(tr("Choose a kind"));
        if (place.sheet)
            for (const contact::SurfaceKind& kind : place.sheet->touch.surfaces)
                kinds_->addItem(qs(kind.word), qs(kind.name));
        kinds_->setCurrentIndex(known ? kinds_->findData(qs(known->params.value("kind", ""))) : -1);
        layout_->addWidget(kinds_);
        connect(kinds_, &QComboBox::currentIndexChanged, this, [this] {
            answer({{"kind", kinds_->currentData().toString().toStdString()}});
        });
    }
    QWidget* begin() const override { return kinds_; }

private:
    QComboBox* kinds_ = nullptr;
};

/// Whether something may be done that changes what the piece looks like.
class MayQuestion final : public QuestionCard {
public:
    MayQuestion(const planner::Question& question, const recipe::Entry* known, QWidget* parent)
        : QuestionCard(
              question,
              tr("No scale alone makes it fit; its proportions change. Without it, the limit stays broken."),
              parent) {
        may_ = new QToolButton;
        may_->setObjectName("may-" + qs(question.step));
        may_->setText(tr("It may"));
        may_->setProperty("mode", true);
        may_->setCheckable(true);
        may_->setFocusPolicy(Qt::StrongFocus);
        may_->setChecked(known != nullptr);
        connect(may_, &QToolButton::clicked, this, [this] {
            may_->setChecked(true);
            answer(nlohmann::json::object());
        });
        layout_->addWidget(may_);
    }
    QWidget* begin() const override { return may_; }

private:
    QToolButton* may_ = nullptr;
};

/// How large it is: one of its measures, or the length between two points that are clicked in the view.
class LengthQuestion final : public QuestionCard {
public:
    LengthQuestion(const planner::Question& question, const recipe::Entry* known, const EditingPlace& place,
                   QWidget* parent)
        : QuestionCard(question, hintOf(question), parent), params_(usual()) {
        if (known) params_.update(known->params);
        by_ = new ChoiceBox;
        by_->setObjectName("sizeBy");
        for (const auto& [id, words] :
             {std::pair{"height", tr("Its height is")}, std::pair{"width", tr("Its width is")},
              std::pair{"length", tr("Its length is")}, std::pair{"points", tr("Two points are apart by")}})
            by_->addItem(words, id);
        by_->setCurrentIndex(std::max(0, by_->findData(qs(params_.value("by", "")))));
        layout_->addWidget(by_);
        clicking_ = textLabel(tr("Click two points on the piece."));
        layout_->addWidget(clicking_);
        const auto& step = steps::makeStep("size");
        for (const fields::Field& field : step->fields())
            if (field.name == "measure")
                length_ =
                    editorOf(field.type()).make(field, params_["measure"], place, [this](const auto& value) {
                        params_["measure"] = value;
                        answer(params_);
                    });
        length_->setObjectName("sizeMeasure");
        layout_->addWidget(length_);
        connect(by_, &QComboBox::currentIndexChanged, this, [this] {
            params_["by"] = by_->currentData().toString().toStdString();
            showWay();
            Q_EMIT pointsAsked(byPoints());
        });
        pointed_ = known && byPoints();
        showWay();
    }
    QWidget* begin() const override { return by_; }

    void setPoints(const glm::dvec3& from, const glm::dvec3& to) override {
        if (!byPoints()) return;
        const auto json = [](const glm::dvec3& p) { return nlohmann::json::array({p.x, p.y, p.z}); };
        params_["from"] = json(from), params_["to"] = json(to);
        pointed_ = true;
        showWay();
        length_->setFocus();
    }

private:
    static nlohmann::json usual() { return steps::makeStep("size")->params(); }
    static QString hintOf(const planner::Question& question) {
        return question.goesBy.empty()
                   ? tr("Nothing about the piece says it.")
                   : tr("Nothing about the piece says it; the plan goes by %1.").arg(qs(question.goesBy));
    }
    bool byPoints() const { return params_.value("by", "") == "points"; }
    void showWay() {
        const bool wanting = byPoints() && !pointed_;
        clicking_->setVisible(wanting);
        length_->setVisible(!wanting);
    }

    nlohmann::json params_;
    QComboBox* by_ = nullptr;
    QLabel* clicking_ = nullptr;
    QWidget* length_ = nullptr;
    bool pointed_ = false;
};

} // namespace

QuestionCard::QuestionCard(const planner::Question& question, const QString& hint, QWidget* parent)
    : QFrame(parent), step_(question.step) {
    setObjectName("question-" + qs(question.step));
    setProperty("card", true);
    setProperty("selected", question.waits());
    layout_ = new QVBoxLayout(this);
    layout_->setContentsMargins(12, 9, 12, 10);
    layout_->setSpacing(6);
    layout_->addWidget(headingLabel(qs(question.words), 2));
    layout_->addWidget(textLabel(hint, "dim"));
}

void QuestionCard::answer(const nlohmann::json& params) {
    Q_EMIT answered({step_, true, steps::makeStep(step_, params)->params()});
}

QuestionCard* QuestionCard::of(const planner::Question& question, const recipe::Entry* answer,
                               const EditingPlace& place, QWidget* parent) {
    if (question.step == "heading") return new FrontQuestion(question, answer, parent);
    if (question.step == "surface-kind") return new SurfaceQuestion(question, answer, place, parent);
    if (question.step == "reshape") return new MayQuestion(question, answer, parent);
    return new LengthQuestion(question, answer, place, parent);
}

} // namespace zl::app
