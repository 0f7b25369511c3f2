package org.wornladder.execution;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.attic.Erasure;
import org.wornladder.change.Risk;
import org.wornladder.engine.StatementWords;

/** What a rung's statements erase, as their texts say. */
final class Erasures {
  private static final int ALL = 400;

  private Erasures() {}

  /** Each once; what is kept with its whole table is not named for itself. */
  static List<Erasure> of(Step.OfRung rung) {
    List<Erasure> all =
        StatementRisks.of(rung.remaining()).stream()
            .filter(found -> found.risk().kind() == Risk.Kind.ERASES)
            .flatMap(found -> erasure(found).stream())
            .distinct()
            .toList();
    return all.stream().filter(one -> !isPartOf(all, one)).toList();
  }

  private static boolean isPartOf(List<Erasure> all, Erasure one) {
    return all.stream()
        .anyMatch(
            other ->
                other.table().equalsIgnoreCase(one.table())
                    && (other.kind() == Erasure.Kind.TABLE && one.kind() != Erasure.Kind.TABLE
                        || other.kind() == Erasure.Kind.ROWS && one.kind() == Erasure.Kind.COLUMN));
  }

  private static Optional<Erasure> erasure(StatementRisks.Found found) {
    String subject = found.risk().subject();
    String name = subject.substring(subject.indexOf(' ') + 1);
    if (subject.startsWith("column ")) {
      int dot = name.lastIndexOf('.');
      return Optional.of(
          new Erasure(Erasure.Kind.COLUMN, name.substring(0, dot), name.substring(dot + 1)));
    }
    List<String> words = StatementWords.tokens(found.statement(), ALL);
    if (words.get(0).equalsIgnoreCase("DROP")) {
      return Optional.of(new Erasure(Erasure.Kind.TABLE, name, ""));
    }
    // Some rows of a table are for the rung itself to bring back.
    boolean some = words.stream().anyMatch(word -> word.toUpperCase(Locale.ROOT).equals("WHERE"));
    return some ? Optional.empty() : Optional.of(new Erasure(Erasure.Kind.ROWS, name, ""));
  }
}
