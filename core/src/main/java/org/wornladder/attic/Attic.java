package org.wornladder.attic;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.Event;
import org.wornladder.journal.Journal;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;

/**
 * Keeps aside what rungs erase, in tables beside the journal, and brings it back. Everything that
 * it does has an entry in the journal. The caller has a transaction open, and commits it.
 */
public final class Attic {
  private static final String BEHIND_JOURNAL = "_attic_";

  private final Session session;
  private final Journal journal;
  private final Quoting quoting;
  private final boolean undoesStructure;

  public Attic(Session session, Engine engine, Journal journal) {
    this.session = session;
    this.journal = journal;
    quoting = engine.quoting();
    undoesStructure = engine.abilities().contains(Ability.TRANSACTIONAL_DDL);
  }

  /** Whether a table of this name is one of the attic's own. */
  public static Predicate<String> tables(Journal journal) {
    String prefix = journal.tables().get(0) + BEHIND_JOURNAL;
    return name -> name.regionMatches(true, 0, prefix, 0, prefix.length());
  }

  /** The table that an erasure is of; empty if it is not there. */
  static Optional<Table> table(Erasure what, Schema schema) {
    Optional<Table> known = schema.table(what.table());
    return known.isPresent()
        ? known
        : schema.tables().stream()
            .filter(table -> table.id().displayName().equalsIgnoreCase(what.table()))
            .findFirst();
  }

  private static Optional<Column> column(Erasure what, Table table) {
    return table.columns().stream()
        .filter(column -> column.name().equalsIgnoreCase(what.column()))
        .findFirst();
  }

  /** Why something cannot be kept; empty if it can. */
  public static Optional<String> obstacle(Erasure what, Schema schema) {
    Optional<Table> table = table(what, schema);
    if (table.isEmpty() || what.kind() != Erasure.Kind.COLUMN) {
      return Optional.empty();
    }
    return table.get().primaryKey().isEmpty()
        ? Optional.of(what.words() + " cannot be kept: its table has no primary key")
        : Optional.empty();
  }

  /** How many rows would be kept; 0 for a table that is not there. */
  public long rows(Erasure what, Schema schema) throws SQLException {
    Optional<Table> table = table(what, schema);
    return table.isEmpty() ? 0 : number("SELECT count(*) FROM " + name(table.get()));
  }

  /** How many bytes the table has; 0 where the database does not say, or it is not there. */
  public long bytes(Erasure what, Schema schema) throws SQLException {
    Optional<String> query = table(what, schema).flatMap(table -> session.ddl().size(table.id()));
    return query.isEmpty() ? 0 : number(query.get());
  }

  /**
   * Keeps something aside. What is not there, or has no rows, is passed over.
   *
   * @param rung whose way up is about to erase it
   */
  public void keep(long rung, Erasure what, Schema schema) throws SQLException {
    Optional<Table> found = table(what, schema);
    if (found.isEmpty()
        || obstacle(what, schema).isPresent()
        || number("SELECT count(*) FROM " + name(found.get())) == 0) {
      return;
    }
    Table table = found.get();
    List<String> columns = new ArrayList<>(table.primaryKey());
    if (what.kind() == Erasure.Kind.COLUMN) {
      column(what, table)
          .map(Column::name)
          .filter(one -> !columns.contains(one))
          .ifPresent(columns::add);
    } else {
      columns.clear();
      table.columns().forEach(column -> columns.add(column.name()));
    }
    String place = journal.tables().get(0) + BEHIND_JOURNAL + (journal.mark().number() + 1);
    define("DROP TABLE IF EXISTS " + session.quoted(place));
    define(
        "CREATE TABLE %s AS SELECT %s FROM %s"
            .formatted(session.quoted(place), names(columns), name(table)));
    if (what.kind() == Erasure.Kind.COLUMN) {
      // Without an index each row would read all that is kept.
      define(
          "CREATE INDEX %s ON %s (%s)"
              .formatted(
                  quoting.name(place + "_key"), session.quoted(place), names(table.primaryKey())));
    }
    long rows = number("SELECT count(*) FROM " + session.quoted(place));
    Erasure named =
        new Erasure(
            what.kind(),
            table.name(),
            what.kind() == Erasure.Kind.COLUMN
                ? column(what, table).map(Column::name).orElse(what.column())
                : "");
    String details = named.words() + ", " + rows + (rows == 1 ? " row" : " rows");
    KeptItem item = new KeptItem(0, rung, named, table.id().schema(), place, details, "");
    journal.append(Event.KEPT_ASIDE, item.subject(), EntryDetails.of(item.details()));
  }

