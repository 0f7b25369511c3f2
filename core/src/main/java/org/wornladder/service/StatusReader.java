package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.Status;
import org.wornladder.Status.Line;
import org.wornladder.Status.State;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.execution.FoldedHistory;
import org.wornladder.execution.ScriptPreparation;
import org.wornladder.journal.Entry;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;
import org.wornladder.project.StandingScript;

/** Compares the files with the journal. */
public final class StatusReader {
  private final Project project;
  private final Environment environment;
  private final Engine engine;
  private final History history;
  private final List<Rung> folds;
  private final long highest;

  /** Whether somebody changes the database while it is read. */
  private boolean isRunning;

  public StatusReader(Project project, Environment environment, Engine engine, History history) {
    this.project = project;
    this.environment = environment;
    this.engine = engine;
    FoldedHistory folded = FoldedHistory.of(project, history);
    this.history = folded.history();
    folds = folded.standing();
    highest = history.highest();
  }

  public Status read(Session session) throws SQLException {
    Optional<String> holder = session.isThere() ? session.lockHolder() : Optional.empty();
    isRunning = holder.isPresent();
    List<Line> lines = new ArrayList<>(project.rungs().size());
    for (Rung rung : project.rungs()) {
      lines.add(line(rung, history.rung(rung.number())));
    }
    boolean absent = false;
    for (RungRecord record : history.rungs().values()) {
      if (project.rung(record.number()).isEmpty() && needsLine(record)) {
        lines.add(absent(record));
        absent = true;
      }
    }
    if (absent) {
      lines.sort((a, b) -> Long.compare(a.number(), b.number()));
    }
    return new Status(
        project.name(),
        environment.name(),
        engine.name(),
        session.address(),
        environment.settings().guarded(),
        session.isThere(),
        lines,
        standing(),
        highest,
        holder.map(this::running));
  }

  /** Who changes the database, with the statement that was begun last, where that is recorded. */
  private String running(String holder) {
    for (RungRecord record : history.stuck()) {
      if (record.progress().doubtful() > 0) {
        Entry last = record.last();
        return "%s; %s is at statement %d since %s UTC, by %s@%s"
            .formatted(
                holder,
                project.label(record.number()),
                record.progress().doubtful(),
                last.at().substring(11, 19),
                last.who().osUser(),
                last.who().host());
      }
    }
    return holder;
  }

  private static boolean needsLine(RungRecord record) {
    return record.isInPlace() || record.state() == RungRecord.State.STUCK;
  }

  private Line line(Rung rung, Optional<RungRecord> record) {
    boolean oneWay = !rung.script().hasWayDown(engine.name());
    State state = record.isPresent() ? state(rung, record.get()) : waiting(rung);
    boolean ran = record.isPresent() && state != State.WAITING && state != State.LATE;
    return new Line(
        rung.number(),
        rung.label(),
        rung.about(),
        state,
        folds.contains(rung) && state == State.IN_PLACE
            ? "stands for "
                + rung.script().header().folds().orElseThrow().words()
                + ", which ran here"
            : detail(state, record),
        ran ? Optional.of(record.get().last().at()) : Optional.empty(),
        ran ? record.get().run().note().elapsedMs() : 0,
        oneWay,
        state == State.STUCK ? record.map(this::wayOut) : Optional.empty());
  }

  /** What works on a stuck rung. */
  private Advice wayOut(RungRecord record) {
    RungRecord.Progress progress = record.progress();
    String name = environment.name();
    boolean hasFile = project.rung(record.number()).isPresent();
    if (!progress.up()) {
      return Advice.of(Advice.Code.ROLL_BACK_GOES_ON, name);
    }
    return Advice.of(
        hasFile ? Advice.Code.APPLY_GOES_ON : Advice.Code.RESTORE_FILE_OR_TAKE_DOWN, name);
  }

  private State waiting(Rung rung) {
    return rung.number() < history.highestThatRan() ? State.LATE : State.WAITING;
  }

  private State state(Rung rung, RungRecord record) {
    return switch (record.state()) {
      case STUCK -> isRunning ? State.RUNNING : State.STUCK;
      case FAILED -> State.FAILED;
      case ROLLED_BACK -> waiting(rung);
      case IN_PLACE, PASSED_OVER ->
          !record.up().isSame(rung.script())
              ? State.WORN
              : record.state() == RungRecord.State.IN_PLACE ? State.IN_PLACE : State.PASSED_OVER;
    };
  }

  private static String detail(State state, Optional<RungRecord> record) {
    return switch (state) {
      case WORN -> "edited since";
      case LATE -> "a higher number already ran";
      case FAILED -> "at the last attempt; nothing of it is left";
      case PASSED_OVER -> record.map(known -> known.last().note().text()).orElse("");
      case STUCK -> record.map(StatusReader::progress).orElse("");
      case RUNNING -> record.map(StatusReader::work).orElse("");
      case WAITING ->
          record.map(known -> "rolled back " + known.last().at().substring(0, 10)).orElse("");
      default -> "";
    };
  }

  private static String way(RungRecord record) {
    return record.progress().up() ? "on its way up" : "on its way down";
  }

  /** The statement that the database is at work on, or comes to next. */
  private static String work(RungRecord record) {
    RungRecord.Progress progress = record.progress();
    int statement = progress.doubtful() > 0 ? progress.doubtful() : progress.reached() + 1;
    return way(record) + ", the database is at statement " + statement;
  }

  private static String progress(RungRecord record) {
    RungRecord.Progress progress = record.progress();
    String way = way(record);
    return progress.doubtful() > 0
        ? way + ", statement " + progress.doubtful() + " in doubt"
        : progress.done().isEmpty()
            ? way + ", no statement of it is done"
            : way + " after statement " + progress.reached();
  }

  private Line absent(RungRecord record) {
    boolean stuck = record.state() == RungRecord.State.STUCK;
    return new Line(
        record.number(),
        project.label(record.number()),
        record.run().subject().name(),
        !stuck ? State.ABSENT : isRunning ? State.RUNNING : State.STUCK,
        !stuck ? "in place, no file here" : isRunning ? work(record) : progress(record),
        Optional.of(record.last().at()),
        record.run().note().elapsedMs(),
        false,
        stuck && !isRunning ? Optional.of(wayOut(record)) : Optional.empty());
  }

  private List<Status.Standing> standing() {
    ScriptPreparation preparation = new ScriptPreparation(engine, environment);
    List<Status.Standing> standing = new ArrayList<>();
    Map<String, Entry> recorded = new LinkedHashMap<>(history.standing());
    for (StandingScript script : project.standing()) {
      List<String> onlyIn = script.script().header().onlyIn();
      if (onlyIn.isEmpty() || onlyIn.contains(environment.name())) {
        Optional<Entry> last = Optional.ofNullable(recorded.remove(script.name()));
        String state =
            last.map(
                    entry -> standingState(entry, preparation.standingFingerprint(script.script())))
                .orElse("new");
        standing.add(new Status.Standing(script.name(), script.about(), state));
      }
    }
    for (String gone : recorded.keySet()) {
      standing.add(new Status.Standing(gone, gone, "gone"));
    }
    return standing;
  }

  private static String standingState(Entry last, String fingerprint) {
    if (last.event() == Event.STANDING_STARTED) {
      return "stopped half way";
    }
    return last.subject().upFingerprint().equals(fingerprint) ? "in place" : "changed";
  }
}
