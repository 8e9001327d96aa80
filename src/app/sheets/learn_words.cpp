#include "app/sheets/learn_words.h"

#include "app/qt_text.h"

#include "core/base/units.h"

#include <QObject>
#include <QStringList>

namespace zl::app {

QString seenWords(const learn::Property& property) {
    const auto number = [](double value) { return qs(showMeasure(value)); };
    if (property.isNumber())
        return property.least == property.most
                   ? QObject::tr("%1 everywhere").arg(number(property.most))
                   : QObject::tr("%1 to %2, middle %3")
                         .arg(number(property.least), number(property.most), number(property.middle));
    std::map<std::string, int> counts; // "yes" or "no", kinds, axes
    for (const learn::Seen& seen : property.accepted) ++counts[seen.text.substr(0, seen.text.find(','))];
    if (counts.size() > 4 || counts.contains(""))
        return qs(showCount(long(property.accepted.size()), "of them", "of them"));
    QStringList words;
    for (const auto& [text, count] : counts) words << QString("%1 %2").arg(count).arg(qs(text));
    return words.join(", ");
}

bool saysAnything(const learn::Property& property) {
    return property.offered &&
           (property.offered->rule || !property.offered->keys.empty() || !property.offered->sections.empty());
}

QString offeredWords(const learn::Offer& offer) {
    QStringList words;
    if (offer.rule) {
        for (const auto& [limit, value] : offer.rule->limits)
            if (limit != "per-object")
                words << QString("%1 %2").arg(limit == "within"  ? QObject::tr("within")
                                              : limit == "least" ? QObject::tr("at least")
                                                                 : QObject::tr("at most"),
                                              qs(showNumber(value, value < 10 ? 3 : 0)));
        if (const auto wanted = offer.rule->texts.find("wanted"); wanted != offer.rule->texts.end())
            words << qs(wanted->second);
        else
            for (const auto& [name, value] : offer.rule->texts) words << qs(value);
        if (words.isEmpty()) words << QObject::tr("always");
    }
    for (const auto& [key, value] : offer.keys)
        if (key == "unit.metres")
            words << qs(showMeasure(QString::fromStdString(value).toDouble())) + QString::fromUtf8("\u202fm");
        else if (key != "unit.name")
            words << qs(value).remove('"');
    if (!offer.sections.empty()) {
        const bool text = offer.sections.find("[[text]]") != std::string::npos,
                   picture = offer.sections.find("[[picture]]") != std::string::npos,
                   still = offer.sections.find("[[still]]") != std::string::npos;
        words << (text      ? QObject::tr("a template")
                  : picture ? QObject::tr("a packing")
                  : still   ? QObject::tr("a drawn picture")
                            : QObject::tr("is written"));
    }
    return words.join(", ");
}

} // namespace zl::app
