package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Difference;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/** How things are written for PostgreSQL, and in which order, without a database. */
class PostgresDdlTest {
  private final PostgresDdl ddl = new PostgresDdl(List.of("public", "audit"));

  private static Element column(String name, String type, String... facts) {
    Map<String, String> all = new java.util.TreeMap<>(Map.of("type", type, "nullable", "yes"));
    for (int i = 0; i < facts.length; i += 2) {
      all.put(facts[i], facts[i + 1]);
    }
    return new Element(Kind.COLUMN, name, all, List.of());
  }

  private static Element table(String name, Element... parts) {
    return new Element(Kind.TABLE, name, Map.of(), List.of(parts));
  }

  private static Element object(Kind kind, String name, String definition) {
    return new Element(kind, name, Map.of("definition", definition), List.of());
  }

  private static Element foreignKey(String words) {
    return new Element(Kind.FOREIGN_KEY, words, Map.of("on delete", "CASCADE"), List.of());
  }

  private List<String> script(Element... elements) {
    return CreationScript.of(List.of(elements), ddl).statements();
  }

  @Test
  void namesAreQuotedWhereTheyNeedIt() {
    Element odd =
        table(
            "audit.Odd \"one\"",
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
            table("block", column("id", "integer"), foreignKey("(id) to orchard")),
            table("orchard", column("id", "integer"), foreignKey("(id) to block")));
    assertThat(statements).hasSize(4);
    assertThat(statements.get(2))
        .isEqualTo("ALTER TABLE block ADD FOREIGN KEY (id) REFERENCES orchard ON DELETE CASCADE");
    assertThat(statements.get(3)).startsWith("ALTER TABLE orchard ADD FOREIGN KEY");
  }

  @Test
  void whatASpokenOfThingNeedsComesFirst() {
    List<String> statements =
        script(
            object(Kind.VIEW, "a_top", "CREATE VIEW a_top AS SELECT z.id FROM z_base z"),
            object(Kind.VIEW, "z_base", "CREATE VIEW z_base AS SELECT id FROM bin WHERE ripe(id)"),
            table("bin", column("id", "integer", "default", "next_bin()"), column("g", "grade")),
            object(
                Kind.FUNCTION,
                "ripe(n integer)",
                "CREATE FUNCTION ripe(n integer) RETURNS boolean"),
            object(Kind.FUNCTION, "next_bin()", "CREATE FUNCTION next_bin() RETURNS integer"),
            object(Kind.FUNCTION, "all_bins()", "CREATE FUNCTION all_bins() RETURNS SETOF bin"),
            object(Kind.ENUM, "grade", "CREATE TYPE grade AS ENUM ('A')"),
            object(Kind.DOMAIN, "best", "CREATE DOMAIN best AS grade"));
    assertThat(statements.get(0)).isEqualTo("SET check_function_bodies = off");
    assertBefore(statements, "CREATE TYPE grade", "CREATE DOMAIN best");
    assertBefore(statements, "CREATE TYPE grade", "CREATE TABLE bin");
    assertBefore(statements, "CREATE FUNCTION next_bin", "CREATE TABLE bin");
    assertBefore(statements, "CREATE TABLE bin", "CREATE FUNCTION all_bins");
    assertBefore(statements, "CREATE FUNCTION ripe", "CREATE VIEW z_base");
    assertBefore(statements, "CREATE VIEW z_base", "CREATE VIEW a_top");
  }

  private static void assertBefore(List<String> statements, String first, String second) {
    assertThat(at(statements, first)).as(first).isLessThan(at(statements, second));
  }

  private static int at(List<String> statements, String start) {
    for (int i = 0; i < statements.size(); i++) {
      if (statements.get(i).startsWith(start)) {
        return i;
      }
    }
    throw new AssertionError(start + " is not in " + statements);
  }

