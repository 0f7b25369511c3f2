package org.wornladder.service;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.RenumberResult;
import org.wornladder.RunListener;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.RuntimeSettings;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;

/**
 * Moves a rung to the end of the ladder, for the day two branches took one number. The journals
 * come first and the file last: if it stops between, another attempt goes on.
 */
public final class RenumberService {
  private final ProjectContext rest;
  private final Rung rung;
  private final boolean shared;

  /**
   * @param rest the project without the rung that is moved
   */
  private RenumberService(ProjectContext rest, Rung rung, boolean shared) {
    this.rest = rest;
    this.rung = rung;
    this.shared = shared;
  }

  /**
   * Prepares the move of one rung.
   *
   * @param named its number, or its file where two have one number
   * @throws RefusedException if none or two are meant
   */
  public static RenumberService of(Path root, RuntimeSettings settings, String named) {
    List<Rung> all =
        ProjectReader.examine(root, Engines::isOther)
            .project()
            .map(Project::rungs)
            .orElseGet(List::of);
    List<Rung> meant =
        all.stream()
            .filter(rung -> rung.file().equals(named) || isNumber(named, rung.number()))
            .toList();
    if (meant.size() != 1) {
      throw RefusedException.of(
          meant.isEmpty() ? "there is no rung " + named : "two files have the number " + named,
          "rungs/",
          meant.isEmpty()
              ? Advice.of(Advice.Code.CHECK_FILES)
              : Advice.of(Advice.Code.NAME_FILE_TO_RENUMBER, meant.get(1).file()));
    }
    Rung rung = meant.get(0);
    boolean shared = all.stream().filter(other -> other.number() == rung.number()).count() > 1;
    Project rest = ProjectReader.readWithout(root, rung.file(), Engines::isOther);
    return new RenumberService(new ProjectContext(rest, settings), rung, shared);
  }

  private static boolean isNumber(String text, long number) {
    return text.matches("\\d{1,18}") && Long.parseLong(text) == number;
  }

  /**
   * Asks every environment, then moves the rung.
   *
   * @param confirmed environments that cannot be reached and of which a person says that they do
   *     not have the rung
   * @param approval asked with the environments in whose journals the rung gets its new number; not
   *     asked if there are none
   * @throws RefusedException if a guarded one has it, or one cannot be asked and is not confirmed
   */
  public RenumberResult move(
      Set<String> confirmed, Consumer<List<String>> approval, RunListener listener) {
    List<String> having = new ArrayList<>();
    List<Refusal> refusals = new ArrayList<>();
    long last = rest.project().rungs().stream().mapToLong(Rung::number).max().orElse(0);
    for (String environment : rest.project().settings().environmentNames()) {
      try {
        History history = new StatusService(rest).history(Optional.of(environment)).history();
        last = Math.max(last, history.highest());
        Optional<Refusal> refusal = refusal(environment, history);
        refusal.ifPresent(refusals::add);
        if (refusal.isEmpty() && isHere(history)) {
          having.add(environment);
        }
      } catch (LadderException e) {
        if (!confirmed.contains(environment)) {
          refusals.add(unreachable(environment, e));
        }
      }
    }
    if (!refusals.isEmpty()) {
      throw new RefusedException(refusals);
    }
    if (!having.isEmpty()) {
      approval.accept(having);
    }
    long number = Math.max(last, rung.number()) + 1;
    having.forEach(name -> new SettleService(rest).renumber(name, rung.number(), number, listener));
    String file = ProjectWriter.renumber(rest.project(), rung, number);
    return new RenumberResult(rung.file(), file, having);
  }

  /** Whether it is this file's text that ran there, and not that of another with its number. */
  private boolean isHere(History history) {
    return history
        .rung(rung.number())
        .filter(RungRecord::isInPlace)
        .filter(record -> !shared || record.up().isSame(rung.script()))
        .isPresent();
  }

  private Optional<Refusal> refusal(String environment, History history) {
    boolean guarded = rest.project().settings().environments().get(environment).guarded();
    boolean stuck =
        history
            .rung(rung.number())
            .filter(record -> record.state() == RungRecord.State.STUCK)
            .isPresent();
    if (stuck) {
      return Optional.of(
          new Refusal(
              rung.label() + " is stuck on " + environment,
              "environment " + environment,
              Advice.of(Advice.Code.APPLY_FIRST, environment)));
    }
    return guarded && isHere(history)
        ? Optional.of(
            new Refusal(
                rung.label() + " is in place on " + environment + ", which is guarded",
                "environment " + environment,
                "leave it its number, and move the other one"))
        : Optional.empty();
  }

  private Refusal unreachable(String environment, LadderException e) {
    return new Refusal(
        environment + " cannot be asked whether it has " + rung.label() + ": " + e.what(),
        "environment " + environment,
        Advice.of(Advice.Code.REACH_OR_CONFIRM, environment));
  }
}
