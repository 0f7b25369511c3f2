package org.wornladder.cli.view;

import org.wornladder.execution.Plan;

/** A plan's note with what can be done about it, as one line. */
final class NoteText {
  private NoteText() {}

  static String of(Plan.Note note) {
    return AdviceText.optional(note.advice())
        .map(advice -> note.text() + "; " + advice)
        .orElse(note.text());
  }
}
