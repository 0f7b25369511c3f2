package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.wornladder.project.Seed.Form;
import org.wornladder.sql.Place;

/** Reads the entries under {@code seeds:} in the settings. */
final class SeedReader {
  private final Problems problems;
  private final Predicate<String> isThere;

  /**
   * @param isThere whether the project has a file
   */
  SeedReader(Problems problems, Predicate<String> isThere) {
    this.problems = problems;
    this.isThere = isThere;
  }

  List<Seed> seeds(List<YamlNode> nodes) {
    List<Seed> seeds = new ArrayList<>();
    for (YamlNode node : nodes) {
      seed(node).ifPresent(seed -> add(seed, seeds));
    }
    return List.copyOf(seeds);
  }

  private void add(Seed seed, List<Seed> seeds) {
    for (Seed other : seeds) {
      if (!other.label().equals(seed.label()) || !other.meets(seed)) {
        continue;
      }
      if (other.isSample() == seed.isSample()) {
        problems.error(
            seed.place(),
            seed.label() + " is seeded twice; first on line " + other.place().line(),
            "keep one entry for each table, or write another only-in: for each");
      } else if (other.delete() || seed.delete()) {
        problems.error(
            seed.place(),
            "extra: delete would take the made-up rows of " + seed.label() + " away again",
            "write extra: keep, or another only-in: for each; the other one is on line "
                + other.place().line());
      }
    }
    seeds.add(seed);
  }

  private Optional<Seed> seed(YamlNode node) {
    if (!(node instanceof YamlNode.Entries map)) {
      problems.error(node.place(), "a seed must be a map with table: or sql:", "");
      return Optional.empty();
    }
    Fields fields = new Fields(map, problems);
    return map.entries().containsKey("sql") ? script(map, fields) : rows(map, fields);
  }

  private Optional<Seed> script(YamlNode.Entries map, Fields fields) {
    Optional<String> file = fields.word("sql");
    List<String> onlyIn = fields.words("only-in");
    fields.end();
    return file.map(
        name -> new Seed(map.place(), Form.SQL, "", name, List.of(), true, false, onlyIn));
  }

  private Optional<Seed> rows(YamlNode.Entries map, Fields fields) {
    Optional<String> table = fields.word("table");
    Optional<Template> rows = fields.text("rows");
    List<String> key = fields.words("key");
    boolean leave = fields.is("existing", "leave", List.of("update", "leave"));
    boolean delete = fields.is("extra", "delete", List.of("keep", "delete"));
    List<String> onlyIn = fields.words("only-in");
    fields.end();
    if (table.isEmpty()) {
      problems.error(map.place(), "a seed names no table", "write table: and its name");
      return Optional.empty();
    }
    String file = rows.map(Template::text).orElseGet(() -> file(table.get(), map.place()));
    String rest = file.replace(Seed.ENVIRONMENT, "");
    if (rest.contains("@{")) {
      problems.error(
          rows.map(Template::place).orElse(map.place()),
          file + " has a place for another value than the environment",
          "write @{environment}");
    }
    Optional<Form> form = form(file);
    if (form.isEmpty()) {
      problems.error(
          rows.map(Template::place).orElse(map.place()),
          "rows cannot stand in " + file,
          "its name ends in .csv, .json, .yaml or .sample.yaml");
      return Optional.empty();
    }
    return Optional.of(
        new Seed(map.place(), form.get(), table.get(), file, key, !leave, delete, onlyIn));
  }

  /** The one file of a table's name. */
  private String file(String table, Place place) {
    String base = Seed.FOLDER + "/" + SchemaWriter.fileName(table);
    List<String> found = new ArrayList<>();
    for (Form form : List.of(Form.CSV, Form.JSON, Form.YAML, Form.SAMPLE)) {
      if (isThere.test(base + form.ending())) {
        found.add(base + form.ending());
      }
    }
    if (found.size() > 1) {
      problems.error(
          place, table + " has several files: " + String.join(", ", found), "name one with rows:");
    }
    return found.isEmpty() ? base + Form.CSV.ending() : found.get(0);
  }

  private static Optional<Form> form(String file) {
    for (Form form : List.of(Form.SAMPLE, Form.CSV, Form.JSON, Form.YAML)) {
      if (file.endsWith(form.ending())) {
        return Optional.of(form);
      }
    }
    return file.endsWith(".yml") ? Optional.of(Form.YAML) : Optional.empty();
  }
}