  @Test
  void aColumnOfTheNameOfARoutineIsNoNeed() {
    List<String> statements =
        script(
            table("bin", column("weight", "integer")),
            object(Kind.FUNCTION, "weight()", "CREATE FUNCTION weight() RETURNS SETOF bin"));
    assertBefore(statements, "CREATE TABLE bin", "CREATE FUNCTION weight");
  }

  @Test
  void whatCannotBeWrittenIsNamed() {
    CreationScript script =
        CreationScript.of(
            List.of(
                object(Kind.OTHER, "publication outwards", ""),
                object(Kind.OWNER, "table bin", ""),
                table("bin", column("id", "integer"))),
            ddl);
    assertThat(script.leftOut()).extracting(Element::name).containsExactly("publication outwards");
    assertThat(script.statements()).hasSize(1);
  }

  private List<String> change(Element before, Element after) {
    Difference difference =
        new Difference("bin", Optional.ofNullable(before), Optional.ofNullable(after));
    return ChangeScript.of(List.of(difference), Snapshot.EMPTY, ddl).statements();
  }

  @Test
  void aColumnIsChangedFactByFact() {
    assertThat(
            change(
                column("weight", "integer", "default", "0"),
                column("weight", "numeric(8,2)", "nullable", "no", "comment", "it's heavy")))
        .containsExactly(
            "ALTER TABLE bin ALTER COLUMN weight TYPE numeric(8,2) USING weight::numeric(8,2)",
            "COMMENT ON COLUMN bin.weight IS 'it''s heavy'",
            "ALTER TABLE bin ALTER COLUMN weight DROP DEFAULT",
            "ALTER TABLE bin ALTER COLUMN weight SET NOT NULL");
    assertThat(change(null, column("weight", "integer", "default", "7")))
        .containsExactly("ALTER TABLE bin ADD COLUMN weight integer DEFAULT 7");
    assertThat(change(column("weight", "integer"), null))
        .containsExactly("ALTER TABLE bin DROP COLUMN weight");
  }

  @Test
  void aColumnThatComputesIsNotChangedInPlace() {
    Difference difference =
        new Difference(
            "bin",
            Optional.of(column("twice", "integer")),
            Optional.of(column("twice", "integer", "generated", "(n * 2) stored")));
    ChangeScript script = ChangeScript.of(List.of(difference), Snapshot.EMPTY, ddl);
    assertThat(script.statements()).isEmpty();
    assertThat(script.leftOut()).containsExactly(difference);
  }

  @Test
  void whatLeansOnATableGoesBeforeItChanges() {
    Element was = object(Kind.VIEW, "light", "CREATE VIEW light AS SELECT fax FROM bin");
    Element is = object(Kind.VIEW, "light", "CREATE VIEW light AS SELECT id FROM bin");
    List<String> statements =
        ChangeScript.of(
                List.of(
                    new Difference("bin", Optional.of(column("fax", "text")), Optional.empty()),
                    new Difference("", Optional.of(was), Optional.of(is))),
                Snapshot.EMPTY,
                ddl)
            .statements();
    assertThat(statements)
        .containsExactly(
            "DROP VIEW light",
            "ALTER TABLE bin DROP COLUMN fax",
            "CREATE VIEW light AS SELECT id FROM bin");
  }

  @Test
  void aConstraintWhoseNameNobodyKnowsIsNotDropped() {
    Element check =
        new Element(Kind.CHECK, "(kg > 0)", Map.of(Element.DEFINITION, "(kg > 0)"), List.of());
    Element key = new Element(Kind.PRIMARY_KEY, "(id)", Map.of(), List.of());
    PostgresDdl ddl = new PostgresDdl(List.of("public"));
    assertThat(ddl.change(new Difference("bin", Optional.of(check), Optional.empty()))).isEmpty();
    assertThat(ddl.change(new Difference("bin", Optional.of(key), Optional.empty())))
        .contains(List.of("ALTER TABLE bin DROP CONSTRAINT bin_pkey"));
  }
}
