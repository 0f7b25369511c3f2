package org.wornladder.service;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.LadderException;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearseOptions;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Callers;
import org.wornladder.project.Environment;
import org.wornladder.project.Rung;
import org.wornladder.project.Seed;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.scratch.RowSample;
import org.wornladder.scratch.RowSampler;
import org.wornladder.scratch.RungRehearsal;
import org.wornladder.scratch.ScratchCopy;
import org.wornladder.scratch.ScratchLadder;
import org.wornladder.scratch.ScratchRunner;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** Proves waiting rungs in a scratch database: up, down, and up again. */
public record RehearseService(ProjectContext project) {
  /** How many rows of each chosen table are copied by default. */
  private static final long ROWS_COPIED = 100;

  /** What a rehearsal begins with. */
  private record Start(
      String words,
      Snapshot structure,
      List<Entry> entries,
      List<Long> inPlace,
      Optional<ExpectedFile> file,
      Optional<RowSample> rows) {}

  /** Runs the waiting rungs in a scratch database like an environment; the latter is only read. */
  public RehearsalReport rehearse(Optional<String> environment, RehearseOptions options) {
    Environment like = project.environments().read(environment);
    checkCopying(like, options);
    Start start =
        options.fromBlank()
            ? new Start(
                "nothing", Snapshot.EMPTY, List.of(), List.of(), Optional.empty(), Optional.empty())
            : options.expected().isPresent()
                ? start(options.expected().get())
                : project.in(like, Access.READ, context -> start(context, options));
    List<Rung> waiting = waiting(start.inPlace());
    RehearsalReport report =
        new ScratchRunner(project).in(like, scratch -> rehearse(scratch, start, waiting, options));
    keep(like, waiting, report);
    return sized(like, start, report);
  }

  /** For a preview of the same rungs. */
  private void keep(Environment like, List<Rung> waiting, RehearsalReport report) {
    for (int i = 0; i < report.rungs().size(); i++) {
      OfRung rung = report.rungs().get(i);
      if (rung.up().isPresent()) {
        new ScratchRunner(project).keep(like, waiting.get(i).number(), rung.statements());
      }
    }
  }

  /** With what the tables are there that statements read or write whole. */
  private RehearsalReport sized(Environment like, Start start, RehearsalReport report) {
    Set<String> names = TableSizes.names(report.rungs());
    boolean isOfIt = start.file().isEmpty() && !start.inPlace().isEmpty();
    return names.isEmpty() || !isOfIt
        ? report
        : report.with(
            project
                .in(like, Access.READ, context -> TableSizes.of(context, names))
                .in(report.rungs()));
  }

