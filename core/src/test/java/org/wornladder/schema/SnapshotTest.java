package org.wornladder.schema;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a fingerprint of a structure tells apart, and what it does not. */
class SnapshotTest {
  private static Element column(String name, String... facts) {
    return new Element(Kind.COLUMN, name, Facts.with(Map.of(), facts), List.of());
  }

  private static Element table(String name, Map<String, String> facts, Element... parts) {
    return new Element(Kind.TABLE, name, facts, List.of(parts));
  }

  private static String fingerprint(Element... elements) {
    return new Snapshot(List.of(elements)).fingerprint();
  }

  @Test
  void everythingThatIsToldCounts() {
    Element weight = column("weight_kg", "type", "numeric(8,2)");
    Set<String> all = new HashSet<>();
    List<String> each =
        List.of(
            fingerprint(),
            fingerprint(table("bin", Map.of())),
            fingerprint(table("bin", Map.of(), weight)),
            // The same beside the table, and not in it.
            fingerprint(table("bin", Map.of()), weight),
            fingerprint(table("bin", Map.of(), column("weight_kg", "type", "numeric"))),
            fingerprint(table("bin", Map.of(), column("weight_kg", "type", "numeric", "a", "b"))),
            fingerprint(table("bin", Map.of("comment", "a crate"))),
            fingerprint(table("bin", Map.of("commen", "ta crate"))),
            fingerprint(table("bin7:comment", Map.of("a crate", "5"))),
            fingerprint(table("bin", Map.of(), column("a"), column("b"))),
            fingerprint(table("bin", Map.of(), column("b"), column("a"))),
            fingerprint(new Element(Kind.VIEW, "bin", Map.of(), List.of())),
            fingerprint(table("\ud83c\udf4e", Map.of())),
            fingerprint(table("\ud83c\udf50", Map.of())),
            fingerprint(table("bin", Map.of("comment", "a".repeat(20_000)))),
            fingerprint(table("bin", Map.of("comment", "a".repeat(20_001)))));
    all.addAll(each);
    assertThat(all).hasSameSizeAs(each).allMatch(one -> one.matches("[0-9a-f]{64}"));
  }

  @Test
  void theOrderInWhichItIsToldDoesNotCount() {
    List<Element> tables = new ArrayList<>();
    for (int i = 0; i < 500; i++) {
      tables.add(table("bin_" + i, Map.of("comment", "row " + i), column("code")));
    }
    String fingerprint = new Snapshot(tables).fingerprint();
    Collections.reverse(tables);
    assertThat(new Snapshot(tables).fingerprint()).isEqualTo(fingerprint);
    assertThat(Snapshot.read(new Snapshot(tables).json()).orElseThrow().fingerprint())
        .isEqualTo(fingerprint);
  }
}
