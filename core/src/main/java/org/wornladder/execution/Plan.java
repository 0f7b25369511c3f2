package org.wornladder.execution;

import java.util.List;
import org.wornladder.Advice;
import org.wornladder.attic.Erasure;
import org.wornladder.project.Direction;
import org.wornladder.project.Secrets;

/**
 * What a run will do.
 *
 * @param address the database as a person would name it
 * @param guarded whether changes there must be confirmed by its name
 * @param isThere whether the database exists already
 * @param together whether all steps are one transaction
 * @param notes what is worth knowing before it runs
 * @param secrets what must be masked wherever a statement is shown
 */
public record Plan(
    Direction direction,
    String environment,
    String engine,
    String address,
    boolean guarded,
    boolean isThere,
    List<Step> steps,
    boolean together,
    List<Note> notes,
    Secrets secrets) {
  /** What the ways up erase that are about to run, as their texts say. */
  public List<Erasure> erasures() {
    return direction == Direction.UP
        ? rungs().stream().flatMap(rung -> Erasures.of(rung).stream()).distinct().toList()
        : List.of();
  }

  /** A remark on a plan, and what can be done about it. */
  public record Note(String text, Advice advice) {
    static Note of(String text) {
      return new Note(text, Advice.NONE);
    }
  }

  public Plan {
    steps = List.copyOf(steps);
    notes = List.copyOf(notes);
  }

  public boolean isEmpty() {
    return steps.isEmpty();
  }

  /** The same without standing scripts. */
  public Plan withRungsAlone() {
    return new Plan(
        direction,
        environment,
        engine,
        address,
        guarded,
        isThere,
        List.copyOf(rungs()),
        together,
        notes,
        secrets);
  }

  public List<Step.OfRung> rungs() {
    return steps.stream()
        .filter(Step.OfRung.class::isInstance)
        .map(Step.OfRung.class::cast)
        .toList();
  }
}
