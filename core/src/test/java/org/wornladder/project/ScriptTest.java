package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.ProjectException;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Quoting;

class ScriptTest {
  private static final String FILE = "rungs/0001-bins.sql";

  @TempDir Path root;

  @Test
  void directivesAndSectionsAreRead() {
    Script script =
        script(
            """
            --| about: Cold rooms get a limit
            --| when: column cold_room."humidity max" missing
            --| when-sql: SELECT count(*) FROM cold_room
            --| otherwise: pass
            --| only-in: dev, live
            --| lifts: harvest_summary, stock
            -- a plain comment
            --| up
            SELECT 1;
            --| up on sqlite, h2
            SELECT 2;
            --| down
            SELECT 3;
            """);
    Header header = script.header();
    assertThat(header.about()).contains("Cold rooms get a limit");
    assertThat(header.passes()).isTrue();
    assertThat(header.onlyIn()).containsExactly("dev", "live");
    assertThat(header.lifts()).containsExactly("harvest_summary", "stock");
    assertThat(header.conditions().get(0))
        .isEqualTo(
            new Condition.Presence(
                Condition.Kind.COLUMN,
                "cold_room",
                "humidity max",
                false,
                "column cold_room.\"humidity max\" missing"));
    assertThat(script.section(Direction.UP, "sqlite").orElseThrow().text())
        .isEqualTo("SELECT 2;\n");
    assertThat(script.section(Direction.UP, "postgres").orElseThrow().text())
        .isEqualTo("SELECT 1;\n");
    assertThat(script.section(Direction.DOWN, "h2").orElseThrow().place())
        .isEqualTo(new Place(FILE, 13, 1));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      textBlock =
          """
          --! abuot: x⏎--! up⏎SELECT 1;~rungs/0001-bins.sql:1:1 unknown directive 'abuot' / did you mean about?
          --! up⏎SELECT 1;⏎--! up⏎SELECT 2;~rungs/0001-bins.sql:3:1 'up (plain)' occurs twice; first on line 1 / keep one of them
          SELECT 1;⏎--! up⏎SELECT 2;~rungs/0001-bins.sql:1:1 SQL stands before the first section / write --| up above it
          --! up⏎-- nothing⏎--! down⏎SELECT 1;~rungs/0001-bins.sql:1:1 the way up is empty / write its SQL below this line
          --! about: x~rungs/0001-bins.sql there is no way up / write --| up and its SQL below it
          --! up on sqlight⏎SELECT 1;~rungs/0001-bins.sql:1:1 unknown engine 'sqlight' / did you mean sqlite?
          --! up⏎SELECT 1;⏎--! about: x~rungs/0001-bins.sql:3:1 about stands after a section / move it above the first section
          --! otherwise: skip⏎--! up⏎SELECT 1;~rungs/0001-bins.sql:1:1 otherwise cannot be 'skip' / did you mean stop?
          --! run: later⏎--! up⏎SELECT 1;~rungs/0001-bins.sql:1:1 run cannot be 'later' / it can be one of: outside-transaction
          --! no way down:⏎--! up⏎SELECT 1;~rungs/0001-bins.sql:1:1 no way down gives no reason / write --| no way down: REASON
          --! no way down: gone⏎--! up⏎SELECT 1;⏎--! down⏎SELECT 2;~rungs/0001-bins.sql:1:1 there is a way down, and a reason for none / keep one of the two
          --! run: outside-transaction⏎--! lifts: stock⏎--! up⏎SELECT 1;~rungs/0001-bins.sql:2:1 lifts needs a transaction, and run refuses one / lift in a rung of its own, before and after this one
          --! only-in: prod⏎--! up⏎SELECT 1;~rungs/0001-bins.sql only-in names 'prod', which is not there / it can be one of: dev, live
          """)
  void everyMistakeIsToldWithItsPlace(String text, String problem) {
    String rung = text.replace("--!", "--|").replace("⏎", "\n");
    assertThat(new ProjectTestFolder(root).file(FILE, rung).problems()).contains(problem);
  }

  @Test
  void aConditionThatIsNoneIsTold() {
    assertThat(
            new ProjectTestFolder(root)
                .file(FILE, "--| when: table bin is there\n--| up\nSELECT 1;")
                .problems())
        .first()
        .asString()
        .contains("'table bin is there' is not a condition", "table T exists");
  }

  @Test
  void aStandingScriptTakesItsOwnDirectivesAlone() {
    ProjectTestFolder folder = new ProjectTestFolder(root);
    folder.file(
        "standing/stock.sql", "--| needs: stok\n--| run: outside-transaction\n--| up\nSELECT 1;");
    assertThat(folder.problems())
        .contains(
            "standing/stock.sql:2:1 unknown directive 'run' / it can be one of: about, needs, always, only-in, statement-end, up, down, no way down")
        .anyMatch(
            text -> text.contains("needs names 'stok', which is not there / did you mean stock?"));
    folder.file("standing/stock.sql", "--| needs: stock\n--| always\n--| up\nSELECT 1;");
    assertThat(folder.problems()).contains("standing/stock.sql the script needs itself / ");
  }

  @Test
  void whatEndsAStatementIsOneWord() {
    for (String wrong : new String[] {"", " END OF STATEMENT"}) {
      ProjectTestFolder folder = new ProjectTestFolder(root);
      folder.file("rungs/0001-a.sql", "--| statement-end:" + wrong + "\n--| up\nSELECT 1\n");
      assertThat(folder.problems())
          .anyMatch(text -> text.startsWith("rungs/0001-a.sql:1:1 statement-end names no word"));
    }
  }

