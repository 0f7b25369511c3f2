package org.wornladder;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The ladder in one environment, rung by rung.
 *
 * @param address the database as a person would name it
 * @param guarded whether changes there must be confirmed by its name
 * @param isThere whether the database exists
 * @param rungs lowest first
 * @param at the highest number in place; 0 if none is
 * @param running the holder of the database lock and its statement, for people; empty if it is not
 *     held
 */
public record Status(
    String project,
    String environment,
    String engine,
    String address,
    boolean guarded,
    boolean isThere,
    List<Line> rungs,
    List<Standing> standing,
    long at,
    Optional<String> running) {
  /** What a rung is, here and now. */
  public enum State {
    IN_PLACE("in place"),
    PASSED_OVER("passed over"),
    WAITING("waiting"),
    LATE("late"),
    WORN("worn"),
    ABSENT("absent from this checkout"),
    FAILED("failed"),
    STUCK("stuck"),
    /** Half way, and the database is still at work on it. */
    RUNNING("running");

    private final String word;

    State(String word) {
      this.word = word;
    }

    public String label() {
      return word;
    }

    /** Whether the rung would run at the next apply, if nothing stood in its way. */
    public boolean waits() {
      return this == WAITING || this == LATE || this == FAILED || this == STUCK;
    }

    /** Whether a person must do something about it before the next apply. */
    public boolean needsPerson() {
      return this == WORN || this == LATE || this == STUCK;
    }
  }

  /**
   * One rung.
   *
   * @param detail what more there is to say in a few words; may be empty
   * @param at when its state was made, as the journal has it; empty if it never ran
   * @param oneWay whether there is no way down
   * @param next what works where a rung is stuck; empty for any other
   */
  public record Line(
      long number,
      String label,
      String about,
      State state,
      String detail,
      Optional<String> at,
      long elapsedMs,
      boolean oneWay,
      Optional<Advice> next) {}

  /**
   * One standing script.
   *
   * @param state {@code in place}, {@code new}, {@code changed} or {@code gone}
   */
  public record Standing(String name, String about, String state) {}

  public Status {
    rungs = List.copyOf(rungs);
    standing = List.copyOf(standing);
  }

  public long waiting() {
    long waiting = 0;
    for (Line line : rungs) {
      waiting += line.state().waits() ? 1 : 0;
    }
    return waiting;
  }

  public List<Line> needingPerson() {
    List<Line> needing = new ArrayList<>(rungs);
    needing.removeIf(line -> !line.state().needsPerson());
    return needing;
  }
}