  private static Start start(Path path) {
    ExpectedFile file;
    try {
      file = ExpectedFile.read(path.toString(), Files.readString(path));
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(path.toString()),
          "the file cannot be read: " + e.getMessage(),
          "see that it is there and may be read");
    }
    return new Start(
        "what " + file.environment() + " should have, as its file says",
        file.structure(),
        List.of(),
        file.rungs().stream().map(EntrySubject::rung).toList(),
        Optional.of(file),
        Optional.empty());
  }

  private static List<Long> numbers(History history) {
    return history.inPlaceNewestFirst().stream().map(RungRecord::number).toList();
  }

  private static Start start(EnvironmentContext context, RehearseOptions options)
      throws SQLException {
    History history = context.journal().read(Depth.WHOLE);
    ExpectedState state = ExpectedState.of(context, history);
    Optional<RowSample> rows = copied(context, options);
    String what = options.live() ? "what is in %s" : "what %s should have";
    return new Start(
        what.formatted(context.environment().name())
            + rows.map(sample -> ", with " + sample.words()).orElse(""),
        options.live() ? state.live() : state.expected(),
        context.journal().everything(),
        numbers(history),
        Optional.empty(),
        rows);
  }

  /** The environment's own rows, where some are wanted. */
  private static Optional<RowSample> copied(EnvironmentContext context, RehearseOptions options)
      throws SQLException {
    return options.copy().isEmpty()
        ? Optional.empty()
        : Optional.of(
            new RowSampler(context, context.structure())
                .read(options.copy(), options.rows().orElse(ROWS_COPIED)));
  }

  private static void checkCopying(Environment like, RehearseOptions options) {
    if (options.copy().isEmpty()) {
      return;
    }
    if (options.fromBlank() || options.expected().isPresent()) {
      throw RefusedException.of(
          "rows are copied from an environment, and this rehearsal does not begin with one",
          "environment " + like.name(),
          "begin with the environment itself, or copy no rows");
    }
    if (like.settings().guarded() && !like.settings().rowsCopied()) {
      throw RefusedException.of(
          like.name() + " is guarded: its rows are not copied",
          "environment " + like.name(),
          "where they may leave it, write copy-rows: allow below "
              + like.name()
              + " in ladder.yaml");
    }
  }

  private List<Rung> waiting(List<Long> numbers) {
    return project.project().rungs().stream()
        .filter(rung -> !numbers.contains(rung.number()))
        .toList();
  }

  private RehearsalReport rehearse(
      EnvironmentContext scratch, Start start, List<Rung> waiting, RehearseOptions options)
      throws SQLException {
    IgnoreFilter ignored = new IgnoreFilter(project.project().settings().ignore());
    List<String> notes = new ArrayList<>();
    if (options.fromBlank()) {
      new ScratchRunner(project).createMissingSchemas(scratch);
      scratch.journal().restore(List.of());
    } else {
      notes.addAll(make(scratch, start));
    }
    if (start.file().isPresent()) {
      record(scratch, start.file().get());
    }
    ScratchLadder ladder = new ScratchRunner(project).ladder(scratch);
    if (start.rows().isEmpty()) {
      fill(scratch, options, notes);
    }
    // A program that works on what is there is no program of a blank database.
    List<Statement> callers =
        options.fromBlank()
            ? List.of()
            : Callers.read(project.project(), scratch.engine().dialect());
    RungRehearsal rehearsal =
        new RungRehearsal(
            scratch, ladder, ignored, callers, options.runCallers(), options.bothWays());
    List<OfRung> rungs = new ArrayList<>();
    for (Rung rung : waiting) {
      OfRung proof = rehearsal.rehearse(rung);
      rungs.add(proof);
      if (!proof.isInPlace()) {
        break;
      }
    }
    boolean whole = rungs.size() == waiting.size() && rungs.stream().allMatch(OfRung::isInPlace);
    List<String> faults = whole ? standing(scratch, ladder, options.fromBlank(), notes) : List.of();
    return new RehearsalReport(
        scratch.environment().name(),
        start.words(),
        rungs,
        waiting.subList(rungs.size(), waiting.size()).stream()
            .map(rung -> new RehearsalReport.Untried(rung.label(), rung.about(), rung.file()))
            .toList(),
        notes,
        faults,
        callers.size(),
        rehearsal.neverWorking());
  }

  /** Makes the scratch database like what it begins with; returns what could not be made. */
  private List<String> make(EnvironmentContext scratch, Start start) throws SQLException {
    ScratchCopy copy = new ScratchCopy(project, scratch);
    Snapshot structure = start.structure().withoutRights();
    return start.rows().isPresent()
        ? copy.make(structure, start.entries(), start.rows().get())
        : copy.make(structure, start.entries(), true) ? List.of() : List.of(ScratchCopy.NOT_ALL);
  }

  /** Has the scratch database's journal say that what the file names is in place. */
  private static void record(EnvironmentContext scratch, ExpectedFile file) throws SQLException {
    scratch.journal().read(Depth.WHOLE);
    scratch.session().begin();
    for (EntrySubject rung : file.rungs()) {
      scratch.journal().append(Event.ADOPTED, rung, EntryDetails.NONE);
    }
    for (EntrySubject script : file.standing()) {
      scratch.journal().append(Event.STANDING_RUN, script, EntryDetails.NONE);
    }
    scratch.session().commit();
  }

  /** Reference data, and made-up rows where they are wanted. */
  private void fill(EnvironmentContext scratch, RehearseOptions options, List<String> notes)
      throws SQLException {
    try {
      if (!reference(scratch).isEmpty()) {
        seed(scratch, new SeedOptions(reference(scratch), false, 0, true, Optional.empty()));
      }
      List<String> tables =
          scratch.structure().snapshot().objects().stream()
              .filter(Table.class::isInstance)
              .map(DatabaseObject::name)
              .toList();
      if (options.rows().isPresent() && !tables.isEmpty()) {
        seed(
            scratch,
            new SeedOptions(false, 0, new SeedOptions.SampleOrder(tables, options.rows())));
      }
    } catch (LadderException e) {
      notes.add("rows could not be made: " + e.what());
    }
  }

  /** The tables whose rows stand in files: made-up ones may need rows that rungs once added. */
  private List<String> reference(EnvironmentContext scratch) {
    return project.project().settings().seeds().stream()
        .filter(seed -> seed.isFor(scratch.environment().name()) && !seed.isSample())
        .map(Seed::label)
        .toList();
  }

  /** In a session of its own, with which its temporary tables end. */
  private void seed(EnvironmentContext scratch, SeedOptions options) {
    project.in(
        scratch.environment(),
        Access.WRITE,
        session ->
            new SeedService(project)
                .seedLocked(session, options, (planned, where) -> {}, SeedListener.SILENT));
  }

  /** Standing scripts and reference data behind the rungs. */
  private List<String> standing(
      EnvironmentContext scratch, ScratchLadder ladder, boolean fromBlank, List<String> notes)
      throws SQLException {
    List<String> faults = new ArrayList<>();
    try {
      ladder.run(ladder.rest());
    } catch (LadderException e) {
      faults.add("standing scripts: " + e.what());
    }
    try {
      if (fromBlank && !project.project().settings().seeds().isEmpty()) {
        seed(scratch, SeedOptions.ALL);
      } else if (!reference(scratch).isEmpty()) {
        seed(scratch, new SeedOptions(reference(scratch), false, 0));
      }
    } catch (LadderException e) {
      // Without the rows that rungs once added, it is not known whether the data fits.
      (fromBlank ? faults : notes).add("reference data: " + e.what());
    }
    return faults;
  }
}
