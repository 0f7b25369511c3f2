package org.wornladder.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.wornladder.Advice;
import org.wornladder.CheckReport;
import org.wornladder.CheckReport.Finding;
import org.wornladder.ProjectException;
import org.wornladder.Status;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.UrlEngines;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.ScriptPreparation;
import org.wornladder.execution.StatementRisks;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.JournalHead;
import org.wornladder.project.AtticSettings;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentSettings;
import org.wornladder.project.Header;
import org.wornladder.project.Problem;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.project.StandingScript;
import org.wornladder.project.Template;
import org.wornladder.project.Value;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/**
 * Examines the files without a database: every way is read as each environment's engine reads it.
 */
public final class CheckService {
  private static final String VARIABLES = ".env";

  private static final Set<PosixFilePermission> OF_OTHERS =
      Set.of(
          PosixFilePermission.GROUP_WRITE,
          PosixFilePermission.OTHERS_READ,
          PosixFilePermission.OTHERS_WRITE);

  private CheckService() {}

  /**
   * @param variables the process's environment variables, by name
   */
  public static CheckReport files(
      ProjectReader.Reading reading, Function<String, Optional<String>> variables) {
    Set<Problem> problems = new LinkedHashSet<>(reading.problems());
    Optional<UrlEngines> engines =
        reading.project().map(project -> new UrlEngines(project, variables));
    reading.project().ifPresent(project -> scripts(project, engines.orElseThrow(), problems));
    return new CheckReport(
        List.copyOf(problems),
        reading.project().map(project -> project.rungs().size()).orElse(0),
        reading.project().map(project -> project.standing().size()).orElse(0),
        reading.project().map(project -> project.settings().seeds().size()).orElse(0),
        reading.project().map(project -> risks(project, engines.orElseThrow())).orElse(List.of()),
        Optional.empty());
  }

  /** What the texts of the rungs show of risks, as the default environment's engine reads them. */
  private static List<CheckReport.TextRisk> risks(Project project, UrlEngines engines) {
    EnvironmentSettings settings =
        project.settings().environments().get(project.settings().defaultEnvironment());
    Optional<Engine> engine = Optional.ofNullable(settings).flatMap(engines::of);
    List<CheckReport.TextRisk> risks = new ArrayList<>();
    if (engine.isPresent()) {
      ScriptPreparation preparation =
          new ScriptPreparation(engine.get(), withoutVariables(project, settings));
      for (Rung rung : project.rungs()) {
        risks.addAll(risks(rung, preparation, engine.get()));
      }
    }
    return risks;
  }

  private static List<CheckReport.TextRisk> risks(
      Rung rung, ScriptPreparation preparation, Engine engine) {
    List<String> accepted = rung.script().header().accepts();
    try {
      return StatementRisks.of(preparation.statements(rung.script(), Direction.UP)).stream()
          .map(
              found ->
                  new CheckReport.TextRisk(
                      found.statement().place(),
                      found.risk(),
                      accepted.contains(found.risk().kind().label())))
          .toList();
    } catch (ProjectException e) {
      // What cannot be read is among the problems.
      return List.of();
    }
  }

