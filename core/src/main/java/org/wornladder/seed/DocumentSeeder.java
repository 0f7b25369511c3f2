package org.wornladder.seed;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
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
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.Documents;
import org.wornladder.engine.Documents.Into;
import org.wornladder.engine.Documents.Outcome;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.Journal;
import org.wornladder.project.DocumentSource;
import org.wornladder.project.Problem;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.project.SampleReader;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedDocuments;
import org.wornladder.project.SeedFiles;
import org.wornladder.schema.Schema;
import org.wornladder.seed.SampleMaking.SampleUnique;

/**
 * Brings seeds into collections. Everything is read and compared before anything is written; each
 * document is written by itself, and what an interrupted run did not write the next one does.
 */
final class DocumentSeeder implements SeedWork {
  private static final int AT_ONCE = 1000;
  private static final List<String> OWN_KEY = List.of("_id");
  private static final int MOST_PROBLEMS = 20;

  private final Seeder.Ground ground;
  private final Documents batches;
  private final SeedListener listener;

  /** The seeds of the last plan, in the order of its results. */
  private final List<Seed> planned = new ArrayList<>();

  private Optional<SampleOrder> sample = Optional.empty();

  DocumentSeeder(Seeder.Ground ground, Documents batches, SeedListener listener) {
    this.ground = ground;
    this.batches = batches;
    this.listener = listener;
  }

  private List<Seed> seeds(SeedOptions options) {
    return new SeedSelection(ground.project().settings().seeds(), ground.environment()).of(options);
  }

  @Override
  public List<Problem> misfits() {
    List<Problem> problems = new ArrayList<>();
    for (Seed seed : seeds(SeedOptions.ALL)) {
      unfit(seed).ifPresent(problems::add);
    }
    return problems;
  }

  /** Why a seed does not fit what stands. */
  private Optional<Problem> unfit(Seed seed) {
    Schema schema = ground.schema();
    if (schema.table(seed.table()).isPresent()) {
      return Optional.empty();
    }
    return Optional.of(
        new Problem(
            Problem.Severity.ERROR,
            seed.place(),
            "there is no collection " + seed.table() + " on " + ground.environment().name(),
            "make it in a rung: {\"create\": \"" + seed.table() + "\"}"));
  }

  @Override
  public SeedDrift drift(boolean rungsWait) throws SQLException {
    List<SeedResult> differing = new ArrayList<>();
    List<Refusal> findings = new ArrayList<>();
    List<String> waiting = new ArrayList<>();
    List<Seed> seeds = seeds(SeedOptions.ALL).stream().filter(seed -> !seed.isSample()).toList();
    for (Seed seed : seeds) {
      try {
        if (rungsWait && unfit(seed).isPresent()) {
          waiting.add(seed.label());
        } else {
          SeedResult result = work(seed, 0, false).run();
          if (!result.isQuiet()) {
            differing.add(result);
          }
        }
      } catch (ProjectException e) {
        for (Problem problem : e.problems()) {
          findings.add(
              new Refusal(problem.message(), problem.place().toString(), problem.advice()));
        }
      } catch (RefusedException e) {
        findings.addAll(e.refusals());
      }
    }
    return new SeedDrift(seeds.size(), differing, findings, waiting);
  }

