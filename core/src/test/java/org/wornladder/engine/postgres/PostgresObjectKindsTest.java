package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.params.provider.Arguments.arguments;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.TestLadder;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;
import org.wornladder.server.TestDatabase;

/** Whatever sort of thing stands alone in a database is found there, and asked for. */
class PostgresObjectKindsTest {
  private static final String BIN = "CREATE TABLE bin (id int, code text)";

  @TempDir Path root;

  static List<Arguments> things() {
    return List.of(
        alone("table bin", BIN),
        alone("table bin", "CREATE TABLE bin (at date) PARTITION BY RANGE (at)"),
        alone("view ripe", "CREATE VIEW ripe AS SELECT 1 AS n"),
        alone("materialised view ripe", "CREATE MATERIALIZED VIEW ripe AS SELECT 1 AS n"),
        alone("sequence ticket", "CREATE SEQUENCE ticket"),
        alone("composite type spot", "CREATE TYPE spot AS (x int, y int)"),
        alone("enum grade", "CREATE TYPE grade AS ENUM ('A', 'B')"),
        alone("domain weight", "CREATE DOMAIN weight AS numeric(8,2)"),
        alone("function ripe()", "CREATE FUNCTION ripe() RETURNS int LANGUAGE sql AS 'SELECT 1'"),
        alone(
            "function place()",
            "CREATE FUNCTION place() RETURNS bigint WINDOW LANGUAGE internal AS 'window_row_number'"),
        alone("procedure pick()", "CREATE PROCEDURE pick() LANGUAGE sql AS 'SELECT 1'"),
        alone(
            "aggregate longest(text)",
            "CREATE AGGREGATE longest(text) (SFUNC = textcat, STYPE = text)"),
        alone("other object publication outwards", "CREATE PUBLICATION outwards"),
        alone("other object collation german", "CREATE COLLATION german FROM \"C\""),
        alone(
            "other object operator === (integer, integer)",
            "CREATE OPERATOR === (FUNCTION = int4pl, LEFTARG = int, RIGHTARG = int)"),
        alone(
            "other object text search configuration plain",
            "CREATE TEXT SEARCH CONFIGURATION plain (COPY = simple)"),
        alone(
            "other object text search dictionary words",
            "CREATE TEXT SEARCH DICTIONARY words (TEMPLATE = simple)"),
        alone(
            "other object text search parser letters",
            "CREATE TEXT SEARCH PARSER letters (START = prsd_start, GETTOKEN = prsd_nexttoken,"
                + " END = prsd_end, LEXTYPES = prsd_lextype)"),
        alone(
            "other object foreign table far",
            "CREATE FOREIGN DATA WRAPPER nowhere",
            "CREATE SERVER elsewhere FOREIGN DATA WRAPPER nowhere",
            "CREATE FOREIGN TABLE far (id int) SERVER elsewhere"),
        alone("range type span", "CREATE TYPE span AS RANGE (subtype = float8)"),
        alone(
            "other object cast (public.grade AS integer)",
            "CREATE TYPE grade AS ENUM ('A', 'B')",
            "CREATE CAST (grade AS int) WITH INOUT"),
        alone("other object type public.hull", "CREATE TYPE hull"),
        alone(
            "other object type public.pear",
            "CREATE TYPE pear",
            "CREATE FUNCTION pear_in(cstring) RETURNS pear LANGUAGE internal STRICT AS 'textin'",
            "CREATE FUNCTION pear_out(pear) RETURNS cstring LANGUAGE internal STRICT AS 'textout'",
            "CREATE TYPE pear (INPUT = pear_in, OUTPUT = pear_out, LIKE = text)"),
        alone(
            "other object operator family public.sizes USING btree",
            "CREATE OPERATOR FAMILY sizes USING btree"),
        alone(
            "other object conversion public.old_letters",
            "CREATE CONVERSION old_letters FOR 'LATIN1' TO 'UTF8' FROM iso8859_1_to_utf8"),
        alone(
            "other object text search template public.plain",
            "CREATE TEXT SEARCH TEMPLATE plain (LEXIZE = dsimple_lexize)"),
        alone("other object foreign-data wrapper nowhere", "CREATE FOREIGN DATA WRAPPER nowhere"),
        alone(
            "other object server elsewhere",
            "CREATE FOREIGN DATA WRAPPER nowhere",
            "CREATE SERVER elsewhere FOREIGN DATA WRAPPER nowhere"),
        alone(
            "other object access method pile",
            "CREATE ACCESS METHOD pile TYPE TABLE HANDLER heap_tableam_handler"),
        alone(
            "other object subscription inwards",
            "CREATE SUBSCRIPTION inwards CONNECTION 'dbname=orchard' PUBLICATION outwards"
                + " WITH (connect = false)"),
        alone(
            "other object event trigger watch",
            "CREATE FUNCTION watch() RETURNS event_trigger LANGUAGE plpgsql AS 'BEGIN END'",
            "CREATE EVENT TRIGGER watch ON sql_drop EXECUTE FUNCTION watch()"),
        alone(
            "other object rule quiet on bin",
            BIN,
            "CREATE RULE quiet AS ON DELETE TO bin DO INSTEAD NOTHING"),
        alone(
            "other object statistics pairs",
            BIN,
            "CREATE STATISTICS pairs (dependencies) ON id, code FROM bin"),
        alone("policy own on bin", BIN, "CREATE POLICY own ON bin USING (id > 0)"),
        alone(
            "trigger stamp on bin",
            BIN,
            "CREATE FUNCTION stamp() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END'",
            "CREATE TRIGGER stamp BEFORE INSERT ON bin FOR EACH ROW EXECUTE FUNCTION stamp()"));
  }

  private static Arguments alone(String told, String... statements) {
    return arguments(told, statements);
  }

  private Stream<DatabaseObject> read(String... statements) {
    TestDatabase database = TestDatabase.make(TestDatabase.Kind.POSTGRES, root);
    database.execute(statements);
    return TestLadder.on(database, root)
        .open()
        .show(Optional.of("dev"))
        .schema()
        .snapshot()
        .objects()
        .stream()
        .filter(element -> !element.kind().isRight());
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("things")
  void isFoundThoughNothingElseIsThere(String told, String... statements) {
    assertThat(read(statements).map(element -> element.kind().label() + " " + element.name()))
        .contains(told);
  }

  @Test
  void nothingIsFoundWhereNothingIs() {
    assertThat(read("SELECT 1")).isEmpty();
  }

  @Test
  void whatARangeTypeBringsIsPartOfIt() {
    assertThat(read("CREATE TYPE span AS RANGE (subtype = float8)").map(DatabaseObject::name))
        .containsExactly("span");
  }

  @Test
  void constraintsOfEverySortAreFound() {
    assertThat(parts("CREATE TABLE bin (id int UNIQUE)")).contains(Kind.UNIQUE);
    assertThat(parts("CREATE TABLE bin (id int CHECK (id > 0))")).contains(Kind.CHECK);
    assertThat(parts("CREATE TABLE bin (at tsrange, EXCLUDE USING gist (at WITH &&))"))
        .contains(Kind.EXCLUSION);
    assertThat(parts("CREATE TABLE bin (id int PRIMARY KEY, up int REFERENCES bin)"))
        .contains(Kind.PRIMARY_KEY, Kind.FOREIGN_KEY);
  }

  private List<Kind> parts(String table) {
    return read(table).flatMap(element -> element.parts().stream()).map(Part::kind).toList();
  }
}
