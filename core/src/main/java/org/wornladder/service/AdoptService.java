package org.wornladder.service;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.AdoptOptions;
import org.wornladder.AdoptResult;
import org.wornladder.Advice;
import org.wornladder.Approval;
import org.wornladder.DatabaseReport;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.project.NewRung;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.SchemaWriter;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedWriter;
import org.wornladder.project.SettingsLists;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.seed.SeedPull;
import org.wornladder.seed.UniqueKeys;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Place;

/** Takes a database that exists under management: from here on, everything is on record. */
public record AdoptService(ProjectContext project) {
  private static final int MOST_ROWS = 100_000;
  private static final String WORDS = "adopted structure";
  private static final String REASON =
      "it stood before the ladder did, and nobody drops a live database by rolling back";
  private static final String NOTE = "it stood there before the ladder did";
  private static final String MARK = "The fingerprint of this structure: ";
  private static final Pattern MARKED = Pattern.compile(Pattern.quote(MARK) + "([0-9a-f]{64})");

  /**
   * @param approval asked once, before anything is written
   */
  public AdoptResult adopt(
      Optional<String> environment, AdoptOptions options, Approval approval, RunListener listener) {
    return project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(), listener::waiting, same -> adopt(same, options, approval)));
  }

  private AdoptResult adopt(EnvironmentContext context, AdoptOptions options, Approval approval)
      throws SQLException {
    History history = context.provenHistory();
    String name = context.environment().name();
    if (!history.rungs().isEmpty()) {
      throw RefusedException.of(
          name + " is on record already: its journal has rungs",
          "environment " + name,
          Advice.of(Advice.Code.SHOW_RUNGS_AND_DRIFT, name));
    }
    Optional<Rung> adopted = files().rungs().stream().filter(AdoptService::isAdopted).findFirst();
    if (adopted.isEmpty() && !files().rungs().isEmpty()) {
      throw RefusedException.of(
          "this project has rungs already, and none of them was adopted",
          files().rungs().get(0).file(),
          Advice.of(Advice.Code.ADOPT_INTO_NEW_PROJECT));
    }
    approval.check(context.planning(history).empty(), context.environment());
    ExpectedState state = ExpectedState.withCatalogFingerprint(context, history);
    List<DatabaseObject> taken = taken(state.live(), options);
    return adopted.isPresent()
        ? again(context, adopted.get(), taken, state)
        : first(context, options, taken, state);
  }

  private Project files() {
    return project.project();
  }

  private static boolean isAdopted(Rung rung) {
    return MARKED.matcher(rung.script().source()).find();
  }

  /** What the options and the project's own list leave of what is there. */
  private List<DatabaseObject> taken(Snapshot live, AdoptOptions options) {
    List<String> left = new ArrayList<>(files().settings().ignore());
    left.addAll(options.except());
    List<Difference> all = Differences.between(Snapshot.EMPTY, live);
    List<Difference> kept = new IgnoreFilter(left).without(all);
    if (!options.only().isEmpty()) {
      kept = new IgnoreFilter(options.only()).ignored(kept);
    }
    return kept.stream()
        .map(difference -> (DatabaseObject) difference.after().orElseThrow())
        .toList();
  }

  private AdoptResult first(
      EnvironmentContext context,
      AdoptOptions options,
      List<DatabaseObject> taken,
      ExpectedState state)
      throws SQLException {
    Ddl ddl = context.session().ddl();
    CreationScript script = CreationScript.of(taken, ddl);
    if (script.statements().isEmpty()) {
      throw RefusedException.of(
          "nothing is there that could be adopted",
          "environment " + context.environment().name() + ", " + context.session().address(),
          Advice.of(Advice.Code.CHECK_SELECTION));
    }
    NewRung draft = draft(taken, script, ddl);
    draft.refuseTooLarge(Advice.of(Advice.Code.LEAVE_OBJECTS_OUT));
    draft.refuseSecrets(context.environment().definitionSecrets());
    List<String> rows = rows(context, options.rows());
    for (String pattern : options.except()) {
      SettingsLists.ignore(files().root(), pattern);
    }
    List<String> files =
        new ArrayList<>(
            ddl.dialect().has(Dialect.Trait.JSON)
                ? List.of()
                : SchemaWriter.write(files().root(), DeclaredObjects.of(taken, ddl)));
    files.addAll(rows);
    String rung = ProjectWriter.rung(files(), WORDS, draft, project.settings().timestamp());
    mark(context, ProjectReader.read(files().root(), Engines::isOther).rungs().get(0), state);
    return new AdoptResult(
        context.environment().name(),
        rung,
        files,
        script.leftOut(),
        taken.size(),
        state.live().unseenKinds(),
        List.of());
  }

  private static NewRung draft(List<DatabaseObject> taken, CreationScript script, Ddl ddl) {
    String mark = MARK + new Snapshot(taken).meaningFingerprint();
    return NewRung.of(
        ddl.dialect(), script.statements(), List.of(), Optional.of(REASON), List.of(mark));
  }

  /** Writes the rows of tables as seeds, and names them in the settings; returns the files. */
  private List<String> rows(EnvironmentContext context, List<String> tables) throws SQLException {
    if (tables.isEmpty()) {
      return List.of();
    }
    List<Seed> seeds = new ArrayList<>();
    for (String table : tables) {
      seeds.add(seed(context, table));
    }
    Path root = files().root();
    try (SeedPull pull =
        new SeedPull(
            root, context.environment().name(), context.session(), context.structure(), false)) {
      for (Seed seed : seeds) {
        pull.take(seed);
      }
      pull.replace();
    }
    seeds.forEach(seed -> SettingsLists.seed(root, seed.table(), seed.key()));
    return seeds.stream().map(Seed::file).toList();
  }

  /** The seed that a table's rows become; without a primary key they are found by a unique one. */
  private Seed seed(EnvironmentContext context, String name) throws SQLException {
    DatabaseReport.OfTable report =
        new TableReader(context.session(), context.engine(), context.environment())
            .read(context.structure(), name, 0);
    Table table = report.table();
    String place = "environment " + context.environment().name();
    if (report.rowCount() > MOST_ROWS) {
      throw RefusedException.of(
          name + " has " + report.rowCount() + " rows: that is no reference data",
          place,
          Advice.of(Advice.Code.ADOPT_SMALLER_TABLES, MOST_ROWS));
    }
    Optional<List<String>> unique = UniqueKeys.of(table).stream().findFirst();
    if (unique.isEmpty()) {
      throw RefusedException.of(
          name + " has no key that is unique, so its rows cannot be identified",
          place,
          "give the table a unique key, or leave its rows out");
    }
    String file = SeedWriter.csvFile(table.name());
    if (Files.exists(files().root().resolve(file))) {
      throw RefusedException.of(
          file + " is there already", place, "move it away, or leave the rows of " + name + " out");
    }
    List<String> key = table.primaryKey().isEmpty() ? unique.get() : List.of();
    Place settings = Place.of(ProjectReader.SETTINGS);
    return new Seed(settings, Seed.Form.CSV, table.name(), file, key, true, false, List.of());
  }

  /** Another environment: it is marked if it is the same. */
  private AdoptResult again(
      EnvironmentContext context, Rung rung, List<DatabaseObject> taken, ExpectedState state)
      throws SQLException {
    Matcher marked = MARKED.matcher(rung.script().source());
    String name = context.environment().name();
    boolean same =
        marked.find() && marked.group(1).equals(new Snapshot(taken).meaningFingerprint());
    List<Difference> differences =
        same
            ? List.of()
            : new StructureSources(project)
                .sinceRung(context.environment(), rung, new Snapshot(taken));
    if (differences.isEmpty()) {
      mark(context, rung, state);
    }
    return new AdoptResult(
        name,
        rung.file(),
        List.of(),
        List.of(),
        taken.size(),
        state.live().unseenKinds(),
        differences);
  }

  private void mark(EnvironmentContext context, Rung rung, ExpectedState state)
      throws SQLException {
    context.manualResolution().adopt(rung, NOTE);
    state.save(state.live());
  }
}
