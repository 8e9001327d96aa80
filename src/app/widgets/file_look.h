#pragma once
#include "app/jobs.h"

#include "core/base/file_set.h"

#include <QImage>
#include <QWidget>

class QImageReader;
class QLabel;
class QPlainTextEdit;

namespace zl::app {

/// What a file holds, whatever it is: a text as it is, a picture, a model drawn from the file itself with its
/// numbers, and of anything else its size.
class FileLook : public QWidget {
public:
    explicit FileLook(Jobs& jobs, QWidget* parent = nullptr);

    using Files = std::shared_ptr<const std::vector<OutFile>>;
    /// One of some files that belong together: a model is drawn with the pictures beside it.
    void show(const Files& files, std::size_t which);
    /// One that lies on the disk.
    void show(const std::filesystem::path& file);
    /// Nothing.
    void clear();
    bool isSettled() const { return !working_; }

private:
    struct Drawn {
        QImage picture;
        QString words;
    };

    /// A model that lies there, drawn from its file, with its numbers.
    static Drawn drawn(const std::filesystem::path& folder, const std::string& name,
                       const Progress& progress);
    static Drawn pictured(QImageReader& reader);
    using Draw = std::function<Drawn(const Progress&)>;
    /// `head` is how it begins; drawing is done beside the window.
    void begin(const std::string& name, double size, const std::string& head, Draw draw);
    void showText(const QString& text);
    void draw();

    Jobs& jobs_;
    QPointer<Job> working_;
    QString name_;
    QImage image_;
    QLabel *picture_, *words_;
    QPlainTextEdit* text_;

protected:
    void resizeEvent(QResizeEvent* event) override;
};

} // namespace zl::app
