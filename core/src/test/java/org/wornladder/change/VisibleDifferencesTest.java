package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;

class VisibleDifferencesTest {
  private static final DatabaseObject TIDY = of(Kind.EVENT, "tidy", "CREATE EVENT tidy");
  private static final DatabaseObject HEAVY = of(Kind.VIEW, "heavy", "CREATE VIEW heavy");
  private static final Snapshot BOTH = new Snapshot(List.of(TIDY, HEAVY));

  private static DatabaseObject of(Kind kind, String name, String definition) {
    return DatabaseObject.of(
        ObjectId.of(kind, name), Map.of(Facts.DEFINITION, definition), List.of(), List.of());
  }

  private static VisibleDifferences between(Snapshot before, Snapshot after) {
    return VisibleDifferences.of(Differences.between(before, after), before, after);
  }

  @Test
  void whatIsMissingWhereAllIsSeenIsMissing() {
    VisibleDifferences sight = between(BOTH, new Snapshot(List.of(HEAVY)));
    assertThat(VisibleDifferences.names(sight.visible())).containsExactly("event tidy");
    assertThat(sight.undecidable()).isEmpty();
  }

  @Test
  void whatIsMissingWhereItMayNotBeSeenIsNoDifference() {
    Snapshot live = new Snapshot(List.<DatabaseObject>of(), Set.of(Kind.EVENT));
    for (VisibleDifferences sight : List.of(between(BOTH, live), between(live, BOTH))) {
      assertThat(VisibleDifferences.names(sight.visible())).containsExactly("view heavy");
      assertThat(VisibleDifferences.names(sight.undecidable())).containsExactly("event tidy");
    }
  }

  @Test
  void whatIsThereButNotReadableIsNoDifference() {
    Snapshot live = new Snapshot(List.of(TIDY, of(Kind.VIEW, "heavy", "")));
    assertThat(VisibleDifferences.names(between(BOTH, live).undecidable()))
        .containsExactly("view heavy");
    assertThat(between(live, BOTH).visible()).isEmpty();
  }

  @Test
  void whatIsSeenThoughOthersMayNotBeIsUnexpected() {
    Snapshot live = new Snapshot(List.of(TIDY, HEAVY), Set.of(Kind.EVENT));
    VisibleDifferences sight = between(new Snapshot(List.of(HEAVY)), live);
    assertThat(VisibleDifferences.names(sight.visible())).containsExactly("event tidy");
  }
}
