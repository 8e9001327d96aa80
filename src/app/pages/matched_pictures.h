#pragma once
#include "core/project/matching_pictures.h"

#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace zl::app {

/// The pictures that go with a model that is taken out, each with what it is for, and those left over; all of
/// them can be changed.
class MatchedPictures : public QWidget {
    Q_OBJECT
public:
    explicit MatchedPictures(QWidget* parent = nullptr);

    /// `now` is what each is used for, `matching` what names say of it, `left` those beside it that go with
    /// nothing; paths within their container.
    void show(const std::vector<project::OfferedPicture>& now,
              const std::vector<project::OfferedPicture>& matching, const project::PictureShelf::Left& left);
    /// As they are chosen now.
    const std::vector<project::OfferedPicture>& chosen() const { return chosen_; }
    void hideAll();

Q_SIGNALS:
    void changed();

private:
    void addRow(const std::string& path, const std::vector<project::OfferedPicture>& said);

    std::vector<project::OfferedPicture> chosen_;
    QLabel *title_, *more_;
    QVBoxLayout* rows_;
};

} // namespace zl::app
