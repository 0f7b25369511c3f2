package org.wornladder.cli.view;

import org.wornladder.execution.Plan;

/** A plan's note with what can be done about it, as one line. */
final class NoteText {
  private NoteText() {}

  /**
   * @param plan whose note it is
   */
  static String of(Plan.Note note, Plan plan) {
    return AdviceText.optional(note.advice(), Commands.guarded(plan.environment(), plan.guarded()))
        .map(advice -> note.text() + "; " + advice)
        .orElse(note.text());
  }
}
