package org.wornladder.seed;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.NearestWord;
import org.wornladder.project.Problem;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Place;

/** Compares a seed's columns with its table's, and collects what does not fit. */
final class SeedBinder {
  /** More than any database allows in a table. */
  private final Schema schema;

  private final Staging staging;
  private final String environment;
  private final List<Problem> problems;

  /**
   * @param problems takes what is found
   */
  SeedBinder(Schema schema, Staging staging, String environment, List<Problem> problems) {
    this.schema = schema;
    this.staging = staging;
    this.environment = environment;
    this.problems = problems;
  }

  /** The table that a seed names; empty, with a problem collected, if it is not there. */
  Optional<Table> table(Seed seed) {
    Optional<Table> table = schema.table(seed.table());
    if (table.isEmpty()) {
      List<String> names = schema.tables().stream().map(Table::name).toList();
      Advice near =
          NearestWord.to(seed.table(), names)
              .map(name -> Advice.hint("did you mean " + name + "?"))
              .orElseGet(() -> Advice.of(Advice.Code.SHOW_WAITING, environment));
      problem(
          seed.place(), "there is no table " + seed.table() + " on " + environment + " yet", near);
    }
    return table;
  }

  /**
   * A seed with its table; empty, with problems collected, if they do not fit.
   *
   * @param number says its stage from others
   * @param complete whether new rows can be made of it
   */
  Optional<BoundSeed> bind(Seed seed, Table table, SeedRows rows, int number, boolean complete) {
    int before = problems.size();
    Place header = rows.header();
    List<StagingTable.Part> parts = new ArrayList<>();
    List<StagingTable.Part> resolved = new ArrayList<>();
    List<LookupColumn> looks = new ArrayList<>();
    Map<String, String> columns = new LinkedHashMap<>();
    for (String name : rows.columns()) {
      Optional<Column> plain = table.column(name);
      if (plain.isPresent()) {
        parts.add(new StagingTable.Part(plain.get().name(), table.name(), plain.get()));
        take(plain.get(), name, columns, header);
      } else {
        look(table, name, header, looks.size())
            .ifPresent(
                found -> {
                  looks.add(found.look());
                  parts.add(found.given());
                  resolved.add(found.resolved());
                  take(found.resolved().column(), name, columns, header);
                });
      }
    }
    List<String> key = key(seed, table, columns, header);
    if (complete) {
      required(table, columns, header);
    }
    if (problems.size() > before) {
      return Optional.empty();
    }
    List<String> optional = optional(rows, table, key);
    if (!optional.isEmpty()) {
      parts.add(StagingTable.Part.leftOut());
    }
    StagingTable stage =
        new StagingTable("ladder_stage_" + number, table.name(), parts, resolved, optional, key);
    return Optional.of(
        new BoundSeed(seed, table, rows, stage, List.copyOf(columns.keySet()), looks));
  }

  /** The columns that a row may leave to the database, and some row does. */
  private List<String> optional(SeedRows rows, Table table, List<String> key) {
    List<String> optional = new ArrayList<>();
    for (String name : rows.columns()) {
      Optional<Column> column =
          table.column(name).filter(found -> fills(table, found) && !key.contains(found.name()));
      if (column.isPresent() && rows.optional().contains(name)) {
        optional.add(column.get().name());
      }
    }
    return optional;
  }

  /** Whether the database gives a column a value where none is given. */
  private boolean fills(Table table, Column column) {
    return column.defaultValue().isPresent() || staging.numbers(table, column);
  }

  private void take(Column column, String header, Map<String, String> columns, Place place) {
    if (column.more(Column.GENERATED).isPresent()) {
      problem(
          place,
          "column " + column.name() + " is computed by the database",
          "take " + header + " out of the file");
    }
    String other = columns.putIfAbsent(column.name(), header);
    if (other != null) {
      problem(place, other + " and " + header + " both mean " + column.name(), "keep one of them");
    }
  }

  private record Found(LookupColumn look, StagingTable.Part given, StagingTable.Part resolved) {}

