package org.wornladder.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.wornladder.sql.Place;

/** Reads {@code ladder.yaml}. */
final class SettingsReader {
  private static final String DEFAULT_JOURNAL = "ladder_journal";

  private final Problems problems;
  private final SeedReader seedReader;

  private SettingsReader(Problems problems, Predicate<String> isThere) {
    this.problems = problems;
    seedReader = new SeedReader(problems, isThere);
  }

  /**
   * The settings in a YAML text; empty if problems were collected that leave none.
   *
   * @param isThere whether the project has a file
   */
  static Optional<Settings> read(
      String file, String text, Predicate<String> isThere, Problems problems) {
    Optional<YamlNode> tree = YamlReader.read(file, text, problems);
    if (tree.isEmpty()) {
      return Optional.empty();
    }
    if (!(tree.get() instanceof YamlNode.Entries map)) {
      problems.error(tree.get().place(), "the file must be a map of settings", "");
      return Optional.empty();
    }
    return new SettingsReader(problems, isThere).settings(map);
  }

  private Optional<Settings> settings(YamlNode.Entries map) {
    Fields fields = new Fields(map, problems);
    Optional<Template> name = fields.text("name");
    Optional<Template> defaultName = fields.text("default");
    boolean timestamps = fields.is("numbering", "timestamp", List.of("sequence", "timestamp"));
    Map<String, EnvironmentSettings> environments = environments(fields.map("environments"));
    Map<String, Template> values = fields.texts("values");
    List<String> ignore = ignore(fields.words("ignore"), map.place());
    List<Seed> seeds = seedReader.seeds(fields.items("seeds"));
    Fields journal = new Fields(fields.map("journal"), problems);
    String journalTable = journal.word("table").orElse(DEFAULT_JOURNAL);
    if (journalTable.isBlank()) {
      problems.error(
          journal.place("table"), "the journal's table has no name", "write one, or take it out");
    }
    Optional<String> journalOwner = journal.word("owner");
    journal.end();
    Optional<ScratchSettings> scratch =
        map.entries().containsKey(ScratchSettings.NAME)
            ? scratch(fields.map(ScratchSettings.NAME))
            : Optional.empty();
    EntitySettings entities = entities(new Fields(fields.map("entities"), problems));
    fields.end();
    if (environments.isEmpty()) {
      String found = "no environment is named";
      problems.error(map.place(), found, "write environments: with at least one name and its url:");
    }
    if (name.isEmpty() && !map.entries().containsKey("name")) {
      problems.error(map.place(), "the project has no name", "write name: and a word");
    }
    checkReferences(environments, defaultName, map.place());
    for (Seed seed : seeds) {
      for (String place : seed.onlyIn()) {
        checkName("only-in", place, seed.place(), environments);
      }
    }
    if (problems.hasErrors()) {
      return Optional.empty();
    }
    String first = environments.keySet().iterator().next();
    String main = defaultName.isPresent() ? defaultName.get().text() : first;
    return Optional.of(
        new Settings(
            name.orElseThrow().text(),
            main,
            timestamps ? Settings.Numbering.TIMESTAMP : Settings.Numbering.SEQUENCE,
            environments,
            values,
            journalTable,
            journalOwner,
            ignore,
            scratch,
            entities,
            seeds));
  }

  private static EntitySettings entities(Fields fields) {
    Map<String, String> types = new LinkedHashMap<>();
    fields.texts("types").forEach((name, type) -> types.put(name, type.text()));
    EntitySettings entities =
        new EntitySettings(
            fields.words("classes"),
            types,
            fields.is("names", "snake-case", List.of("as-written", "snake-case")),
            fields.is("enums", "native", List.of("check", "native")),
            fields.words("pass-over"));
    fields.end();
    return entities;
  }

  private Optional<ScratchSettings> scratch(YamlNode.Entries map) {
    Fields fields = new Fields(map, problems);
    EnvironmentSettings server = environment(ScratchSettings.NAME, map, fields);
    ScratchSettings scratch =
        new ScratchSettings(server, fields.flag("may-erase"), fields.flag("own-server"));
    fields.end();
    return Optional.of(scratch);
  }

  private List<String> ignore(List<String> patterns, Place place) {
    for (String pattern : patterns) {
      if (pattern.indexOf(':') < 1) {
        String found = "ignore holds '" + pattern + "', which is not KIND:NAME";
        problems.error(place, found, "write a kind in front, such as table:" + pattern);
      }
    }
    return patterns;
  }

