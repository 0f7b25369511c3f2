package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.wornladder.engine.StatementWords;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.project.Secrets;
import org.wornladder.sql.Statement;

/**
 * Finds statements that make a secret part of an object's definition, where whoever may read the
 * catalogue sees it. The password of a user or role is none: databases keep a hash of it.
 */
record SecretDefinitions(Secrets secrets) {
  private static final Set<String> DEFINE = Set.of("CREATE", "ALTER", "COMMENT", "REPLACE");
  private static final Set<String> WITH_PASSWORD = Set.of("USER", "ROLE", "LOGIN");
  private static final Set<String> BETWEEN = Set.of("OR", "REPLACE");

  /** A note for each such statement. */
  List<Plan.Note> notes(List<Step> steps) {
    List<Plan.Note> notes = new ArrayList<>();
    for (Step step : steps) {
      statements(step)
          .filter(statement -> secrets.isIn(statement.text()) && defines(statement))
          .map(SecretDefinitions::note)
          .forEach(notes::add);
    }
    return notes;
  }

  private static Stream<Statement> statements(Step step) {
    return step instanceof Step.OfRung rung
        ? Stream.of(
                rung.liftedBefore().stream().map(StandingAction::statements),
                Stream.of(rung.remaining()),
                rung.putBackAfter().stream().map(StandingAction::statements))
            .flatMap(lists -> lists.flatMap(List::stream))
        : step.statements().stream();
  }

  private boolean defines(Statement statement) {
    List<String> words = new ArrayList<>(StatementWords.first(statement, 4));
    if (words.isEmpty() || !DEFINE.contains(words.remove(0))) {
      return false;
    }
    words.removeAll(BETWEEN);
    return words.isEmpty() || !WITH_PASSWORD.contains(words.get(0));
  }

  private static Plan.Note note(Statement statement) {
    return Plan.Note.of(
        statement.place().file()
            + ":"
            + statement.place().line()
            + " puts the value of a variable into a definition, where whoever may read the"
            + " catalogue sees it");
  }
}
