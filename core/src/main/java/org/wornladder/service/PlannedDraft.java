package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.LeftOut;
import org.wornladder.change.RenameCandidate;
import org.wornladder.change.Risk;
import org.wornladder.project.RungDraft;

/**
 * A draft before it is written.
 *
 * @param upScript the way up behind the renames
 * @param downScript the way down behind the renames back
 * @param up the statements of its way up, renames first
 * @param down the statements of its way down, renames first
 * @param queries for each risk that depends on rows, the query that finds them; in the order of the
 *     risks, empty for the others
 * @param notProved why it is not known that both ways do what they should; empty if they do
 */
record PlannedDraft(
    ChangeScript upScript,
    ChangeScript downScript,
    List<String> up,
    List<String> down,
    DraftSelection.Selected selected,
    List<Risk> risks,
    List<Optional<String>> queries,
    Optional<String> notProved) {

  /** The rung, with remarks on what a person must look at. */
  RungDraft rung(List<RenameCandidate> unanswered) {
    List<String> remarks = new ArrayList<>();
    if (!risks.isEmpty()) {
      remarks.add(
          "risks: "
              + risks.stream()
                  .map(risk -> risk.kind().label())
                  .distinct()
                  .sorted()
                  .collect(Collectors.joining(", ")));
    }
    for (RenameCandidate candidate : unanswered) {
      remarks.add(
          "NOT SURE: is "
              + candidate.before()
              + " now "
              + candidate.after()
              + "? As written here, the one is dropped and the other is new.");
    }
    notProved.ifPresent(reason -> remarks.add("NOT PROVED: " + oneLine(reason)));
    upScript.leftOut().forEach(left -> remarks.add("left out: " + words(left)));
    downScript.leftOut().forEach(left -> remarks.add("the way down lacks: " + words(left)));
    for (int i = 0; i < risks.size(); i++) {
      Risk risk = risks.get(i);
      remarks.add(risk.kind().label() + ": " + risk.subject() + ": " + risk.reason());
      queries.get(i).ifPresent(query -> remarks.add("  " + oneLine(query)));
      if (!risk.instead().isEmpty()) {
        remarks.add("  instead: " + risk.instead());
      }
    }
    return new RungDraft(RungDraft.lines(up), RungDraft.lines(down), Optional.empty(), remarks);
  }

  private static String words(LeftOut left) {
    return left.difference().description() + ": " + left.reason();
  }

  /** A remark may not end the comment that it is in, nor be a value's place. */
  private static String oneLine(String text) {
    return text.replaceAll("\\s*\\R\\s*", " ");
  }
}
