package org.wornladder;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.change.Difference;

/**
 * What a rehearsal proved.
 *
 * @param start what it began with, in words
 * @param rungs in the order in which they ran; none behind the first that is not in place then
 * @param untried the rungs that were not tried, because an earlier one is not in place
 * @param notes what could not be looked at
 * @param standing what is wrong with the standing scripts or seeds behind the rungs; empty if
 *     nothing is
 * @param callers how many statements of the application were tried after each rung
 * @param neverWorking those of them that worked at no time
 */
public record RehearsalReport(
    String environment,
    String start,
    List<OfRung> rungs,
    List<Untried> untried,
    List<String> notes,
    List<String> standing,
    int callers,
    List<BrokenCaller> neverWorking) {
  public RehearsalReport {
    rungs = List.copyOf(rungs);
    untried = List.copyOf(untried);
    notes = List.copyOf(notes);
    standing = List.copyOf(standing);
    neverWorking = List.copyOf(neverWorking);
  }

  /** The same with more said of its rungs. */
  public RehearsalReport with(List<OfRung> others) {
    return new RehearsalReport(
        environment, start, others, untried, notes, standing, callers, neverWorking);
  }

  /** A rung that could not be tried. */
  public record Untried(String label, String about, String file) {}

  /**
   * One rung.
   *
   * @param file relative to the project
   * @param up milliseconds of the way up; empty if it failed
   * @param down milliseconds of the way down; empty if there is none or it failed
   * @param again milliseconds of the second way up; empty likewise
   * @param faults why it is not proved; none if it is
   * @param differences in what the structure differs where it should be equal
   * @param lost what the way down cannot give back, in words
   * @param oneWay why there is no way down; empty if there is one
   * @param statements what each statement did
   * @param brokenCallers statements of the application that worked before it and do not after it
   * @param newCallers those that work after it and did not before, with the reason
   */
  public record OfRung(
      String label,
      String about,
      String file,
      OptionalLong up,
      OptionalLong down,
      OptionalLong again,
      List<String> faults,
      List<Difference> differences,
      List<String> lost,
      Optional<String> oneWay,
      List<OfStatement> statements,
      List<BrokenCaller> brokenCallers,
      List<BrokenCaller> newCallers) {
    public OfRung {
      faults = List.copyOf(faults);
      differences = List.copyOf(differences);
      lost = List.copyOf(lost);
      statements = List.copyOf(statements);
      brokenCallers = List.copyOf(brokenCallers);
      newCallers = List.copyOf(newCallers);
    }

    /** The same with more said of its statements. */
    public OfRung with(List<OfStatement> others) {
      return new OfRung(
          label,
          about,
          file,
          up,
          down,
          again,
          faults,
          differences,
          lost,
          oneWay,
          others,
          brokenCallers,
          newCallers);
    }

    /** Whether it is in place behind the rehearsal, so that the next one can follow. */
    public boolean isInPlace() {
      return up.isPresent() && (oneWay.isPresent() || again.isPresent());
    }

    /** Whether both ways do what they should. */
    public boolean isProved() {
      return faults.isEmpty();
    }
  }

  /**
   * What a statement did.
   *
   * @param line in the rung's file
   * @param millis how long it took in the scratch database; 0 if that is not known
   * @param effects its locks and what it rewrote, in words; none if nothing was measured
   * @param whole the tables of which it reads or writes every row
   */
  public record OfStatement(
      int line, String text, double millis, List<String> effects, List<WholeTable> whole) {
    public OfStatement {
      effects = List.copyOf(effects);
      whole = List.copyOf(whole);
    }
  }

  /**
   * A table of which a statement reads or writes every row.
   *
   * @param rows how many rows it had in the scratch database
   * @param there how large it is in the environment; empty if that was not asked
   */
  public record WholeTable(String name, long rows, Optional<Size> there) {}

  /**
   * How large a table of the environment is.
   *
   * @param bytes with its indexes; empty where the database does not say
   * @param millis an estimate of what the statement takes there; empty where the scratch database
   *     had too few rows for one
   */
  public record Size(long rows, OptionalLong bytes, OptionalLong millis) {}

  /**
   * A statement of the application that fails.
   *
   * @param place its file and line
   * @param reason the database's words
   */
  public record BrokenCaller(String place, String reason) {}

  /** Whether everything is proved. */
  public boolean isProved() {
    return standing.isEmpty() && rungs.stream().allMatch(OfRung::isProved);
  }

  /** Whether all callers that worked before work behind each rung, too. */
  public boolean keepsCallers() {
    return rungs.stream().allMatch(rung -> rung.brokenCallers().isEmpty());
  }
}
