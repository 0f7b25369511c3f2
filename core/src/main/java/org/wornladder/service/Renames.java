package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.wornladder.Advice;
import org.wornladder.DraftQuestions;
import org.wornladder.RefusedException;
import org.wornladder.change.Difference;
import org.wornladder.change.RenameCandidate;
import org.wornladder.change.SchemaChange;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * What has another name in the structure that is wanted.
 *
 * @param changes tables before columns, so that a column is named with its table's new name
 * @param gone names of what is known to have been dropped
 * @param unanswered possible renames that were neither confirmed nor denied
 */
record Renames(List<SchemaChange> changes, Set<String> gone, List<RenameCandidate> unanswered) {
  Renames {
    changes = List.copyOf(changes);
    gone = Set.copyOf(gone);
    unanswered = List.copyOf(unanswered);
  }

  boolean isEmpty() {
    return changes.isEmpty();
  }

  /**
   * The renames that a person named.
   *
   * @param names new names by old ones; a column with its table's old name in front
   * @throws RefusedException if there is nothing of the old name, or something of the new one
   */
  static Renames named(Map<String, String> names, Snapshot present, Snapshot wanted) {
    List<SchemaChange> tables = new ArrayList<>();
    List<SchemaChange> columns = new ArrayList<>();
    Map<String, String> renamed = new TreeMap<>(names);
    renamed.values().removeIf(String::isEmpty);
    Set<String> gone = new TreeSet<>(names.keySet());
    gone.removeAll(renamed.keySet());
    for (Map.Entry<String, String> one : renamed.entrySet()) {
      Optional<Table> table = table(present, one.getKey());
      if (table.isPresent()) {
        tables.add(ofTable(table.get(), one.getValue(), present, wanted));
      }
    }
    for (Map.Entry<String, String> one : renamed.entrySet()) {
      if (table(present, one.getKey()).isEmpty()) {
        columns.add(ofColumn(one.getKey(), one.getValue(), tables, present, wanted));
      }
    }
    tables.addAll(columns);
    return new Renames(tables, gone, List.of());
  }

  private static Optional<Table> table(Snapshot snapshot, String name) {
    List<Table> tables =
        snapshot.objects().stream()
            .filter(Table.class::isInstance)
            .map(Table.class::cast)
            .filter(table -> table.id().displayName().equalsIgnoreCase(name))
            .toList();
    return tables.stream()
        .filter(table -> table.id().displayName().equals(name))
        .findFirst()
        .or(() -> tables.stream().filter(table -> tables.size() == 1).findFirst());
  }

  private static SchemaChange ofTable(Table table, String name, Snapshot present, Snapshot wanted) {
    String display = table.id().displayName();
    String inSchema = display.substring(0, display.length() - table.id().name().length());
    String whole = name.startsWith(inSchema) ? name : inSchema + name;
    if (table(present, whole).isPresent()) {
      throw refused(
          display + " cannot be renamed: there is a table " + whole + " already", display);
    }
    if (table(wanted, whole).isEmpty()) {
      throw refused("there is no table " + whole + " in the structure that is wanted", whole);
    }
    return new SchemaChange.RenameTable(table.id(), table(wanted, whole).orElseThrow().id());
  }

  private static SchemaChange ofColumn(
      String old, String name, List<SchemaChange> tables, Snapshot present, Snapshot wanted) {
    int dot = old.lastIndexOf('.');
    Table table =
        table(present, old.substring(0, Math.max(0, dot)))
            .filter(one -> one.column(old.substring(dot + 1)).isPresent())
            .orElseThrow(() -> refused("the ladder builds no table or column " + old, old));
    ObjectId id = idAfter(table.id(), tables);
    String was = table.column(old.substring(dot + 1)).orElseThrow().name();
    String column = name.substring(name.lastIndexOf('.') + 1);
    if (table.column(column).isPresent()) {
      throw refused(old + " cannot be renamed: its table has a column " + column, old);
    }
    return table(wanted, id.displayName())
        .flatMap(one -> one.column(column))
        .map(is -> new SchemaChange.RenameColumn(id, was, is.name()))
        .orElseThrow(
            () ->
                refused(
                    "there is no column "
                        + column
                        + " of "
                        + id.displayName()
                        + " in the structure that is wanted",
                    name));
  }

  private static ObjectId idAfter(ObjectId id, List<SchemaChange> tables) {
    return tables.stream()
        .map(SchemaChange.RenameTable.class::cast)
        .filter(rename -> rename.before().equals(id))
        .map(SchemaChange.RenameTable::target)
        .findFirst()
        .orElse(id);
  }

  private static RefusedException refused(String message, String name) {
    return RefusedException.of(
        message, "the new name of " + name, Advice.hint("name both as the structures have them"));
  }

  /** With what looks like a rename, and a person says that it is one. */
  Renames asking(
      List<Difference> differences, Snapshot present, Snapshot wanted, DraftQuestions questions) {
    List<SchemaChange> all = new ArrayList<>(changes);
    List<RenameCandidate> open = new ArrayList<>();
    for (RenameCandidate candidate : RenameCandidate.among(differences, present, wanted)) {
      boolean known =
          gone.stream().anyMatch(candidate.before()::equalsIgnoreCase)
              || changes.stream().anyMatch(change -> isOne(change, candidate.change()));
      if (!known) {
        Optional<Boolean> answer = questions.isRenamed(candidate);
        if (answer.isEmpty()) {
          open.add(candidate);
        } else if (answer.get()) {
          all.add(tableFirst(all, candidate.change()), candidate.change());
        }
      }
    }
    return new Renames(all, gone, open);
  }

  private static int tableFirst(List<SchemaChange> all, SchemaChange change) {
    return change instanceof SchemaChange.RenameTable ? 0 : all.size();
  }

  /** Whether one of both names is spoken of already. */
  private static boolean isOne(SchemaChange named, SchemaChange candidate) {
    if (named instanceof SchemaChange.RenameTable one
        && candidate instanceof SchemaChange.RenameTable other) {
      return one.before().equals(other.before()) || one.target().equals(other.target());
    }
    return named instanceof SchemaChange.RenameColumn one
        && candidate instanceof SchemaChange.RenameColumn other
        && one.target().equals(other.target())
        && (one.before().equals(other.before()) || one.after().equals(other.after()));
  }
}
