package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.apache.maven.plugin.surefire.log.api.NullConsoleLogger;
import org.apache.maven.plugins.surefire.report.ReportTestSuite;
import org.apache.maven.plugins.surefire.report.TestSuiteXmlParser;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.yaml.snakeyaml.Yaml;

/** Reports for other programs, read by what reads them. */
class ReportFormsIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void bins() {
    work = Workspace.hollowfield(folder);
    work.rung(
        "0001-bins",
        "CREATE TABLE bin (code text NOT NULL PRIMARY KEY, wt integer);",
        "DROP TABLE bin;");
    work.ladder("apply").exits(0);
  }

  private static JsonSchema sarif() throws IOException {
    try (InputStream schema =
        ReportFormsIT.class.getResourceAsStream("/schema/sarif-schema-2.1.0.json")) {
      return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V7).getSchema(schema);
    }
  }

  private JsonNode validSarif(int exit, String... command) throws IOException {
    JsonNode report = new ObjectMapper().readTree(work.ladder(command).exits(exit).out());
    assertThat(sarif().validate(report)).isEmpty();
    return report;
  }

  @Test
  void findingsAreSarifAsItsSchemaHasIt() throws Exception {
    validSarif(0, "check", "--format", "sarif");
    work.file(
        "rungs/0002-schräg & <krumm>.sql",
        "--| accepts: eraces\n--| up\nDROP TABLE bin;\nALTER TABLE x DROP COLUMN \"a\\b\";\n");
    work.file("rungs/0003-open.sql", "--| up\nSELECT 'open;\n");
    work.file("standing/seen.sql", "--| up\nCREATE VIEW seen AS SELECT 1;\n");
    JsonNode results = validSarif(1, "check", "--format", "sarif").at("/runs/0/results");
    assertThat(results.findValuesAsText("uri")).anyMatch(uri -> uri.startsWith("rungs/0002"));
  }

  @Test
  void theSchemaDoesRefuseSomething() throws Exception {
    assertThat(sarif().validate(new ObjectMapper().readTree("{\"runs\": 5}"))).isNotEmpty();
  }

  @Test
  void aRehearsalIsReadAsATestReport() throws Exception {
    work.rung("0002-grades", "ALTER TABLE bin ADD COLUMN \"<grade>\" text;", "SELECT 1;");
    work.rung("0003-crates", "CREATE TABLE crate (id integer);", "DROP TABLE crate;");
    String xml = work.ladder("rehearse", "--format", "junit").exits(1).out();
    Path file = Files.write(folder.resolve("report.xml"), xml.getBytes(StandardCharsets.UTF_8));
    List<ReportTestSuite> suites =
        new TestSuiteXmlParser(new NullConsoleLogger()).parse(file.toString());
    assertThat(suites)
        .extracting(ReportTestSuite::getFullClassName)
        .containsExactly("rungs/0002-grades.sql", "rungs/0003-crates.sql");
    assertThat(suites.get(0).getTestCases())
        .singleElement()
        .satisfies(one -> assertThat(one.hasFailure()).isTrue())
        .satisfies(one -> assertThat(one.getFailureDetail()).contains("<grade>"));
    assertThat(suites.get(1).getNumberOfSkipped()).isEqualTo(1);
  }

  @Test
  void whatAWayDownLeavesOtherwiseIsShownAsByDrift() {
    work.rung(
        "0002-weights",
        "ALTER TABLE bin ADD COLUMN weight integer;",
        "ALTER TABLE bin DROP COLUMN weight; ALTER TABLE bin ADD COLUMN tare integer;");
    work.rung(
        "0003-codes",
        "ALTER TABLE bin ADD COLUMN grade text;",
        "ALTER TABLE bin DROP COLUMN grade;");
    work.ladder("rehearse")
        .exits(1)
        .says("fails    after the way down, column bin.tare is still there")
        .says(
            "left     column bin.tare\n          type      INTEGER\n          nullable  yes\n      line")
        .says("1 of 2 rungs proved.");
    work.ladder("rehearse", "--format", "markdown")
        .exits(1)
        .says("Differences that 0002 leaves:")
        .says("| left | column bin.tare | type |  | <code>INTEGER</code> |");
  }

  @Test
  void aRehearsalIsReadByCodeReview() throws Exception {
    work.file("callers/bins.sql", "SELECT code FROM bin;\n");
    work.rung("0002-codes", "ALTER TABLE bin RENAME COLUMN code TO bin_code;", "SELECT 1;");
    work.ladder("rehearse", "--capture", "callers/counted.sql")
        .exits(3)
        .complains("this engine keeps no statistics of statements");
    assertThat(folder.resolve("callers/counted.sql")).doesNotExist();
    JsonNode results = validSarif(1, "rehearse", "--format", "sarif").at("/runs/0/results");
    assertThat(results.findValuesAsText("ruleId")).contains("proof", "callers");
    assertThat(results.findValuesAsText("uri"))
        .contains("rungs/0002-codes.sql", "callers/bins.sql");
    assertThat(results.findValuesAsText("startLine")).contains("1");
  }

  private static Object yaml(String text) {
    return new Yaml().load(text);
  }

  private boolean fits(String settings) throws IOException {
    return fits("ladder", settings);
  }

  private boolean fits(String form, String text) throws IOException {
    JsonSchema schema =
        JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
            .getSchema(Files.readString(folder.resolve("new/.ladder/" + form + ".schema.json")));
    return schema.validate(new ObjectMapper().valueToTree(yaml(text))).isEmpty();
  }

  @Test
  void editorsKnowTheSamplesThatTheProgramKnows() throws Exception {
    work.ladder("init", "new").exits(0);
    work.rung(
        "0002-pickers",
        "CREATE TABLE picker (id integer PRIMARY KEY, name text NOT NULL, email text, born date,"
            + " share decimal(4,2) CHECK (share > 0 AND share < 1), grade text CHECK (grade IN"
            + " ('A', 'B')), boss_id integer REFERENCES picker (id), note text);",
        "DROP TABLE picker;");
    work.ladder("apply").exits(0);
    work.ladder("seed", "--sample", "picker", "--write").exits(0);
    String guess = work.text("seeds/picker.sample.yaml");
    assertThat(guess).startsWith("# yaml-language-server: $schema=../.ladder/sample.schema.json");
    assertThat(folder.resolve(".ladder/sample.schema.json")).isRegularFile();
    String quoted = guess.replaceAll("\\d{4}-\\d{2}-\\d{2}", "\"$0\"");
    assertThat(fits("sample", quoted)).isTrue();
    String columns = "rows: 1..8\nfor-each: picking.id\nlocale: de\ncolumns:\n  a: ";
    for (String good :
        List.of(
            "{ after: issued_on + 1..30 days, missing: 5% }",
            "{ formula: quantity * price, decimals: 2 }",
            "{ one-of: { apple: 7, pear: 3 } }",
            "{ list-of: { pattern: 'B-##' }, count: 1..3 }",
            "{ map-of: { size: { between: [1, 9] } } }",
            "{ count-from: 1, per: picking_id }")) {
      assertThat(fits("sample", columns + good)).as(good).isTrue();
    }
    for (String wrong :
        List.of("{ madeup: name }", "{ value: 1, from: a.b }", "{ missing: 5% }", "7")) {
      assertThat(fits("sample", columns + wrong)).as(wrong).isFalse();
    }
  }

  @Test
  void editorsKnowTheSettingsThatTheProgramKnows() throws Exception {
    work.ladder("init", "new").exits(0);
    String own = Files.readString(folder.resolve("new/ladder.yaml"));
    assertThat(own).startsWith("# yaml-language-server: $schema=.ladder/ladder.schema.json");
    assertThat(fits(own)).isTrue();
    assertThat(fits(work.text("ladder.yaml"))).isTrue();
    assertThat(fits(Files.readString(Path.of("../demo/project/ladder.yaml")))).isTrue();
    String manual = Files.readString(Path.of("../docs/environments.md"));
    assertThat(fits(manual.replaceFirst("(?s).*?```yaml\n(.*?)```.*", "$1"))).isTrue();
    for (String wrong :
        List.of("promoted_from: test", "guarded: maybe", "attic: never", "risks: { blocks: 5 }")) {
      String settings = own.replace("disposable: true", wrong);
      assertThat(fits(settings)).as(wrong).isFalse();
      Files.writeString(folder.resolve("new/ladder.yaml"), settings);
      work.ladder("--project", "new", "check").exits(1);
    }
  }
}
