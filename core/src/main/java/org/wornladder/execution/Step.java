package org.wornladder.execution;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntrySubject;
import org.wornladder.project.Batching;
import org.wornladder.project.Direction;
import org.wornladder.sql.Statement;

/** One step of a plan: what is done, or not, as a whole. */
public sealed interface Step {
  /** The rung's number as files write it, or {@code standing}. */
  String label();

  String about();

  /** All statements of the step in the order in which they run. */
  List<Statement> statements();

  /** What of a way is committed at once. */
  enum Transactions {
    /** All of it. */
    ONE,
    /** Each statement, with the entry that records it where the statement can be part of one. */
    PER_STATEMENT,
    /** Nothing: each statement takes effect by itself, between its entries. */
    NONE
  }

  /**
   * A rung's way up or down.
   *
   * @param source the file, or {@code journal} where the way comes from there
   * @param transactions what of it is committed at once
   * @param done the numbers of those of its statements that were done before, in a run that stopped
   * @param doubt what the database says of a statement in doubt, settled; empty if none is
   * @param skipsMissing whether a statement that drops what is not there is left out: for the way
   *     down of a rung that came up half way
   * @param liftedBefore standing scripts taken down before it
   * @param putBackAfter standing scripts restored after it, if they were taken down
   * @param oneWay why there is no way back; empty if there is one
   * @param batching how its one statement runs piece by piece; empty for at once
   * @param batch the last piece that is done, in a run that stopped
   */
  record OfRung(
      Direction direction,
      long number,
      String label,
      String about,
      RecordedScript recorded,
      String source,
      Transactions transactions,
      List<Statement> statements,
      Set<Integer> done,
      Optional<UncertainStatement> doubt,
      boolean skipsMissing,
      Decision decision,
      List<StandingAction> liftedBefore,
      List<StandingAction> putBackAfter,
      Optional<String> oneWay,
      Optional<Batching> batching,
      Optional<Entry> batch)
      implements Step {
    /** What the journal says of it. */
    EntrySubject subject() {
      return recorded.subject();
    }

    /** The same rung, passed over. */
    OfRung passedOver(String reason) {
      return new OfRung(
          direction,
          number,
          label,
          about,
          recorded,
          source,
          Transactions.ONE,
          List.of(),
          Set.of(),
          Optional.empty(),
          false,
          new Decision.PassOver(reason),
          List.of(),
          List.of(),
          oneWay,
          Optional.empty(),
          Optional.empty());
    }

    /** Whether it runs statement by statement, each on the record. */
    public boolean statementWise() {
      return transactions != Transactions.ONE;
    }

    /** The statements that were not done before. */
    public List<Statement> remaining() {
      return IntStream.rangeClosed(1, statements.size())
          .filter(number -> !done.contains(number))
          .mapToObj(number -> statements.get(number - 1))
          .toList();
    }

    public OfRung {
      done = Set.copyOf(done);
      statements = List.copyOf(statements);
      liftedBefore = List.copyOf(liftedBefore);
      putBackAfter = List.copyOf(putBackAfter);
    }
  }

  /** Standing scripts that are taken down, run again, or forgotten; all of them or none. */
  record OfStanding(List<StandingAction> actions) implements Step {
    public OfStanding {
      actions = List.copyOf(actions);
    }

    @Override
    public String label() {
      return "standing";
    }

    @Override
    public String about() {
      List<StandingAction> ups =
          actions.stream().filter(action -> action.direction() == Direction.UP).toList();
      List<StandingAction> named = ups.isEmpty() ? actions : ups;
      return String.join(", ", named.stream().map(StandingAction::name).distinct().toList());
    }

    @Override
    public List<Statement> statements() {
      return actions.stream().flatMap(action -> action.statements().stream()).toList();
    }
  }

  /**
   * A standing script's way up or down.
   *
   * @param reason why, in a few words
   * @param recorded whether the journal records it; taking down for a moment is not recorded
   */
  record StandingAction(
      String name,
      Direction direction,
      EntrySubject subject,
      List<Statement> statements,
      String reason,
      boolean recorded) {
    public StandingAction {
      statements = List.copyOf(statements);
    }
  }
}
