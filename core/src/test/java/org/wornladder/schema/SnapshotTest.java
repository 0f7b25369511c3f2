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
  private static Part column(String name, String... facts) {
    return Part.of(Kind.COLUMN, name, Facts.with(Map.of(), facts), List.of());
  }

  private static DatabaseObject table(String name, Map<String, String> facts, Part... parts) {
    return DatabaseObject.of(ObjectId.of(Kind.TABLE, name), facts, List.of(parts), List.of());
  }

  private static String fingerprint(DatabaseObject... objects) {
    return new Snapshot(List.of(objects)).fingerprint();
  }

  @Test
  void everythingThatIsToldCounts() {
    Part weight = column("weight_kg", "type", "numeric(8,2)");
    Set<String> all = new HashSet<>();
    List<String> each =
        List.of(
            fingerprint(),
            fingerprint(table("bin", Map.of())),
            fingerprint(table("bin", Map.of(), weight)),
            fingerprint(table("bin", Map.of(), column("weight_kg", "type", "numeric"))),
            fingerprint(table("bin", Map.of(), column("weight_kg", "type", "numeric", "a", "b"))),
            fingerprint(table("bin", Map.of("comment", "a crate"))),
            fingerprint(table("bin", Map.of("commen", "ta crate"))),
            fingerprint(table("bin7:comment", Map.of("a crate", "5"))),
            fingerprint(table("bin", Map.of(), column("a"), column("b"))),
            fingerprint(table("bin", Map.of(), column("b"), column("a"))),
            fingerprint(
                DatabaseObject.of(ObjectId.of(Kind.VIEW, "bin"), Map.of(), List.of(), List.of())),
            fingerprint(table("\ud83c\udf4e", Map.of())),
            fingerprint(table("\ud83c\udf50", Map.of())),
            fingerprint(table("bin", Map.of("comment", "a".repeat(20_000)))),
            fingerprint(table("bin", Map.of("comment", "a".repeat(20_001)))));
    all.addAll(each);
    assertThat(all).hasSameSizeAs(each).allMatch(one -> one.matches("[0-9a-f]{64}"));
  }

  @Test
  void theOrderInWhichItIsToldDoesNotCount() {
    List<DatabaseObject> tables = new ArrayList<>();
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
