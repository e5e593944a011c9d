// The small editors that the phrases of a sentence open beside themselves. Changes count at once; Escape or
// Return closes.
#pragma once

#include <functional>
#include <memory>
#include <QFrame>

#include "plan/sentence.h"

namespace octaphon::app {

/// What an editor changes a brief with: the changed brief, words for undo, and a tag that merges steps.
using ApplyBrief = std::function<void(const Brief& brief, const QString& words, const QString& merge)>;

/// A pop-up for one kind of phrase; null for kinds that have none. It deletes itself when it closes.
QFrame* makePhraseEditor(PhraseKind kind, const Brief& brief, std::shared_ptr<const Session> session,
                         const ApplyBrief& apply, QWidget* parent);

/// Shows it below the phrase, or above where there is no room, inside the screen.
void showBeside(QFrame* editor, QWidget* phrase);

}  // namespace octaphon::app
