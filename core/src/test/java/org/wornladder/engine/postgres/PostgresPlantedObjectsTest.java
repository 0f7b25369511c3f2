package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.DriftReport;
import org.wornladder.TestLadder;
import org.wornladder.server.EveryCommand;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * A user who may create objects in a managed schema puts functions and operators there that fit the
 * program's own statements better than the server's. Each of them fails when it is called.
 */
class PostgresPlantedObjectsTest {
  private static final Pattern CALL = Pattern.compile("\\b([a-z][a-z0-9_]+)\\(");

  /** Every operator that a statement of the program uses, with all types that it has values of. */
  private static final String OPERATORS =
      """
      DO $do$ DECLARE l text; r text; op text;
        types text[] := ARRAY['name', 'text', 'oid', '"char"', 'int2', 'int4', 'int8', 'bool',
          'varchar', 'regclass', 'regtype', 'text[]', 'name[]', 'timestamptz'];
        own text[] := ARRAY['varchar[]', 'public.size', 'public.letter', 'public.weight'];
      BEGIN
        FOR l, r IN SELECT a, b FROM unnest(types) a, unnest(types) b
            UNION ALL SELECT a, a FROM unnest(own) a LOOP
          EXECUTE format('CREATE FUNCTION public.planted(%s, %s) RETURNS bool LANGUAGE plpgsql AS'
            ' $f$ BEGIN RAISE EXCEPTION ''planted: operator of %s and %s''; END $f$', l, r, l, r);
          FOREACH op IN ARRAY ARRAY['=', '<>', '<', '>', '<=', '>=', '||', '+', '-', '*', '<<',
              '~', '~~', '!~~', '->', '->>'] LOOP
            IF NOT EXISTS (SELECT 1 FROM pg_operator WHERE oprname = op
                AND oprleft = l::regtype AND oprright = r::regtype
                AND oprnamespace = 'pg_catalog'::regnamespace) THEN
              EXECUTE format('CREATE OPERATOR public.%s (LEFTARG = %s, RIGHTARG = %s,'
                ' FUNCTION = public.planted)', op, l, r);
            END IF;
          END LOOP;
        END LOOP;
      END $do$""";

  /** Functions of these names, with one to six parameters. */
  private static final String FUNCTIONS =
      """
      DO $do$ DECLARE f text; p text;
        one text[] := ARRAY['name', 'text', 'oid', '"char"', 'int2', 'int4', 'int8', 'bool',
          'varchar', 'bpchar', 'regclass', 'regtype', 'text[]', 'name[]', 'int2[]', 'oid[]',
          'aclitem[]', 'inet', 'timestamp', 'timestamptz', 'record', 'json', 'jsonb'];
        two text[] := ARRAY['name', 'text', 'oid', 'int4', 'varchar', 'text[]'];
      BEGIN
        FOR f, p IN
          SELECT n, a FROM unnest(ARRAY[%s]) n, unnest(one) a
          UNION ALL SELECT n, a || ', ' || b FROM unnest(ARRAY[%1$s]) n, unnest(two) a, unnest(two) b
          UNION ALL SELECT n, array_to_string(array_fill(a, ARRAY[count]), ', ')
            FROM unnest(ARRAY[%1$s]) n, unnest(ARRAY['text', 'name']) a, generate_series(3, 6) count
        LOOP
          EXECUTE format('CREATE FUNCTION public.%%I(%%s) RETURNS text LANGUAGE plpgsql AS'
            ' $f$ BEGIN RAISE EXCEPTION ''planted: function %%s(%%s)''; END $f$', f, p, f, p);
        END LOOP;
      END $do$""";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder project;

  @BeforeEach
  void everyKindOfObject() throws IOException {
    database = TestDatabase.make(Kind.POSTGRES, root);
    project = TestLadder.on(database, root).tables(2);
    project
        .file(
            "rungs/0003-more.sql",
            """
            --| up
            CREATE TYPE size AS ENUM ('small', 'large');
            CREATE DOMAIN weight AS numeric(8,2) CHECK (value > 0);
            CREATE TABLE crate (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
              code varchar(20) NOT NULL UNIQUE, size size, weight weight DEFAULT 1,
              parent bigint REFERENCES crate (id), CHECK (code <> ''));
            CREATE INDEX crate_size ON crate (size) WHERE weight IS NOT NULL;
            CREATE VIEW heavy AS SELECT id, code FROM crate WHERE weight > 10;
            COMMENT ON TABLE crate IS 'crates';
            CREATE FUNCTION doubled(n integer) RETURNS integer LANGUAGE sql AS 'SELECT n * 2';
            CREATE SEQUENCE labels;
            ALTER TABLE crate ENABLE ROW LEVEL SECURITY;
            CREATE POLICY everyone ON crate USING (true);
            --| down
            DROP TABLE crate CASCADE;
            DROP FUNCTION doubled(integer);
            DROP SEQUENCE labels;
            DROP DOMAIN weight CASCADE;
            DROP TYPE size CASCADE;
            """)
        .file(
            "rungs/0004-grades.sql",
            """
            --| up
            CREATE DOMAIN letter AS varchar(9);
            CREATE TABLE grade (code varchar(9), size size, letter letter, tags varchar(9)[],
              words text, parent varchar(9) UNIQUE REFERENCES grade (parent),
              weight weight, PRIMARY KEY (code, size, letter, tags));
            --| down
            DROP TABLE grade;
            DROP DOMAIN letter CASCADE;
            """)
        .file(
            "seeds/grade.csv",
            """
            code,size,letter,tags,words,parent,weight
            A,small,a,{x},best,one,1.5
            B,large,b,{y},good,two,2
            """)
        .file(
            "ladder.yaml",
            "name: hollowfield\nenvironments:\n  dev: { url: '"
                + database.url()
                + "', disposable: true }\nseeds:\n  - table: grade\n");
    project.apply();
    plant();
  }

  private void plant() throws IOException {
    String called =
        calls().stream().map(name -> "'" + name + "'").collect(Collectors.joining(", "));
    List<String> names =
        database.query(
            "SELECT DISTINCT proname FROM pg_proc WHERE pronamespace = 'pg_catalog'::regnamespace"
                + " AND proname IN ("
                + called
                + ")");
    assertThat(names).contains("quote_ident", "string_agg", "array_to_string");
    database.execute(
        "SET search_path = pg_catalog",
        OPERATORS,
        FUNCTIONS.formatted(
            names.stream().map(name -> "'" + name + "'").collect(Collectors.joining(", "))));
  }

  /** Whatever is written like a call in the code that talks to this engine. */
  private static TreeSet<String> calls() throws IOException {
    TreeSet<String> names = new TreeSet<>();
    Path code = Path.of("src/main/java/org/wornladder");
    for (String folder :
        List.of("engine/postgres", "engine", "journal", "seed", "attic", "execution")) {
      try (Stream<Path> files = Files.list(code.resolve(folder))) {
        for (Path file : files.filter(Files::isRegularFile).toList()) {
          Matcher call = CALL.matcher(Files.readString(file));
          while (call.find()) {
            names.add(call.group(1));
          }
        }
      }
    }
    return names;
  }

  @Test
  void noStatementOfTheProgramCallsWhatAUserPlanted() throws IOException {
    DriftReport drift =
        EveryCommand.run(project, database, Files.createDirectory(root.resolve("elsewhere")));
    assertThat(drift.structure()).isNotEmpty().allMatch(found -> isPlanted(found.name()));
  }

  private static boolean isPlanted(String name) {
    return name.contains("(");
  }
}
