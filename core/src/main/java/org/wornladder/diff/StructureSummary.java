package org.wornladder.diff;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.schema.Trigger;
import org.wornladder.schema.View;

/**
 * How many things of each kind two structures differ in.
 *
 * @param counts one for each kind that differs; columns, keys and indexes of whole tables count too
 */
public record StructureSummary(List<Count> counts) {
  /** Things of one kind that came, went, or are there in both but not the same. */
  public record Count(String kind, String plural, int added, int removed, int changed) {}

  public StructureSummary {
    counts = List.copyOf(counts);
  }

  public static StructureSummary between(Schema before, Schema after) {
    List<Count> counts = new ArrayList<>();
    count(counts, "table", "tables", tables(before), tables(after));
    count(counts, "column", "columns", columns(before), columns(after));
    count(counts, "foreign key", "foreign keys", foreignKeys(before), foreignKeys(after));
    count(counts, "index", "indexes", indexes(before), indexes(after));
    count(counts, "view", "views", views(before), views(after));
    count(counts, "trigger", "triggers", triggers(before), triggers(after));
    if (counts.isEmpty()) {
      count(counts, "table", "tables", definitions(before), definitions(after));
    }
    return new StructureSummary(counts);
  }

  /** {@code +1 table, +3 columns, 1 view changed}; {@code no change} if nothing differs. */
  public String text() {
    List<String> parts = new ArrayList<>();
    for (Count count : counts) {
      if (count.added() > 0) {
        parts.add("+" + named(count, count.added()));
      }
      if (count.removed() > 0) {
        parts.add("-" + named(count, count.removed()));
      }
      if (count.changed() > 0) {
        parts.add(named(count, count.changed()) + " changed");
      }
    }
    return parts.isEmpty() ? "no change" : String.join(", ", parts);
  }

  private static String named(Count count, int number) {
    return number + " " + (number == 1 ? count.kind() : count.plural());
  }

  private static void count(
      List<Count> counts,
      String kind,
      String plural,
      Map<List<Object>, Object> before,
      Map<List<Object>, Object> after) {
    int added = 0;
    int changed = 0;
    for (Map.Entry<List<Object>, Object> entry : after.entrySet()) {
      Object old = before.get(entry.getKey());
      if (old == null) {
        added++;
      } else if (!old.equals(entry.getValue())) {
        changed++;
      }
    }
    int removed = before.size() - (after.size() - added);
    if (added + changed + removed > 0) {
      counts.add(new Count(kind, plural, added, removed, changed));
    }
  }

  private static Map<List<Object>, Object> tables(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (Table table : schema.tables()) {
      found.put(List.of(table.name()), table.primaryKey());
    }
    return found;
  }

  private static Map<List<Object>, Object> definitions(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (Table table : schema.tables()) {
      found.put(List.of(table.name()), table.definition());
    }
    return found;
  }

  private static Map<List<Object>, Object> columns(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        found.put(List.of(table.name(), column.name()), column);
      }
    }
    return found;
  }

  private static Map<List<Object>, Object> foreignKeys(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (Table table : schema.tables()) {
      for (ForeignKey key : table.foreignKeys()) {
        found.put(List.of(table.name(), key.columns(), key.table()), key);
      }
    }
    return found;
  }

  private static Map<List<Object>, Object> indexes(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (Table table : schema.tables()) {
      for (Index index : table.indexes()) {
        if (!index.fromConstraint()) {
          found.put(List.of(index.name()), index);
        }
      }
    }
    return found;
  }

  private static Map<List<Object>, Object> views(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (View view : schema.views()) {
      found.put(List.of(view.name()), view);
    }
    return found;
  }

  private static Map<List<Object>, Object> triggers(Schema schema) {
    Map<List<Object>, Object> found = new HashMap<>();
    for (Trigger trigger : schema.triggers()) {
      found.put(List.of(trigger.name()), trigger);
    }
    return found;
  }
}