  /**
   * Brings rows or values back where they fit: those whose key the table does not have, and the
   * values of rows that it has. Nothing is forced.
   *
   * @param schema as it is now
   * @return what was done, in words
   */
  public String bringBack(KeptItem item, Schema schema) throws SQLException {
    Optional<Table> table = table(item.what(), schema);
    if (table.isEmpty()) {
      return item.what().words() + ": its table is not there, so nothing was brought back";
    }
    Optional<String> outcome =
        item.what().kind() == Erasure.Kind.COLUMN
            ? values(item, table.get())
            : rows(item, table.get());
    String words =
        item.what().words()
            + ": "
            + outcome.orElse(
                item.what().kind() == Erasure.Kind.COLUMN
                    ? "values are back in every row that is there"
                    : "all rows are back");
    if (outcome.isEmpty()) {
      journal.append(Event.BROUGHT_BACK, item.subject(), EntryDetails.of(words));
      define("DROP TABLE " + session.quoted(item.place()));
    } else {
      journal.append(Event.KEPT_ASIDE, item.subject(), EntryDetails.of(words));
    }
    return words;
  }

  /** Gives the rows that are there their values back; empty if that is done. */
  private Optional<String> values(KeptItem item, Table table) throws SQLException {
    if (table.column(item.what().column()).isEmpty()) {
      return Optional.of("the column is not there; it is still kept");
    }
    List<String> key = key(item, table);
    if (key.isEmpty()) {
      return Optional.of("the table has another key now; it is still kept");
    }
    String column = quoting.name(item.what().column());
    String from = session.quoted(item.place()) + " ladder_kept WHERE " + matching(table, key);
    String update =
        "UPDATE %1$s SET %2$s = (SELECT ladder_kept.%2$s FROM %3$s) WHERE EXISTS (SELECT 1 FROM %3$s)"
            .formatted(name(table), column, from);
    return inSavepoint(update)
        .map(fault -> "the values do not fit: " + fault + "; they are still kept");
  }

  /** Puts the rows back whose key is not there; empty if that is done. */
  private Optional<String> rows(KeptItem item, Table table) throws SQLException {
    List<String> kept = columnsOf(item.place());
    List<Column> columns =
        table.columns().stream()
            .filter(column -> column.more(Column.GENERATED).isEmpty())
            .filter(column -> kept.contains(column.name()))
            .toList();
    List<String> key = key(item, table);
    boolean full = number("SELECT count(*) FROM " + name(table)) > 0;
    if (key.isEmpty() && full) {
      return Optional.of("the table has rows, and no key to match them by; they are still kept");
    }
    String missing =
        key.isEmpty()
            ? ""
            : " WHERE NOT EXISTS (SELECT 1 FROM "
                + name(table)
                + " WHERE "
                + matching(table, key)
                + ")";
    String insertion = session.ddl().insertion(table, columns);
    String selection =
        " SELECT "
            + columns.stream()
                .map(column -> "ladder_kept." + quoting.name(column.name()))
                .collect(Collectors.joining(", "))
            + " FROM "
            + session.quoted(item.place())
            + " ladder_kept";
    Optional<String> fault = inSavepoint(insertion + selection + missing);
    if (fault.isPresent() && !key.isEmpty()) {
      fault = oneByOne(insertion + selection, item, table, key);
    }
    goOn(table);
    return fault.map(words -> words + "; still kept");
  }

