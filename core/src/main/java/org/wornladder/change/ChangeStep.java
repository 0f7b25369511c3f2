package org.wornladder.change;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.wornladder.schema.Kind;

/** A change in the graph of those that must come before others. */
final class ChangeStep {
  /** What decides where nothing else does: equal inputs give equal scripts that read well. */
  static final Comparator<ChangeStep> READABLE =
      Comparator.comparing((ChangeStep step) -> step.phase)
          .thenComparing(step -> step.rank)
          .thenComparing(step -> step.change.target().displayName())
          .thenComparing(step -> step.stage)
          .thenComparing(step -> step.number);

  /** The parts of a script in the order in which they are read. */
  enum Phase {
    FOREIGN_KEYS_GO,
    DEPENDENTS_GO,
    OBJECTS_GO,
    OBJECTS_COME,
    TABLES_CHANGE,
    FOREIGN_KEYS_COME,
    DEPENDENTS_COME,
    THE_REST
  }

  /** The changes of one table's parts in an order that runs. */
  enum Stage {
    NONE,
    FOREIGN_KEY_GOES,
    KEY_GOES,
    COLUMN_GOES,
    COLUMN_IS_RENAMED,
    COLUMN_CHANGES,
    COLUMN_COMES,
    KEY_COMES,
    FOREIGN_KEY_COMES
  }

  private static final List<Kind> RANKS =
      List.of(
          Kind.SCHEMA,
          Kind.EXTENSION,
          Kind.ENUM,
          Kind.COMPOSITE,
          Kind.DOMAIN,
          Kind.RANGE,
          Kind.SEQUENCE,
          Kind.FUNCTION,
          Kind.AGGREGATE,
          Kind.COLLECTION,
          Kind.TABLE,
          Kind.VIEW,
          Kind.MATERIALISED_VIEW,
          Kind.PROCEDURE,
          Kind.OTHER,
          Kind.POLICY,
          Kind.TRIGGER,
          Kind.EVENT,
          Kind.ROLE,
          Kind.USER,
          Kind.OWNER,
          Kind.GRANT);

  private final SchemaChange change;
  private final int number;
  private final Phase phase;
  private final Stage stage;
  private final int rank;
  private final List<ChangeStep> next = new ArrayList<>();
  private int waiting;

  ChangeStep(SchemaChange change, int number) {
    this.change = change;
    this.number = number;
    this.stage = stageOf(change);
    this.phase = phaseOf(change, stage);
    int place = RANKS.indexOf(change.target().kind());
    this.rank = phase == Phase.DEPENDENTS_GO || phase == Phase.OBJECTS_GO ? -place : place;
  }

  SchemaChange change() {
    return change;
  }

  Stage stage() {
    return stage;
  }

  /** That this one must run before another. */
  void before(ChangeStep other) {
    if (other != this) {
      next.add(other);
      other.waiting++;
    }
  }

  List<ChangeStep> next() {
    return next;
  }

  boolean isReady() {
    return waiting == 0;
  }

  /** One that had to run before is done; says whether none is left. */
  boolean released() {
    waiting--;
    return waiting == 0;
  }

  private static Stage stageOf(SchemaChange change) {
    if (change instanceof SchemaChange.DropPart drop) {
      return goes(drop.part().kind());
    }
    if (change instanceof SchemaChange.AddPart add) {
      return comes(add.part().kind());
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return alter.before().kind() == Kind.COLUMN ? Stage.COLUMN_CHANGES : Stage.KEY_COMES;
    }
    return change instanceof SchemaChange.RenameColumn ? Stage.COLUMN_IS_RENAMED : Stage.NONE;
  }

  private static Stage goes(Kind part) {
    return switch (part) {
      case FOREIGN_KEY -> Stage.FOREIGN_KEY_GOES;
      case COLUMN -> Stage.COLUMN_GOES;
      default -> Stage.KEY_GOES;
    };
  }

  private static Stage comes(Kind part) {
    return switch (part) {
      case FOREIGN_KEY -> Stage.FOREIGN_KEY_COMES;
      case COLUMN -> Stage.COLUMN_COMES;
      default -> Stage.KEY_COMES;
    };
  }

  private static Phase phaseOf(SchemaChange change, Stage stage) {
    boolean ground = RANKS.indexOf(change.target().kind()) <= RANKS.indexOf(Kind.TABLE);
    if (change instanceof SchemaChange.Drop) {
      return ground ? Phase.OBJECTS_GO : Phase.DEPENDENTS_GO;
    }
    if (change instanceof SchemaChange.Create) {
      return ground ? Phase.OBJECTS_COME : Phase.DEPENDENTS_COME;
    }
    if (change instanceof SchemaChange.RenameTable) {
      return Phase.FOREIGN_KEYS_GO;
    }
    if (change instanceof SchemaChange.Alter alter && !alter.target().kind().isTable()) {
      return Phase.THE_REST;
    }
    return switch (stage) {
      case FOREIGN_KEY_GOES -> Phase.FOREIGN_KEYS_GO;
      case FOREIGN_KEY_COMES -> Phase.FOREIGN_KEYS_COME;
      default -> ground ? Phase.TABLES_CHANGE : Phase.DEPENDENTS_COME;
    };
  }
}
