package org.wornladder.diff;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

class SightTest {
  private static final Element TIDY = of(Kind.EVENT, "tidy", "CREATE EVENT tidy");
  private static final Element HEAVY = of(Kind.VIEW, "heavy", "CREATE VIEW heavy");
  private static final Snapshot BOTH = new Snapshot(List.of(TIDY, HEAVY));

  private static Element of(Kind kind, String name, String definition) {
    return new Element(kind, name, Map.of(Element.DEFINITION, definition), List.of());
  }

  private static Sight between(Snapshot before, Snapshot after) {
    return Sight.of(Differences.between(before, after), before, after);
  }

  @Test
  void whatIsMissingWhereAllIsSeenIsMissing() {
    Sight sight = between(BOTH, new Snapshot(List.of(HEAVY)));
    assertThat(Sight.names(sight.told())).containsExactly("event tidy");
    assertThat(sight.hidden()).isEmpty();
  }

  @Test
  void whatIsMissingWhereItMayNotBeSeenIsNoDifference() {
    Snapshot live = new Snapshot(List.of(), Set.of(Kind.EVENT));
    for (Sight sight : List.of(between(BOTH, live), between(live, BOTH))) {
      assertThat(Sight.names(sight.told())).containsExactly("view heavy");
      assertThat(Sight.names(sight.hidden())).containsExactly("event tidy");
    }
  }

  @Test
  void whatIsThereButNotReadableIsNoDifference() {
    Snapshot live = new Snapshot(List.of(TIDY, of(Kind.VIEW, "heavy", "")));
    assertThat(Sight.names(between(BOTH, live).hidden())).containsExactly("view heavy");
    assertThat(between(live, BOTH).told()).isEmpty();
  }

  @Test
  void whatIsSeenThoughOthersMayNotBeIsUnexpected() {
    Snapshot live = new Snapshot(List.of(TIDY, HEAVY), Set.of(Kind.EVENT));
    Sight sight = between(new Snapshot(List.of(HEAVY)), live);
    assertThat(Sight.names(sight.told())).containsExactly("event tidy");
  }
}