  private Map<String, EnvironmentSettings> environments(YamlNode.Entries map) {
    Map<String, EnvironmentSettings> environments = new LinkedHashMap<>();
    for (Map.Entry<String, YamlNode.Entry> entry : map.entries().entrySet()) {
      String name = entry.getKey();
      if (!isName(name)) {
        String found = "'" + name + "' cannot name an environment";
        problems.error(entry.getValue().key(), found, "use letters, digits, - and _");
      } else if (entry.getValue().value() instanceof YamlNode.Entries settings) {
        environments.put(name, environment(name, settings));
      } else {
        Place place = entry.getValue().value().place();
        problems.error(place, name + " must be a map with at least url:", "");
      }
    }
    return environments;
  }

  /** No pattern: to build one delays every start. */
  private static boolean isName(String text) {
    boolean fits = !text.isEmpty() && isLetter(text.charAt(0));
    for (int i = 1; i < text.length() && fits; i++) {
      char c = text.charAt(i);
      fits = isLetter(c) || c >= '0' && c <= '9' || c == '-' || c == '_';
    }
    return fits;
  }

  private static boolean isLetter(char c) {
    return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z';
  }

  private EnvironmentSettings environment(String name, YamlNode.Entries map) {
    Fields fields = new Fields(map, problems);
    EnvironmentSettings read = environment(name, map, fields);
    fields.end();
    return read;
  }

  private EnvironmentSettings environment(String name, YamlNode.Entries map, Fields fields) {
    Optional<Template> url = fields.text("url");
    EnvironmentSettings read =
        new EnvironmentSettings(
            name,
            url.orElse(new Template("", map.place())),
            fields.text("user"),
            fields.text("password"),
            fields.text("role"),
            fields.words("schemas"),
            fields.flag("guarded"),
            fields.flag("disposable"),
            fields.word("promoted-from"),
            fields.is("late", "allow", List.of("refuse", "allow")),
            !fields.is("foreign-keys", "off", List.of("on", "off")),
            fields.is("client-files", "allow", List.of("refuse", "allow")),
            fields.is("copy-rows", "allow", List.of("refuse", "allow")),
            fields.word("driver"),
            fields.word("table-options"),
            fields.duration("lock-timeout"),
            fields.duration("statement-timeout"),
            new RiskLimitsReader(problems).read(fields),
            new AtticReader(problems).read(fields),
            fields.texts("values"));
    if (url.isEmpty() && !map.entries().containsKey("url")) {
      problems.error(
          map.place(), name + " has no url", "write url: jdbc:sqlite:data/" + name + ".db");
    }
    if (read.guarded() && read.disposable()) {
      String found = name + " is both guarded and disposable";
      problems.error(fields.place("disposable"), found, "keep one of the two");
    }
    return read;
  }

  private void checkReferences(
      Map<String, EnvironmentSettings> environments, Optional<Template> main, Place whole) {
    if (main.isPresent()) {
      checkName("default", main.get().text(), main.get().place(), environments);
    }
    for (EnvironmentSettings environment : environments.values()) {
      if (environment.promotedFrom().isPresent()) {
        String from = environment.promotedFrom().get();
        checkName("promoted-from", from, environment.url().place(), environments);
        checkRing(environment, environments);
      }
    }
  }

  /** An environment that is promoted from itself, by way of others or not, gets no rung ever. */
  private void checkRing(
      EnvironmentSettings environment, Map<String, EnvironmentSettings> environments) {
    List<String> way = new ArrayList<>(List.of(environment.name()));
    Optional<String> from = environment.promotedFrom();
    while (from.isPresent() && !way.contains(from.get())) {
      way.add(from.get());
      from =
          Optional.ofNullable(environments.get(from.get()))
              .flatMap(EnvironmentSettings::promotedFrom);
    }
    if (from.filter(environment.name()::equals).isPresent()) {
      way.add(environment.name());
      problems.error(
          environment.url().place(),
          "promoted-from leads in a ring: " + String.join(" from ", way),
          "take promoted-from out of the environment where rungs are applied first");
    }
  }

  private void checkName(
      String key, String name, Place place, Map<String, EnvironmentSettings> environments) {
    if (!environments.containsKey(name)) {
      String found = key + " names '" + name + "', which is not an environment";
      problems.error(place, found, NearestWord.advice(name, environments.keySet()));
    }
  }
}
