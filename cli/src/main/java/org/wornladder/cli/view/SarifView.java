package org.wornladder.cli.view;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.CheckReport;
import org.wornladder.CheckReport.Finding;
import org.wornladder.CheckReport.TextRisk;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearsalReport.Untried;
import org.wornladder.change.Risk;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.Version;
import org.wornladder.project.Problem;
import org.wornladder.sql.Place;

/**
 * What a check or a rehearsal found, as code review reads it (OASIS, "Static Analysis Results
 * Interchange Format", version 2.1.0).
 */
public final class SarifView {
  private static final String SCHEMA =
      "https://docs.oasis-open.org/sarif/sarif/v2.1.0/os/schemas/sarif-schema-2.1.0.json";
  private static final String FILES = "files";
  private static final String JOURNAL = "journal";
  private static final String PROOF = "proof";
  private static final String CALLERS = "callers";
  private static final String MEASURED = "measured";

  private static final Pattern PLACE = Pattern.compile("(.*?):(\\d{1,9})(?::\\d{1,9})?");

  private final Terminal terminal;

  public SarifView(Terminal terminal) {
    this.terminal = terminal;
  }

  public void show(CheckReport check) {
    List<Json> results = new ArrayList<>();
    for (Problem problem : check.problems()) {
      results.add(
          result(FILES, problem.isError() ? "error" : "note", problem.message(), problem.place()));
    }
    for (TextRisk one : check.risks()) {
      if (!one.accepted()) {
        results.add(
            result(
                one.risk().kind().label(),
                "warning",
                one.risk().subject() + ": " + one.risk().reason(),
                one.place()));
      }
    }
    check
        .against()
        .ifPresent(
            against -> against.findings().forEach(finding -> results.add(ofJournal(finding))));
    write(results);
  }

  /** What is not proved, the callers that break, and what statements lock and rewrite. */
  public void show(RehearsalReport report) {
    List<Json> results = new ArrayList<>();
    for (OfRung rung : report.rungs()) {
      Place file = Place.of(rung.file());
      rung.faults().forEach(fault -> results.add(result(PROOF, "error", fault, file)));
      rung.brokenCallers()
          .forEach(
              caller ->
                  results.add(
                      result(
                          CALLERS,
                          "error",
                          "no longer works after " + rung.label() + ": " + caller.reason(),
                          place(caller.place()))));
      rung.statements().stream()
          .filter(statement -> !statement.effects().isEmpty())
          .forEach(
              statement ->
                  results.add(
                      result(
                          MEASURED,
                          "note",
                          String.join("; ", statement.effects()),
                          new Place(rung.file(), statement.line(), 1))));
    }
    report.standing().forEach(fault -> results.add(result(PROOF, "error", fault)));
    for (Untried rung : report.untried()) {
      results.add(result(PROOF, "warning", rung.label() + " was not tried", Place.of(rung.file())));
    }
    write(results);
  }

  /** A place as it is shown: a file, and behind colons a line and a column. */
  private static Place place(String text) {
    Matcher parts = PLACE.matcher(text);
    return parts.matches()
        ? new Place(parts.group(1), Integer.parseInt(parts.group(2)), 1)
        : Place.of(text);
  }

  private void write(List<Json> results) {
    new Json()
        .put("version", "2.1.0")
        .put("$schema", SCHEMA)
        .put(
            "runs",
            List.of(
                new Json().put("tool", new Json().put("driver", driver())).put("results", results)))
        .write(terminal.out());
  }

  private static Json driver() {
    List<Json> rules = new ArrayList<>();
    rules.add(rule(FILES, "The files can be read, and say what they mean."));
    rules.add(rule(JOURNAL, "The files are those that ran."));
    rules.add(rule(PROOF, "Each way of a rung does what it should, and the way back undoes it."));
    rules.add(rule(CALLERS, "The application's statements work behind each rung."));
    rules.add(rule(MEASURED, "What a statement locks, reads and rewrites."));
    for (Risk.Kind kind : Risk.Kind.values()) {
      rules.add(rule(kind.label(), "A change carries a risk."));
    }
    return new Json().put("name", "Worn Ladder").put("version", Version.TEXT).put("rules", rules);
  }

  private static Json rule(String id, String about) {
    return new Json().put("id", id).put("shortDescription", new Json().put("text", about));
  }

  private static Json result(String rule, String level, String message, Place place) {
    Json location = new Json().put("artifactLocation", new Json().put("uri", uri(place.file())));
    if (place.line() > 0) {
      location.put(
          "region",
          new Json()
              .put("startLine", place.line())
              .put("startColumn", Math.max(1, place.column())));
    }
    return result(rule, level, message)
        .put("locations", List.of(new Json().put("physicalLocation", location)));
  }

  /** One that stands in no file. */
  private static Json result(String rule, String level, String message) {
    return new Json()
        .put("ruleId", rule)
        .put("level", level)
        .put("message", new Json().put("text", message));
  }

  private static Json ofJournal(Finding finding) {
    return result(JOURNAL, "error", finding.what() + " (" + finding.where() + ")");
  }

  /** A path as part of a URI (RFC 3986, section 3.3). */
  private static String uri(String path) {
    StringBuilder uri = new StringBuilder();
    for (byte one : path.replace('\\', '/').getBytes(StandardCharsets.UTF_8)) {
      char letter = (char) (one & 0xff);
      boolean plain =
          letter < 128 && (Character.isLetterOrDigit(letter) || "/-._~".indexOf(letter) >= 0);
      uri.append(plain ? String.valueOf(letter) : "%%%02X".formatted((int) letter));
    }
    return uri.toString();
  }
}