  /** A header such as {@code variety.name} or {@code variety_id.name}. */
  private Optional<Found> look(Table table, String header, Place place, int number) {
    int dot = header.indexOf('.');
    if (dot < 1) {
      problem(
          place,
          "table " + table.name() + " has no column " + header,
          NearestWord.advice(header, table.columns().stream().map(Column::name).toList()));
      return Optional.empty();
    }
    String first = header.substring(0, dot);
    String meaning = header.substring(dot + 1);
    List<ForeignKey> keys =
        table.foreignKeys().stream()
            .filter(key -> key.columns().size() == 1)
            .filter(
                key ->
                    key.table().equalsIgnoreCase(first)
                        || key.columns().get(0).equalsIgnoreCase(first))
            .toList();
    if (keys.size() != 1) {
      problem(
          place,
          keys.isEmpty()
              ? "no reference of "
                  + table.name()
                  + " leads to "
                  + first
                  + ", as "
                  + header
                  + " says"
              : "several references of " + table.name() + " lead to " + first,
          keys.isEmpty()
              ? "write the column itself"
              : "write " + keys.get(0).columns().get(0) + "." + meaning);
      return Optional.empty();
    }
    return look(table, header, meaning, keys.get(0), place, number);
  }

  private Optional<Found> look(
      Table table, String header, String meaning, ForeignKey key, Place place, int number) {
    Table target = schema.table(key.table()).orElseThrow();
    Optional<Column> meant = target.column(meaning);
    if (meant.isEmpty()) {
      problem(
          place,
          "table " + target.name() + " has no column " + meaning + ", as " + header + " says",
          NearestWord.advice(meaning, target.columns().stream().map(Column::name).toList()));
      return Optional.empty();
    }
    String targetColumn =
        key.targetColumns().isEmpty() ? target.primaryKey().get(0) : key.targetColumns().get(0);
    Column own = table.column(key.columns().get(0)).orElseThrow();
    String part = "ladder_look_" + number;
    return Optional.of(
        new Found(
            new LookupColumn(
                part,
                header,
                own.name(),
                target.name(),
                targetColumn,
                meant.get(),
                UniqueKeys.of(target).contains(List.of(meant.get().name()))),
            new StagingTable.Part(part, target.name(), meant.get()),
            new StagingTable.Part(own.name(), table.name(), own)));
  }

  private List<String> key(Seed seed, Table table, Map<String, String> columns, Place header) {
    List<String> key = new ArrayList<>();
    for (String name : seed.key().isEmpty() ? table.primaryKey() : seed.key()) {
      Optional<Column> column = table.column(name);
      if (column.isEmpty()) {
        problem(
            seed.place(),
            "key names " + name + ", which is not a column of " + table.name(),
            NearestWord.advice(name, table.columns().stream().map(Column::name).toList()));
      } else if (columns.containsKey(column.get().name())) {
        key.add(column.get().name());
      } else {
        problem(
            header,
            "the key's column " + column.get().name() + " is not in the file",
            "add it, or write key: [COLUMN] under " + table.name() + " in ladder.yaml");
      }
    }
    if (seed.key().isEmpty() && table.primaryKey().isEmpty()) {
      problem(
          seed.place(),
          "table " + table.name() + " has no primary key, so its rows cannot be identified",
          "write key: [COLUMN, …] with columns that are unique together");
    }
    return key;
  }

  /** Columns that must have a value, and get none. */
  private void required(Table table, Map<String, String> columns, Place header) {
    for (Column column : table.columns()) {
      boolean filled =
          column.nullable() || column.more(Column.GENERATED).isPresent() || fills(table, column);
      if (!filled && !columns.containsKey(column.name())) {
        problem(
            header,
            "column " + column.name() + " of " + table.name() + " must have a value",
            "add it to the file, or give it a default in a rung");
      }
    }
  }

  private void problem(Place place, String message, String hint) {
    problem(place, message, Advice.hint(hint));
  }

  private void problem(Place place, String message, Advice advice) {
    problems.add(Problem.error(place, message, advice));
  }
}