  @Test
  void aLiftThatNamesNothingHereIsOnlySaid() {
    ProjectTestFolder folder = new ProjectTestFolder(root);
    folder
        .file("standing/stock.sql", "--| up\nSELECT 1;")
        .file(FILE, "--| lifts: stok\n--| up\nSELECT 1;");
    assertThat(folder.read().notes())
        .anyMatch(note -> note.message().equals("lifts names 'stok', which is not in standing/"));
  }

  @Test
  void whatIsInTheFolderAndNoRungIsLeftAlone() {
    ProjectTestFolder folder = new ProjectTestFolder(root);
    folder.file("rungs/README.md", "notes").file("rungs/old/0001-x.sql", "not read");
    assertThat(folder.problems()).isEmpty();
    assertThat(folder.read().rungs()).isEmpty();
  }

  @Test
  void theFingerprintHeedsMeaningAndDirectivesButNotLayout() {
    String plain = script("--| up\nSELECT 1;\n").fingerprint(Direction.UP, Dialects.SQLITE);
    assertThat(
            script("--| about: other\n--| up\n\n  SELECT  1 -- x\n;\n")
                .fingerprint(Direction.UP, Dialects.SQLITE))
        .isEqualTo(plain);
    for (String other :
        List.of(
            "--| up\nSELECT 2;",
            "--| run: outside-transaction\n--| up\nSELECT 1;",
            "--| only-in: dev\n--| up\nSELECT 1;",
            "--| up\nSELECT 1;\n--| up on sqlite\nSELECT 1;")) {
      assertThat(script(other).fingerprint(Direction.UP, Dialects.SQLITE)).isNotEqualTo(plain);
    }
    assertThat(
            script("--| up\nSELECT 1;\n--| down\nSELECT 9;")
                .fingerprint(Direction.UP, Dialects.SQLITE))
        .isEqualTo(plain);
  }

  @Test
  void theWayDownSurvivesTheJournal() {
    Script script =
        script(
            "--| lifts: stock\n--| up\nSELECT 1;\n--| down\nSELECT '@{season}';\n--| down on h2\nSELECT 3;");
    Script read = ScriptParser.parseJournalled("0001 in the journal", script.wayDownText());
    assertThat(read.fingerprint(Direction.DOWN, Dialects.SQLITE))
        .isEqualTo(script.fingerprint(Direction.DOWN, Dialects.SQLITE));
    assertThat(read.header().lifts()).containsExactly("stock");
    Script oneWay = script("--| no way down: rows are gone\n--| up\nSELECT 1;");
    assertThat(ScriptParser.parseJournalled("x", oneWay.wayDownText()).noWayDown())
        .contains("rows are gone");
  }

  @Test
  void valuesArePutInAsTheirFormsSay() {
    Quoting quoting = new Quoting('"', Quoting.Backslash.PLAIN);
    Map<String, Value> values =
        Map.of("who", new Value("o'\"x", false), "season", new Value("2026", false));
    assertThat(fill("@{season} @{who:text} @{who:ident} @@{who}", values, quoting))
        .isEqualTo("2026 'o''\"x' \"o'\"\"x\" @{who}");
    assertThatThrownBy(() -> fill("SELECT 1;\n @{seson}", values, quoting))
        .hasMessage("unknown value 'seson'")
        .extracting(e -> ((ProjectException) e).where().orElseThrow())
        .isEqualTo("rungs/0001-bins.sql:5:2");
    assertThatThrownBy(() -> fill("@{season:sql}", values, quoting))
        .hasMessage("'sql' is not a form of a value");
    assertThatThrownBy(() -> fill("@{season", values, quoting)).hasMessage("@{ is never closed");
  }

  private static String fill(String text, Map<String, Value> values, Quoting quoting) {
    Section section = new Section(Direction.UP, List.of(), text, new Place(FILE, 4, 1));
    return Substitution.in(section, values, quoting).text();
  }

  @Test
  void numbersAreComparedAsNumbersAndMayHaveGaps() {
    ProjectTestFolder folder = new ProjectTestFolder(root);
    folder.file("rungs/2-b.sql", "--| up\nSELECT 1;").file("rungs/0010-c.sql", "--| up\nSELECT 1;");
    assertThat(folder.read().rungs()).extracting(Rung::number).containsExactly(2L, 10L);
    assertThat(folder.problems()).isEmpty();
    folder.file("rungs/00002-other.sql", "--| up\nSELECT 1;");
    assertThat(folder.problems()).anyMatch(text -> text.contains("has the same number"));
    folder.file("rungs/bins.sql", "--| up\nSELECT 1;");
    assertThat(folder.problems())
        .anyMatch(text -> text.contains("this name is not <number>-<words>.sql"));
  }

  @Test
  void aSectionMayNameAnEngineThatAProgramBrings() {
    Script script = script("--| up on other, sqlite\nSELECT 1;\n--| up on mariadb\nSELECT 2;");
    assertThat(script.section(Direction.UP, "other")).isPresent();
    assertThat(script.section(Direction.UP, "h2")).isEmpty();
  }

  private static Script script(String text) {
    Problems problems = new Problems();
    Script script =
        ScriptParser.parse(
            FILE, text, ScriptParser.Form.RUNG, name -> name.equals("other"), problems);
    assertThat(problems.all()).isEmpty();
    return script;
  }
}