  /** Puts those rows back that fit; returns how many do not, and why, or nothing if all do. */
  private Optional<String> oneByOne(String insertion, KeptItem item, Table table, List<String> key)
      throws SQLException {
    Ddl ddl = session.ddl();
    List<Column> columns = key.stream().map(name -> table.column(name).orElseThrow()).toList();
    String there = "EXISTS (SELECT 1 FROM " + name(table) + " WHERE " + matching(table, key) + ")";
    List<String> conditions = new ArrayList<>();
    try (Statement sql = session.connection().createStatement();
        ResultSet row =
            sql.executeQuery(
                "SELECT %s FROM %s ladder_kept WHERE NOT %s"
                    .formatted(
                        columns.stream().map(ddl::literal).collect(Collectors.joining(", ")),
                        session.quoted(item.place()),
                        there))) {
      while (row.next()) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
          parts.add(
              session
                  .staging()
                  .equal(
                      columns.get(i),
                      "ladder_kept." + quoting.name(columns.get(i).name()),
                      row.getString(i + 1)));
        }
        conditions.add(String.join(" AND ", parts));
      }
    }
    List<String> faults = new ArrayList<>();
    for (String condition : conditions) {
      inSavepoint(insertion + " WHERE " + condition + " AND NOT " + there).ifPresent(faults::add);
    }
    int back = conditions.size() - faults.size();
    return faults.isEmpty()
        ? Optional.empty()
        : Optional.of(
            "%d of %d rows back; not fitting: %d (%s)"
                .formatted(back, conditions.size(), faults.size(), faults.get(0)));
  }

  /** The next numbers that the database gives out come behind those of the rows. */
  private void goOn(Table table) throws SQLException {
    for (String statement : session.staging().numbersGoOn(table)) {
      session.change(statement);
    }
  }

  /** The columns by which kept rows find theirs: the table's key, where all of it is kept. */
  private List<String> key(KeptItem item, Table table) throws SQLException {
    return columnsOf(item.place()).containsAll(table.primaryKey()) ? table.primaryKey() : List.of();
  }

  private String matching(Table table, List<String> key) {
    return key.stream()
        .map(
            name ->
                session
                    .staging()
                    .equal(
                        table.column(name).orElseThrow(),
                        quoting.name(table.name()) + "." + quoting.name(name),
                        "ladder_kept." + quoting.name(name)))
        .collect(Collectors.joining(" AND "));
  }

  /** Runs a change of structure, which ends the transaction in some engines. */
  private void define(String sql) throws SQLException {
    if (undoesStructure) {
      session.change(sql);
    } else {
      session.commit();
      session.change(sql);
      session.begin();
    }
  }

  /** Runs a statement that may fail without ending the transaction; returns the fault's words. */
  private Optional<String> inSavepoint(String sql) throws SQLException {
    session.change("SAVEPOINT ladder_attic");
    try {
      session.change(sql);
      return Optional.empty();
    } catch (SQLException e) {
      session.change("ROLLBACK TO SAVEPOINT ladder_attic");
      return Optional.of(session.fault(e).message());
    }
  }

  /** Drops what is kept. */
  public void empty(KeptItem item, String because) throws SQLException {
    journal.append(Event.ATTIC_EMPTIED, item.subject(), EntryDetails.of(because));
    define("DROP TABLE IF EXISTS " + session.quoted(item.place()));
  }

  private List<String> columnsOf(String place) throws SQLException {
    List<String> names = new ArrayList<>();
    try (Statement sql = session.connection().createStatement();
        ResultSet row =
            sql.executeQuery("SELECT * FROM " + session.quoted(place) + " WHERE 1 = 0")) {
      for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
        names.add(row.getMetaData().getColumnLabel(i));
      }
    }
    return names;
  }

  private long number(String query) throws SQLException {
    try (Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      row.next();
      return row.getLong(1);
    }
  }

  private String name(Table table) {
    String schema = table.id().schema();
    return (schema.isEmpty() ? "" : quoting.name(schema) + ".") + quoting.name(table.name());
  }

  private String names(List<String> columns) {
    return columns.stream().map(quoting::name).collect(Collectors.joining(", "));
  }
}