  @Override
  public SeedRunResult plan(SeedOptions options) throws SQLException {
    long start = System.nanoTime();
    sample = options.sample();
    planned.clear();
    List<SeedResult> results = new ArrayList<>();
    List<String> leftOut = new ArrayList<>();
    List<Problem> problems = new ArrayList<>();
    for (Seed seed : seeds(options)) {
      Optional<Problem> unfit = unfit(seed);
      if (unfit.isPresent() && options.fitting()) {
        leftOut.add(seed.label());
      } else if (unfit.isPresent()) {
        problems.add(unfit.get());
      } else {
        try {
          results.add(work(seed, options.shown(), false).run());
          planned.add(seed);
        } catch (ProjectException e) {
          problems.addAll(e.problems());
        }
      }
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
    return new SeedRunResult(ground.environment().name(), false, results, leftOut, since(start));
  }

  @Override
  public SeedRunResult write(SeedRunResult plan, Journal journal) throws SQLException {
    long start = System.nanoTime();
    for (int i = 0; i < planned.size(); i++) {
      SeedResult result = plan.results().get(i);
      if (!result.isQuiet()) {
        long begin = System.nanoTime();
        listener.writing(result.label());
        SeedResult written = work(planned.get(i), 0, true).run();
        journal.append(
            Event.SEEDED,
            EntrySubject.standing(written.label(), written.fingerprint(), "", ""),
            new EntryDetails(0, since(begin), written.counts().text()));
      }
    }
    return new SeedRunResult(
        ground.environment().name(),
        true,
        plan.results(),
        plan.leftOut(),
        plan.elapsedMs() + since(start));
  }

  @Override
  public List<String> writeSamples(SampleOrder order, boolean overwrite) {
    throw RefusedException.of(
        "a collection does not say what its documents hold, so nothing is guessed",
        "environment " + ground.environment().name(),
        "write the sample file with a maker for each field");
  }

  private Work work(Seed seed, int shown, boolean writes) throws SQLException {
    return new Work(seed, source(seed), shown, writes);
  }

  private DocumentSource source(Seed seed) throws SQLException {
    Path root = ground.project().root();
    long size = SeedFiles.size(root, seed);
    if (seed.isSample()) {
      return made(seed, size);
    }
    long[] read = {0};
    return SeedDocuments.of(
        root,
        seed,
        bytes -> {
          read[0] = Math.min(size, read[0] + bytes);
          listener.reading(seed.label(), read[0], size);
        });
  }

  private SampleDocuments made(Seed seed, long size) throws SQLException {
    if (size == 0) {
      throw ProjectException.of(
          seed.place(),
          "there is no " + seed.file() + ", and a collection does not say what its documents hold",
          "write that file with a maker for each field");
    }
    Sample written = SampleReader.read(ground.project().root(), seed);
    OptionalLong wanted = sample.map(SampleOrder::rows).orElse(OptionalLong.empty());
    Sample sized = wanted.isPresent() ? written.withRows(wanted.getAsLong()) : written;
    SampleRows rows = new SampleRows(sized, seed.table(), listener);
    List<String> key = key(seed);
    if (rows.columns().containsAll(key)) {
      rows.giveUnique(List.of(new SampleUnique(key, Set.of())));
    }
    for (Maker.From from : rows.sources()) {
      rows.give(from, batches.values(from.table(), from.column()));
    }
    return new SampleDocuments(sized, rows);
  }

  private static List<String> key(Seed seed) {
    return seed.key().isEmpty() ? OWN_KEY : seed.key();
  }

  private static long since(long start) {
    return (System.nanoTime() - start) / 1_000_000;
  }

  /** One seed, gone through once. */
  private final class Work {
    private final Seed seed;
    private final int shown;
    private final boolean writes;
    private final Into into;
    private final DocumentSource documents;
    private final Map<String, Integer> lines = new HashMap<>();
    private final List<Problem> problems = new ArrayList<>();
    private final List<RowChange> changes = new ArrayList<>();
    private final List<Documents.Parsed> waiting = new ArrayList<>();
    private final Map<Documents.Fate, Long> counts = new HashMap<>();
    private boolean empty;

    Work(Seed seed, DocumentSource documents, int shown, boolean writes) {
      this.seed = seed;
      this.documents = documents;
      this.shown = shown;
      this.writes = writes;
      into = new Into(seed.table(), key(seed), seed.update());
    }

    SeedResult run() throws SQLException {
      empty = batches.isEmpty(seed.table());
      documents.<SQLException>each(this::take);
      flush();
      if (!problems.isEmpty()) {
        throw new ProjectException(problems);
      }
      List<String> others = seed.delete() ? others() : List.of();
      for (String key : others.subList(0, Math.max(0, Math.min(others.size(), left())))) {
        changes.add(new RowChange(RowChange.Kind.DELETED, 0, key, List.of()));
      }
      SeedCounts all =
          new SeedCounts(
              count(Documents.Fate.ADDED),
              count(Documents.Fate.UPDATED),
              others.size(),
              count(Documents.Fate.UNCHANGED));
      return new SeedResult(seed.label(), seed.file(), documents.fingerprint(), all, 0, changes);
    }

    private long count(Documents.Fate fate) {
      return counts.getOrDefault(fate, 0L);
    }

    private int left() {
      return shown - changes.size();
    }

    private void take(int line, String json) throws SQLException {
      try {
        Documents.Parsed document = batches.parse(json, into.key());
        Integer before = lines.putIfAbsent(document.key(), line);
        if (before != null) {
          wrong(line, "the document of line " + before + " has the same key", "keep one of them");
          return;
        }
        waiting.add(document);
      } catch (BadValueException e) {
        wrong(line, e.getMessage(), "");
      }
      if (waiting.size() == AT_ONCE) {
        flush();
      }
    }

    private void wrong(int line, String found, String next) {
      if (problems.size() < MOST_PROBLEMS) {
        problems.add(new Problem(Problem.Severity.ERROR, documents.place(line), found, next));
      }
    }

    private void flush() throws SQLException {
      List<Outcome> outcomes =
          waiting.isEmpty() ? List.of() : batches.take(into, waiting, empty, left(), writes);
      for (int i = 0; i < outcomes.size(); i++) {
        Outcome outcome = outcomes.get(i);
        counts.merge(outcome.fate(), 1L, Long::sum);
        if (left() > 0 && outcome.fate() != Documents.Fate.UNCHANGED) {
          changes.add(change(outcome, waiting.get(i).key()));
        }
      }
      waiting.clear();
    }

    private RowChange change(Outcome outcome, String key) {
      return new RowChange(
          RowChange.Kind.valueOf(outcome.fate().name()),
          lines.get(key),
          key,
          outcome.fields().stream()
              .map(field -> new RowChange.Field(field.name(), field.before(), field.after()))
              .toList());
    }

    private List<String> others() throws SQLException {
      if (lines.isEmpty()) {
        throw RefusedException.of(
            "the file has no document, and extra: delete would empty " + seed.table(),
            seed.file(),
            "see that it is the right file, or write extra: keep");
      }
      Set<String> keys = new HashSet<>(lines.keySet());
      return batches.others(into, keys, writes);
    }
  }
}