  /**
   * Compares the files with one environment's journal.
   *
   * @param head an entry that must be in the journal
   */
  public static CheckReport.Against against(
      ProjectContext project, Optional<String> environment, Optional<JournalHead> head) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          History history = context.journal().read(Depth.WHOLE);
          Status status = StatusService.reader(context, history).read(context.session());
          // Where rungs wait, seeds may be ahead of the tables.
          List<Problem> misfits =
              status.waiting() > 0 ? List.of() : new SeedService(project).misfits(context, history);
          CheckReport.Against found = against(status, history, project.project(), misfits);
          return head.isEmpty() || context.journal().holds(head.get())
              ? found
              : found.with(headIsMissing(head.get(), context.environment().name()));
        });
  }

  private static Finding headIsMissing(JournalHead head, String environment) {
    return new Finding(
        "the journal has no entry " + head.number() + " with the hash that --head names",
        "environment " + environment,
        Advice.of(Advice.Code.FIND_JOURNAL_WRITER, environment));
  }

  private static void scripts(Project project, UrlEngines known, Set<Problem> problems) {
    Set<String> engines = new LinkedHashSet<>();
    for (EnvironmentSettings settings : project.settings().environments().values()) {
      Optional<Engine> engine = known.of(settings);
      settings(settings, engine, problems);
      if (engine.isPresent()) {
        engines.add(engine.get().name());
        ScriptPreparation preparation =
            new ScriptPreparation(engine.get(), withoutVariables(project, settings));
        for (Rung rung : project.rungs()) {
          script(rung.script(), preparation, problems);
          unknown(rung.script(), preparation, engine.get(), problems);
        }
        for (StandingScript script : project.standing()) {
          script(script.script(), preparation, problems);
        }
      }
    }
    UnexaminedScripts.note(project, known).ifPresent(problems::add);
    for (Rung rung : project.rungs()) {
      waysOf(rung, engines, problems);
      lifts(rung, project, engines, problems);
    }
    seeds(project, problems);
    variablesFile(project, problems);
  }

  /** What others on the machine may do with the file that holds passwords. */
  private static void variablesFile(Project project, Set<Problem> problems) {
    Path file = project.root().resolve(VARIABLES);
    try {
      Set<PosixFilePermission> granted = Files.getPosixFilePermissions(file);
      if (granted.stream().anyMatch(OF_OTHERS::contains)) {
        note(
            problems,
            Place.of(VARIABLES),
            "others on this machine can read or write it ("
                + PosixFilePermissions.toString(granted)
                + ")",
            "chmod 600 " + VARIABLES);
      }
    } catch (IOException | UnsupportedOperationException e) {
      // There is no such file, or the file system knows no such rights.
      return;
    }
  }

  /** Every seed is read to its end. */
  private static void seeds(Project project, Set<Problem> problems) {
    Set<String> environments = new LinkedHashSet<>(project.settings().environmentNames());
    Set<Seed> seeds = new LinkedHashSet<>();
    for (Seed seed : project.settings().seeds()) {
      List<String> here = environments.stream().filter(seed::isFor).toList();
      here.forEach(environment -> seeds.add(seed.in(environment)));
    }
    for (Seed seed : seeds) {
      try {
        SeedFiles.examine(project.root(), seed, project.engineNames(Engines::isOther));
      } catch (ProjectException e) {
        problems.addAll(e.problems());
      }
    }
    for (String file : SeedFiles.unused(project.root(), project.settings().seeds(), environments)) {
      note(
          problems,
          Place.of(file),
          "no seed in ladder.yaml names this file",
          "write - table: or - sql: under seeds:, or delete it");
    }
  }

  private static void settings(
      EnvironmentSettings settings, Optional<Engine> engine, Set<Problem> problems) {
    settings
        .plainPassword()
        .ifPresent(
            place ->
                note(
                    problems,
                    place,
                    "a password is written here for everyone who can read the project",
                    "write ${NAME}, and set it in the environment or in .env"));
    engine.ifPresent(found -> restricted(settings, found, problems));
    engine.ifPresent(
        found ->
            withoutEffect(settings, found)
                .forEach(
                    key ->
                        note(
                            problems,
                            settings.url().place(),
                            key + " has no effect on " + found.name(),
                            "take it out of " + settings.name())));
  }

  private static List<String> withoutEffect(EnvironmentSettings settings, Engine engine) {
    Set<Ability> abilities = engine.abilities();
    List<String> keys = new ArrayList<>();
    if (settings.role().isPresent() && !abilities.contains(Ability.ROLES)) {
      keys.add("role");
    }
    if (!settings.schemas().isEmpty() && !abilities.contains(Ability.SCHEMAS)) {
      keys.add("schemas");
    }
    if (settings.lockTimeout().isPresent() && !abilities.contains(Ability.LOCK_TIMEOUT)) {
      keys.add("lock-timeout");
    }
    if (settings.driver().isPresent() && !engine.isOfDriver()) {
      keys.add("driver");
    }
    if (settings.tableOptions().isPresent() && !engine.isOfDriver()) {
      keys.add("table-options");
    }
    if (settings.attic().mode() != AtticSettings.Mode.OFF && !abilities.contains(Ability.ATTIC)) {
      keys.add("attic");
    }
    if (settings.statementTimeout().isPresent() && !abilities.contains(Ability.STATEMENT_TIMEOUT)) {
      keys.add("statement-timeout");
    }
    return keys;
  }

  /** What cannot be done with an engine is said once for each environment. */
  private static void restricted(
      EnvironmentSettings settings, Engine engine, Set<Problem> problems) {
    engine.restrictions().ifPresent(what -> note(problems, settings.url().place(), what, ""));
  }

  private static void note(Set<Problem> problems, Place place, String found, String next) {
    problems.add(new Problem(Problem.Severity.NOTE, place, found, next));
  }

  private static void script(Script script, ScriptPreparation preparation, Set<Problem> problems) {
    for (Direction direction : Direction.values()) {
      try {
        preparation.statements(script, direction);
      } catch (ProjectException e) {
        problems.addAll(e.problems());
      }
    }
  }

  /** What an engine does not know may still be right: a newer server may. */
  private static void unknown(
      Script script, ScriptPreparation preparation, Engine engine, Set<Problem> problems) {
    try {
      for (Direction direction : Direction.values()) {
        for (Statement statement : preparation.statements(script, direction)) {
          engine.unknown(statement).ifPresent(what -> note(problems, statement.place(), what, ""));
        }
      }
    } catch (ProjectException e) {
      // What cannot be read is among the problems.
      return;
    }
  }

  /** A standing script that is lifted must have a way down, and so must those that need it. */
  private static void lifts(
      Rung rung, Project project, Set<String> engines, Set<Problem> problems) {
    Set<String> lifted = new LinkedHashSet<>(rung.script().header().lifts());
    // The scripts stand in an order in which each comes after those that it needs.
    for (StandingScript script : project.standing()) {
      Header header = script.script().header();
      boolean needs = header.needs().stream().anyMatch(lifted::contains);
      if (!needs && !lifted.contains(script.name())) {
        continue;
      }
      lifted.add(script.name());
      for (String engine : engines) {
        if (!script.script().hasWayDown(engine)) {
          problems.add(
              Problem.error(
                  Place.of(rung.file()),
                  "it lifts "
                      + (needs ? "what is needed by " : "")
                      + script.name()
                      + ", which has no way down for "
                      + engine,
                  "write a --| down section in " + script.script().file()));
        }
      }
    }
  }

  private static void waysOf(Rung rung, Set<String> engines, Set<Problem> problems) {
    for (String engine : engines) {
      Place place = Place.of(rung.file());
      boolean written = !rung.script().sections().isEmpty();
      if (written && rung.script().section(Direction.UP, engine).isEmpty()) {
        String found = "there is no way up for " + engine;
        problems.add(
            new Problem(Problem.Severity.ERROR, place, found, "write --| up on " + engine));
      } else if (!rung.script().hasWayDown(engine) && rung.script().noWayDown().isEmpty()) {
        String next =
            rung.script().isOfCommands()
                ? "write \"down\": [ … ], or \"no way down\": \"REASON\""
                : "write --| down, or --| no way down: REASON";
        note(problems, place, "there is no way down for " + engine, next);
      }
    }
  }

  /** The environment with its values as they are written: names count here, texts do not. */
  private static Environment withoutVariables(Project project, EnvironmentSettings settings) {
    Map<String, Value> values = new LinkedHashMap<>();
    Map<String, Template> written = new LinkedHashMap<>(project.settings().values());
    written.putAll(settings.values());
    written.forEach((name, template) -> values.put(name, new Value(template.text(), false)));
    values.put("environment", new Value(settings.name(), false));
    return new Environment(
        settings,
        settings.url().text(),
        Optional.empty(),
        Optional.empty(),
        Optional.empty(),
        values);
  }

  /**
   * Compares a status and a journal with the files.
   *
   * @param misfits what of the seeds does not fit the tables there
   */
  public static CheckReport.Against against(
      Status status, History history, Project project, List<Problem> misfits) {
    List<Finding> findings = new ArrayList<>();
    String environment = status.environment();
    history
        .broken()
        .ifPresent(
            broken ->
                findings.add(
                    new Finding(
                        "the journal's chain is broken at entry "
                            + broken.entry()
                            + ": "
                            + broken.reason(),
                        "environment " + environment,
                        Advice.of(Advice.Code.FIND_JOURNAL_WRITER, environment))));
    findings.addAll(ofRungs(status, project));
    for (Problem misfit : misfits) {
      findings.add(new Finding(misfit.message(), misfit.place().toString(), misfit.advice()));
    }
    return new CheckReport.Against(environment, findings, status.waiting());
  }

  /** The rungs that need a person, a line each. */
  public static List<Finding> ofRungs(Status status, Project project) {
    List<Finding> findings = new ArrayList<>();
    for (Status.Line line : status.rungs()) {
      if (line.state().needsPerson() || line.state() == Status.State.ABSENT) {
        findings.add(
            new Finding(
                line.label()
                    + " is "
                    + line.state().label()
                    + (line.detail().isEmpty() ? "" : ": " + line.detail()),
                project
                    .rung(line.number())
                    .map(Rung::file)
                    .orElse("environment " + status.environment()),
                advice(line, status.environment())));
      }
    }
    return findings;
  }

  private static Advice advice(Status.Line line, String environment) {
    return switch (line.state()) {
      case ABSENT -> Advice.of(Advice.Code.RESTORE_FILE_OR_ROLL_BACK, environment);
      case LATE -> Advice.of(Advice.Code.RENUMBER_OR_ALLOW, line.label());
      default -> Advice.of(Advice.Code.PREVIEW, environment);
    };
  }
}
