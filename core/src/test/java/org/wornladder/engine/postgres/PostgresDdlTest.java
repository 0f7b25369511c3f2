package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Differences;
import org.wornladder.change.LeftOut;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;

/** How structures and their changes are written for PostgreSQL, without a database. */
class PostgresDdlTest {
  private final PostgresDdl ddl = new PostgresDdl(List.of("public", "audit"));

  private static Column column(String name, String type, String... facts) {
    Map<String, String> all = new TreeMap<>(Map.of("type", type, "nullable", "yes"));
    for (int i = 0; i < facts.length; i += 2) {
      all.put(facts[i], facts[i + 1]);
    }
    return (Column) Part.of(Kind.COLUMN, name, all, List.of());
  }

  private static DatabaseObject table(String schema, String name, Part... parts) {
    return DatabaseObject.of(
        ObjectId.of(Kind.TABLE, schema, name), Map.of(), List.of(parts), List.of());
  }

  private static DatabaseObject bin(Part... parts) {
    return table("", "bin", parts);
  }

  private static Part foreignKey(String table) {
    return ForeignKey.unnamed(
        List.of("id"), ObjectId.of(Kind.TABLE, table), List.of(), "NO ACTION", "CASCADE");
  }

  private List<String> script(DatabaseObject... objects) {
    return CreationScript.of(List.of(objects), ddl).statements();
  }

  private ChangeScript change(DatabaseObject before, DatabaseObject after) {
    Snapshot was = new Snapshot(List.of(before));
    Snapshot is = new Snapshot(List.of(after));
    return ChangeScript.of(
        Differences.between(was, is), was, is, ddl, ChangeScript.Origin.ONE_DATABASE);
  }

  @Test
  void namesAreQuotedWhereTheyNeedIt() {
    DatabaseObject odd =
        table(
            "audit",
            "Odd \"one\"",
            column("plain_1", "text"),
            column("select", "text"),
            column("Mixed", "text"),
            column("é", "text"));
    assertThat(script(odd))
        .containsExactly(
            """
            CREATE TABLE audit."Odd ""one\""" (
              plain_1 text,
              "select" text,
              "Mixed" text,
              "é" text
            )""");
  }

  @Test
  void tablesThatPointAtEachOtherGetTheirKeysLast() {
    List<String> statements =
        script(
            table("", "block", column("id", "integer"), foreignKey("orchard")),
            table("", "orchard", column("id", "integer"), foreignKey("block")));
    assertThat(statements).hasSize(4);
    assertThat(statements.get(2))
        .isEqualTo("ALTER TABLE block ADD FOREIGN KEY (id) REFERENCES orchard ON DELETE CASCADE");
    assertThat(statements.get(3)).startsWith("ALTER TABLE orchard ADD FOREIGN KEY");
  }

  @Test
  void whatCannotBeWrittenIsNamed() {
    CreationScript script =
        CreationScript.of(
            List.of(
                DatabaseObject.of(
                    ObjectId.of(Kind.OTHER, "publication outwards"),
                    Map.of(),
                    List.of(),
                    List.of()),
                DatabaseObject.of(
                    ObjectId.of(Kind.OWNER, "table bin"), Map.of(), List.of(), List.of()),
                bin(column("id", "integer"))),
            ddl);
    assertThat(script.leftOut())
        .extracting(left -> left.difference().name())
        .containsExactly("publication outwards");
    assertThat(script.statements()).hasSize(1);
  }

  @Test
  void aColumnIsChangedFactByFact() {
    assertThat(
            change(
                    bin(column("weight", "integer", "default", "0")),
                    bin(
                        column(
                            "weight", "numeric(8,2)", "nullable", "no", "comment", "it's heavy")))
                .statements())
        .containsExactly(
            "ALTER TABLE bin ALTER COLUMN weight DROP DEFAULT",
            "ALTER TABLE bin ALTER COLUMN weight TYPE numeric(8,2) USING weight::numeric(8,2)",
            "ALTER TABLE bin ALTER COLUMN weight SET NOT NULL",
            "COMMENT ON COLUMN bin.weight IS 'it''s heavy'");
    Column id = column("id", "integer");
    assertThat(change(bin(id), bin(id, column("weight", "integer", "default", "7"))).statements())
        .containsExactly("ALTER TABLE bin ADD COLUMN weight integer DEFAULT 7");
    assertThat(change(bin(id, column("weight", "integer")), bin(id)).statements())
        .containsExactly("ALTER TABLE bin DROP COLUMN weight");
  }

  @Test
  void aColumnWithTheSameNumberIsRenamedWhereTheTableIsTheSame() {
    DatabaseObject before = numbered("17", column("kg", "integer", "number", "2"));
    DatabaseObject after = numbered("17", column("weight", "bigint", "number", "2"));
    assertThat(change(before, after).statements())
        .containsExactly(
            "ALTER TABLE bin RENAME COLUMN kg TO weight",
            "ALTER TABLE bin ALTER COLUMN weight TYPE bigint USING weight::bigint");
    DatabaseObject other = numbered("18", column("weight", "bigint", "number", "2"));
    assertThat(change(before, other).statements())
        .containsExactly(
            "ALTER TABLE bin DROP COLUMN kg", "ALTER TABLE bin ADD COLUMN weight bigint");
  }

  private static DatabaseObject numbered(String number, Part... parts) {
    return DatabaseObject.of(
        ObjectId.of(Kind.TABLE, "bin"), Map.of("number", number), List.of(parts), List.of());
  }

  @Test
  void aColumnThatComputesIsNotChangedInPlace() {
    ChangeScript script =
        change(
            bin(column("twice", "integer")),
            bin(column("twice", "integer", "generated", "(n * 2) stored")));
    assertThat(script.statements()).isEmpty();
    assertThat(script.leftOut())
        .extracting(LeftOut::reason)
        .containsExactly("a column with values cannot become a computed one in place");
  }

  @Test
  void anEnumGetsLabelsWhereTheyBelong() {
    assertThat(change(grades("(B, D)"), grades("(A, B, C, D, E)")).statements())
        .containsExactly(
            "ALTER TYPE grade ADD VALUE 'A' BEFORE 'B'",
            "ALTER TYPE grade ADD VALUE 'C' AFTER 'B'",
            "ALTER TYPE grade ADD VALUE 'E' AFTER 'D'");
    assertThat(change(grades("(A, B)"), grades("(A)")).statements())
        .containsExactly("DROP TYPE grade", "CREATE TYPE grade AS ENUM ('A')");
  }

  private static DatabaseObject grades(String labels) {
    return DatabaseObject.of(
        ObjectId.of(Kind.ENUM, "grade"), Map.of("labels", labels), List.of(), List.of());
  }

  @Test
  void aConstraintGoesByTheNameThatTheEngineGaveIt() {
    Column id = column("id", "integer");
    Part key = Part.of(Kind.PRIMARY_KEY, "", Map.of("columns", "(id)"), List.of());
    assertThat(change(bin(id, key), bin(id)).statements())
        .containsExactly("ALTER TABLE bin DROP CONSTRAINT bin_pkey");
    assertThat(Optional.of(key).map(Part::name)).contains("(id)");
  }
}
