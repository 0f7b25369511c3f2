package org.wornladder.seed;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.RowChange;
import org.wornladder.SeedCounts;
import org.wornladder.SeedDrift;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedResult;
import org.wornladder.SeedRunResult;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.engine.StageInsertions;
import org.wornladder.engine.Staging;
import org.wornladder.journal.Entry;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal;
import org.wornladder.project.Environment;
import org.wornladder.project.Problem;
import org.wornladder.project.Project;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedFiles;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Compares a project's seeds with one environment, and brings its rows there. First everything is
 * read, checked and compared; only then is anything written, all of it in one transaction.
 */
public final class Seeder implements SeedWork {
  private final Project project;
  private final Environment environment;
  private final Engine engine;
  private final Session session;
  private final Schema schema;
  private final History history;
  private final SeedListener listener;
  private final Staging staging;

  private SampleSource samples;
  private final Map<Seed, SeedResult> results = new HashMap<>();

  /** How many rows go into a table that is empty. */
  private final Map<Seed, Long> fresh = new HashMap<>();

  /** The tables that rows are made up for. */
  private final Set<String> sampled = new HashSet<>();

  private final List<BoundSeed> changing = new ArrayList<>();
  private final List<SeedScript> scripts = new ArrayList<>();

  /** What seeding works on: one environment while a session to it is open. */
  public record Ground(
      Project project,
      Environment environment,
      Engine engine,
      Session session,
      Schema schema,
      History history) {}

  public Seeder(Ground ground, SeedListener listener) {
    project = ground.project();
    environment = ground.environment();
    engine = ground.engine();
    session = ground.session();
    schema = ground.schema();
    history = ground.history();
    this.listener = listener;
    staging = session.staging();
    samples = samples(Optional.empty());
  }

  private SampleSource samples(Optional<SampleOrder> order) {
    return new SampleSource(
        project.root(), session, schema, staging, engine.dialect(), order, listener);
  }

  private SeedSelection selection() {
    return new SeedSelection(project.settings().seeds(), environment);
  }

  @Override
  public List<Problem> misfits() {
    List<Problem> problems = new ArrayList<>();
    for (BoundSeed seed : bind(selection().of(SeedOptions.ALL), problems)) {
      if (seed.rows() instanceof SampleRows) {
        // Made from rows of other tables, which may be still to come.
        continue;
      }
      try {
        new CheckedRows(seed, staging, schema, listener).<RuntimeException>each(row -> {});
      } catch (ProjectException e) {
        problems.addAll(e.problems());
      }
    }
    return problems;
  }

  @Override
  public SeedDrift drift(boolean rungsWait) throws SQLException {
    List<Seed> seeds =
        selection().of(SeedOptions.ALL).stream()
            .filter(seed -> seed.form() != Seed.Form.SAMPLE)
            .toList();
    List<Refusal> findings = new ArrayList<>();
    List<SeedResult> differing = new ArrayList<>();
    List<String> waiting = new ArrayList<>();
    List<Seed> fitting = rungsWait ? fitting(seeds, false, waiting) : seeds;
    try {
      for (SeedResult result : plan(fitting, 0, List.of()).results()) {
        if (!result.isQuiet()) {
          differing.add(result);
        }
      }
    } catch (ProjectException e) {
      for (Problem problem : e.problems()) {
        findings.add(new Refusal(problem.message(), problem.place().toString(), problem.advice()));
      }
    } catch (RefusedException e) {
      findings.addAll(e.refusals());
    } catch (SQLException e) {
      if (session.fault(e).kind() != Fault.Kind.DENIED) {
        throw e;
      }
      findings.add(
          new Refusal(
              "reference data cannot be compared: " + session.fault(e).message(),
              "environment " + environment.name(),
              "grant the user the right to make temporary tables, and to read the seeded ones"));
    }
    return new SeedDrift(seeds.size(), differing, findings, waiting);
  }

  /**
   * The seeds that fit what stands.
   *
   * @param tablesOnly whether scripts do not, as nobody knows what they need
   * @param others takes the labels of the others
   */
  private List<Seed> fitting(List<Seed> seeds, boolean tablesOnly, List<String> others) {
    List<Seed> fitting = new ArrayList<>();
    for (Seed seed : seeds) {
      List<Problem> problems = new ArrayList<>();
      if (seed.form() != Seed.Form.SQL) {
        bind(List.of(seed), problems);
      }
      if (problems.isEmpty() && !(tablesOnly && seed.form() == Seed.Form.SQL)) {
        fitting.add(seed);
      } else {
        others.add(seed.label());
      }
    }
    return fitting;
  }

  private List<BoundSeed> bind(List<Seed> seeds, List<Problem> problems) {
    List<BoundSeed> bound = new ArrayList<>();
    SeedBinder binder = new SeedBinder(schema, staging, environment.name(), problems);
    for (Seed seed : seeds) {
      try {
        if (seed.form() == Seed.Form.SQL) {
          scripts.add(SeedScript.read(project, environment, engine, seed));
        } else {
          Optional<Table> table = binder.table(seed);
          if (table.isPresent()) {
            binder
                .bind(seed, table.get(), rows(seed, table.get()), bound.size(), true)
                .ifPresent(bound::add);
          }
        }
      } catch (ProjectException e) {
        problems.addAll(e.problems());
      }
    }
    return bound;
  }

  private SeedRows rows(Seed seed, Table table) {
    return seed.form() == Seed.Form.SAMPLE ? samples.rows(seed, table) : read(seed);
  }

  private SeedRows read(Seed seed) {
    long size = SeedFiles.size(project.root(), seed);
    long[] read = {0};
    return SeedFiles.rows(
        project.root(),
        seed,
        bytes -> {
          read[0] = Math.min(size, read[0] + bytes);
          listener.reading(seed.label(), read[0], size);
        });
  }

  @Override
  public List<String> writeSamples(SampleOrder order, boolean overwrite) {
    List<Seed> seeds = selection().of(new SeedOptions(true, 0, order));
    List<Problem> problems = new ArrayList<>();
    SeedBinder binder = new SeedBinder(schema, staging, environment.name(), problems);
    Map<Seed, Table> tables = new LinkedHashMap<>();
    for (Seed seed : seeds) {
      if (!overwrite && SeedFiles.size(project.root(), seed) > 0) {
        throw RefusedException.of(
            seed.file() + " is there already", seed.file(), Advice.of(Advice.Code.ADD_YES));
      }
      binder.table(seed).ifPresent(table -> tables.put(seed, table));
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    SampleSource source = samples(Optional.of(order));
    tables.forEach(source::write);
    return seeds.stream().map(Seed::file).toList();
  }

  @Override
  public SeedRunResult plan(SeedOptions options) throws SQLException {
    samples = samples(options.sample());
    List<Seed> seeds = selection().of(options);
    List<String> others = new ArrayList<>();
    List<Seed> meant = options.fitting() ? fitting(seeds, true, others) : seeds;
    return plan(meant, options.shown(), others);
  }

  private SeedRunResult plan(List<Seed> seeds, int shown, List<String> leftOut)
      throws SQLException {
    long start = System.nanoTime();
    List<Problem> problems = new ArrayList<>();
    SeedOrder order = SeedOrder.of(bind(seeds, problems));
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    staging.open();
    order.seeds().stream()
        .filter(seed -> seed.seed().isSample())
        .forEach(seed -> sampled.add(seed.table().name()));
    for (BoundSeed seed : order.seeds()) {
      if (seed.rows() instanceof SampleRows && !problems.isEmpty()) {
        // Its keys may be those of rows that were refused.
        continue;
      }
      try {
        if (seed.rows() instanceof SampleRows made) {
          samples.giveKeys(made, seed, changing);
        }
        take(seed);
      } catch (ProjectException e) {
        problems.addAll(e.problems());
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    StagedSeeds staged = new StagedSeeds(session, staging, changing);
    ReferenceCheck references = new ReferenceCheck(session, staging, schema, changing);
    for (BoundSeed seed : changing) {
      staged.resolve(seed);
      if (environment.settings().foreignKeys()) {
        references.refuseDangling(seed);
      }
    }
    UniqueMoves moves = new UniqueMoves(session, staging);
    for (BoundSeed seed : changing) {
      boolean isNew = fresh.containsKey(seed.seed());
      moves.refuseClashes(seed, isNew);
      if (!isNew) {
        moves.makeRoom(seed);
      }
      if (seed.seed().delete()) {
        references.refuseBereaving(seed);
        if (references.arePointedTo(seed)) {
          moves.leaveRoom(seed);
        }
      }
      results.put(seed.seed(), compared(seed, shown));
    }
    for (SeedScript script : scripts) {
      results.put(script.seed(), planned(script));
    }
    return new SeedRunResult(environment.name(), false, inOrder(seeds), leftOut, since(start));
  }

  private List<SeedResult> inOrder(List<Seed> seeds) {
    return seeds.stream().map(seed -> results.get(seed)).toList();
  }

  /** Whether rows are made up for the same table, which must keep clear of these. */
  private boolean hasSample(BoundSeed seed) {
    return sampled.contains(seed.table().name()) && !seed.seed().isSample();
  }

  /** Takes the rows in, unless they are found to be those of the table. */
  private void take(BoundSeed seed) throws SQLException {
    boolean empty = new TableQueries(session).isEmpty(seed.table().name());
    CheckedRows rows = new CheckedRows(seed, staging, schema, listener);
    Optional<SeedCounts> same =
        empty || hasSample(seed)
            ? Optional.empty()
            : new UnchangedCheck(staging, seed).counts(rows);
    if (same.isPresent()) {
      results.put(seed.seed(), result(seed, same.get(), List.of()));
      return;
    }
    staging.make(seed.stage());
    staging.load(seed.stage(), new MarkedRows(seed.stage(), rows));
    if (rows.count() == 0 && seed.seed().delete()) {
      throw emptied(seed);
    }
    changing.add(seed);
    if (empty && seed.isKeyUnique()) {
      // The table itself finds a key that occurs twice, and all rows are new.
      fresh.put(seed.seed(), rows.count());
      return;
    }
    staging.index(seed.stage());
    new StagedSeeds(session, staging, List.of()).refuseDoubleKeys(seed);
  }

  private SeedResult compared(BoundSeed seed, int shown) throws SQLException {
    RowComparison comparison = new RowComparison(session, staging, seed);
    Long all = fresh.get(seed.seed());
    SeedCounts counts = all == null ? comparison.counts() : new SeedCounts(all, 0, 0, 0);
    List<RowChange> changes =
        shown == 0 || counts.isQuiet() ? List.of() : comparison.changes(shown);
    return result(seed, counts, changes);
  }

  private static SeedResult result(BoundSeed seed, SeedCounts counts, List<RowChange> changes) {
    return new SeedResult(
        seed.seed().label(), seed.seed().file(), seed.rows().fingerprint(), counts, 0, changes);
  }

  private SeedResult planned(SeedScript script) {
    boolean done = lastFingerprint(script.seed().label()).equals(script.fingerprint());
    return new SeedResult(
        script.seed().label(),
        script.seed().file(),
        script.fingerprint(),
        new SeedCounts(0, 0, 0, 0),
        done ? 0 : script.statements().size(),
        List.of());
  }

  /** The fingerprint under which a seed was last written here; empty if it never was. */
  private String lastFingerprint(String label) {
    String found = "";
    for (Entry entry : history.entries()) {
      if (entry.event() == Event.SEEDED && entry.subject().name().equals(label)) {
        found = entry.subject().upFingerprint();
      }
    }
    return found;
  }

  @Override
  public SeedRunResult write(SeedRunResult planned, Journal journal) throws SQLException {
    long start = System.nanoTime();
    if (!planned.isQuiet()) {
      List<BoundSeed> rows = changing.stream().filter(seed -> !quiet(seed.seed())).toList();
      List<SeedScript> running = scripts.stream().filter(one -> !quiet(one.seed())).toList();
      ReferenceCheck references = new ReferenceCheck(session, staging, schema, rows);
      new SeedExecution(
              environment, session, staging, SeedOrder.of(rows), running, references, listener)
          .write(results, planned.results(), journal);
    }
    long elapsed = planned.elapsedMs() + since(start);
    return new SeedRunResult(
        environment.name(), true, planned.results(), planned.leftOut(), elapsed);
  }

  /**
   * Writes all reference data by statements that are right whatever stands in the tables, so that a
   * record of them can be run elsewhere: what the file says of a row is in them, and what differs
   * is for the database to find.
   *
   * @return the labels of the seeds
   * @throws ProjectException with what is wrong with the files
   */
  public List<String> writeWhateverStands(Journal journal) throws SQLException {
    List<Problem> problems = new ArrayList<>();
    List<Seed> seeds =
        selection().of(SeedOptions.ALL).stream()
            .filter(seed -> seed.form() != Seed.Form.SAMPLE)
            .toList();
    SeedOrder order = SeedOrder.of(bind(seeds, problems));
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    staging.open();
    for (BoundSeed seed : order.seeds()) {
      CheckedRows rows = new CheckedRows(seed, staging, schema, listener);
      staging.make(seed.stage());
      List<String> insertions =
          new StageInsertions(staging, seed.stage()).of(new MarkedRows(seed.stage(), rows));
      for (String insertion : insertions) {
        session.change(insertion);
      }
      if (insertions.isEmpty() && seed.seed().delete()) {
        throw emptied(seed);
      }
      changing.add(seed);
      staging.index(seed.stage());
      new StagedSeeds(session, staging, List.of()).refuseDoubleKeys(seed);
      long deleted = seed.seed().delete() ? 1 : 0;
      results.put(seed.seed(), result(seed, new SeedCounts(1, 1, deleted, 0), List.of()));
    }
    StagedSeeds staged = new StagedSeeds(session, staging, changing);
    for (BoundSeed seed : changing) {
      staged.resolve(seed);
    }
    for (SeedScript script : scripts) {
      results.put(script.seed(), planned(script));
    }
    List<SeedScript> running = scripts.stream().filter(one -> !quiet(one.seed())).toList();
    ReferenceCheck references = new ReferenceCheck(session, staging, schema, changing);
    new SeedExecution(environment, session, staging, order, running, references, listener)
        .whateverStands()
        .write(results, inOrder(seeds), journal);
    return seeds.stream().map(Seed::label).toList();
  }

  private static RefusedException emptied(BoundSeed seed) {
    return RefusedException.of(
        "the file has no row, and extra: delete would empty " + seed.table().name(),
        seed.seed().file(),
        "see that it is the right file, or write extra: keep");
  }

  private static long since(long start) {
    return (System.nanoTime() - start) / 1_000_000;
  }

  private boolean quiet(Seed seed) {
    return results.get(seed).isQuiet();
  }
}
