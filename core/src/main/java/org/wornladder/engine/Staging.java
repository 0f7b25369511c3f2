package org.wornladder.engine;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.wornladder.project.RowHasher;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;

/**
 * Rows on their way into a database: taken into a temporary table, compared there with those in the
 * real one, and written, each by one statement for all rows. In these statements the real table is
 * {@code t} and the temporary one {@code s}.
 */
public abstract class Staging {
  /** The column that has the position of a row in its file. */
  public static final String LINE = "ladder_line";

  private final Session session;
  private final Quoting quoting;
  private final Map<String, ValueKind> kinds = new ConcurrentHashMap<>();

  protected Staging(Session session, Quoting quoting) {
    this.session = session;
    this.quoting = quoting;
  }

  protected final Session session() {
    return session;
  }

  /** A name as statements write it. */
  public final String name(String name) {
    return quoting.name(name);
  }

  /** Makes the session read and print values as files write them: times in UTC, nothing bent. */
  public void open() throws SQLException {}

  /** How a temporary table is made, up to its name. */
  protected String createText() {
    return "CREATE TEMPORARY TABLE ";
  }

  /** Makes the temporary table, its columns typed by the database. */
  public final void make(StagingTable stage) throws SQLException {
    session.change(making(stage));
    session.noteTemporary(dropping(stage));
  }

  /**
   * The temporary table for a second place in a statement that names it already: the same one, or a
   * copy as it is now where the engine reads a temporary table once in a statement.
   */
  public StagingTable again(StagingTable stage) throws SQLException {
    return stage;
  }

  /** The statement that makes the temporary table, as the session can run it. */
  protected String making(StagingTable stage) {
    return creation(stage);
  }

  /** The statement that drops it. */
  protected String dropping(StagingTable stage) {
    return "DROP TABLE " + staged(stage);
  }

  /** The statement that makes the temporary table. */
  protected final String creation(StagingTable stage) {
    List<String> columns = new ArrayList<>(List.of("CAST(0 AS " + lineType() + ") AS " + LINE));
    StringBuilder from = new StringBuilder(" FROM (SELECT 1 AS x) o");
    int table = 0;
    for (StagingTable.Part part : stage.all()) {
      if (part.table().isEmpty()) {
        columns.add("'" + "0".repeat(stage.optional().size()) + "' AS " + name(part.name()));
        continue;
      }
      table++;
      String alias = "t" + table;
      from.append(" LEFT JOIN ").append(session.quoted(part.table())).append(' ').append(alias);
      from.append(" ON 1 = 0");
      String typed = alias + "." + name(part.column().name());
      columns.add(free(typed, part.column()) + " AS " + name(part.name()));
    }
    return createText()
        + name(stage.name())
        + inOrder()
        + " AS SELECT "
        + String.join(", ", columns)
        + from
        + " WHERE 1 = 0";
  }

  /** What makes a temporary table keep its rows in the order of their lines; may be empty. */
  protected String inOrder() {
    return "";
  }

  /** A column as an expression of its type, without the table's rules for it. */
  protected String free(String expression, Column column) {
    return expression;
  }

  /** The type of a number of 64 bits in a cast. */
  protected String lineType() {
    return "bigint";
  }

  /**
   * Takes rows into the temporary table.
   *
   * @param rows as many fields each as the stage has columns, in their order
   * @throws org.wornladder.ProjectException for a value that its column cannot take, with the place
   */
  public abstract void load(StagingTable stage, SeedRows rows) throws SQLException;

  /** Whether the database numbers a table's rows in a column, where nobody gives a value. */
  public boolean numbers(Table table, Column column) {
    return column.more(Column.IDENTITY).isPresent()
        || column.defaultValue().filter(value -> value.contains("nextval")).isPresent();
  }

  /** What the values of a column are. */
  public final ValueKind kind(Column column) {
    ValueKind known = kinds.get(column.type());
    if (known == null) {
      known = kindOf(column);
      kinds.put(column.type(), known);
    }
    return known;
  }

  /** What the values of a column are, by its type. */
  protected abstract ValueKind kindOf(Column column);

  /**
   * Looks at a file's text before the database does.
   *
   * @throws BadValueException if it is no value of this kind
   */
  public void check(ValueKind kind, String text) throws BadValueException {
    Values.checkText(text);
    switch (kind) {
      case WHOLE -> Values.checkWhole(text);
      case DECIMAL, FLOATING -> Values.checkNumber(text);
      case TRUTH -> Values.truth(text);
      case DATE -> Values.checkDate(text);
      case TIME -> Values.checkTime(text);
      case MOMENT -> Values.checkMoment(text);
      case BINARY -> Values.bytes(text);
      case JSON -> Values.checkJson(text);
      case TEXT, LIST, OTHER -> {}
    }
  }

  /** A value as a statement writes it, which means what {@link #load} would take in. */
  public String literal(ValueKind kind, String text) throws BadValueException {
    return switch (kind) {
      case BINARY -> "X'" + HexFormat.of().formatHex(Values.bytes(text)) + "'";
      case TRUTH -> Values.truth(text) ? "TRUE" : "FALSE";
      default -> quoting.text(text);
    };
  }

  /** What a column takes of the values of its kind. */
  public ColumnLimits limits(Column column, Schema schema) {
    return ColumnLimits.of(column, schema);
  }

  /** A value as files write it; empty for NULL. */
  public abstract Optional<String> read(ResultSet row, int index, Column column)
      throws SQLException;

  /**
   * What makes of a file's text, and of what {@link #rows} finds, one form that says whether they
   * are the same value, as far as that can be known without the database; empty if they are that as
   * they stand.
   */
  protected Optional<UnaryOperator<String>> canonical(Column column) {
    return switch (kind(column)) {
      case MOMENT, TIME -> Optional.of(Values::canonicalTime);
      default -> Optional.empty();
    };
  }

  /**
   * A hasher of the stage's rows.
   *
   * @param keyAlone whether the key's fields alone count
   */
  public final RowHasher hasher(StagingTable stage, boolean keyAlone) {
    List<RowHasher.Field> fields = new ArrayList<>();
    for (StagingTable.Part part : stage.columns()) {
      boolean number =
          switch (kind(part.column())) {
            case DECIMAL, FLOATING -> true;
            default -> false;
          };
      boolean counts = !keyAlone || stage.key().contains(part.name());
      fields.add(new RowHasher.Field(counts, number, canonical(part.column())));
    }
    return new RowHasher(fields);
  }

  /**
   * Rows of the real table, with the stage's columns and in the order in which the database finds
   * them.
   *
   * @param most how many rows at most
   */
  public abstract TableRows rows(StagingTable stage, long most) throws SQLException;

  /** The position of a row by its number among all, counted from 1. */
  public static long position(SeedRows rows, long number) {
    long[] state = {0, 0};
    rows.<RuntimeException>each(
        row -> {
          state[0]++;
          if (state[0] == number) {
            state[1] = row.position();
          }
        });
    return state[1];
  }

  /** Whether two values are the same one, NULL and case and blanks included. */
  public abstract String same(Column column, String left, String right);

  /**
   * Whether two values are equal as keys are, which NULL never is.
   *
   * @param column one that has the values of one side
   */
  public String equal(Column column, String left, String right) {
    return left + " = " + right;
  }

  /** How the rows of the stage find theirs in the real table. */
  public final String matching(StagingTable stage) {
    return matching(stage, "t");
  }

  /**
   * The same.
   *
   * @param alias that of the real table
   */
  public final String matching(StagingTable stage, String alias) {
    return stage.key().stream()
        .map(key -> equal(stage.column(key), alias + "." + name(key), "s." + name(key)))
        .collect(Collectors.joining(" AND "));
  }

  /**
   * Whether a row of the real table differs from that of the stage in one of the columns. What a
   * row leaves out does not differ.
   */
  public final String differing(StagingTable stage, Table table, List<String> columns) {
    List<String> parts = new ArrayList<>();
    for (String column : columns) {
      Column found = table.column(column).orElseThrow();
      String same = same(found, "t." + name(column), "s." + name(column));
      parts.add(leftOut(stage, column).map(left -> "(" + left + " OR " + same + ")").orElse(same));
    }
    return "NOT (" + String.join(" AND ", parts) + ")";
  }

  /** Whether a row of the stage says nothing of a column, as a condition; empty if all do. */
  public final Optional<String> leftOut(StagingTable stage, String column) {
    int place = stage.optional().indexOf(column);
    return place < 0
        ? Optional.empty()
        : Optional.of("substr(" + leftOutColumn() + ", " + (place + 1) + ", 1) = '1'");
  }

  /** The column of {@code s} that has a 1 for each column that a row leaves out, else a 0. */
  public final String leftOutColumn() {
    return "s." + name(StagingTable.LEFT_OUT);
  }

  /** {@code FROM} the stage and what is in the real table for its rows. */
  public final String joined(StagingTable stage) {
    return " FROM "
        + staged(stage)
        + " s LEFT JOIN "
        + session.quoted(stage.table())
        + " t ON "
        + matching(stage);
  }

  /** The name of the temporary table in statements. */
  public String staged(StagingTable stage) {
    return name(stage.name());
  }

  /**
   * Adds the rows that are not there yet.
   *
   * @param asNull columns that are left NULL for now
   * @param empty whether the real table has no row
   * @param numbered whether the database numbers the rows, which it does in the file's order
   * @param condition on {@code s}; empty for all rows
   */
  public String insert(
      StagingTable stage,
      List<String> columns,
      Set<String> asNull,
      boolean empty,
      boolean numbered,
      String condition) {
    List<String> values = new ArrayList<>();
    for (String column : columns) {
      values.add(asNull.contains(column) ? nothing(stage.column(column)) : "s." + name(column));
    }
    List<String> conditions = new ArrayList<>();
    if (!empty) {
      conditions.add(
          "NOT EXISTS (SELECT 1 FROM "
              + session.quoted(stage.table())
              + " t WHERE "
              + matching(stage)
              + ")");
    }
    if (!condition.isEmpty()) {
      conditions.add(condition);
    }
    return "INSERT INTO "
        + session.quoted(stage.table())
        + " ("
        + columns.stream().map(this::name).collect(Collectors.joining(", "))
        + ")"
        + overriding()
        + " SELECT "
        + String.join(", ", values)
        + " FROM "
        + staged(stage)
        + " s"
        + (conditions.isEmpty() ? "" : " WHERE " + String.join(" AND ", conditions))
        + (numbered || keepsOrder() ? " ORDER BY s." + LINE : "");
  }

  /** NULL as a value of a column in a query. */
  protected String nothing(Column column) {
    return "NULL";
  }

  /** Whether it costs nothing to take rows in the order of their lines. */
  protected boolean keepsOrder() {
    return true;
  }

  /** What lets values be given for columns that the database fills by itself. */
  protected String overriding() {
    return "";
  }

  /**
   * Gives rows that are there what the stage says.
   *
   * @param condition on {@code s} and {@code t}
   */
  public final String update(StagingTable stage, List<String> columns, String condition) {
    Map<String, String> values = new LinkedHashMap<>();
    for (String column : columns) {
      String given = "s." + name(column);
      String kept = " THEN t." + name(column) + " ELSE " + given + " END";
      values.put(
          column, leftOut(stage, column).map(left -> "CASE WHEN " + left + kept).orElse(given));
    }
    return assign(stage, values, condition);
  }

  /**
   * Gives rows that are there other values.
   *
   * @param values expressions over {@code s} by column
   * @param condition on {@code s} and {@code t}
   */
  public String assign(StagingTable stage, Map<String, String> values, String condition) {
    return "UPDATE "
        + session.quoted(stage.table())
        + " AS t SET "
        + assignments(values, "")
        + " FROM "
        + staged(stage)
        + " AS s WHERE "
        + matching(stage)
        + " AND "
        + condition;
  }

  /**
   * @param prefix what stands in front of a column that takes a value
   */
  protected final String assignments(Map<String, String> values, String prefix) {
    return values.entrySet().stream()
        .map(one -> prefix + name(one.getKey()) + " = " + one.getValue())
        .collect(Collectors.joining(", "));
  }

  /**
   * Texts that hardly any table has.
   *
   * @param of an expression that is another one for each row
   */
  public String standInText(String of) {
    return "concat('~', " + of + ")";
  }

  /**
   * Gives rows that the stage does not have another value.
   *
   * @param value an expression over {@code t}
   * @param condition on {@code t}
   */
  public final String assignExtra(
      StagingTable stage, String column, String value, String condition) {
    return "UPDATE "
        + session.quoted(stage.table())
        + alias()
        + " SET "
        + name(column)
        + " = "
        + value
        + " WHERE "
        + extra(stage)
        + " AND "
        + condition;
  }

  /** How a statement that changes rows names the table {@code t}. */
  protected String alias() {
    return " AS t";
  }

  /** The rows of the real table that the stage does not have, as a condition on {@code t}. */
  public final String extra(StagingTable stage) {
    return "NOT EXISTS (SELECT 1 FROM " + staged(stage) + " s WHERE " + matching(stage) + ")";
  }

  /** Deletes the rows that the stage does not have. */
  public String delete(StagingTable stage) {
    return "DELETE FROM " + session.quoted(stage.table()) + alias() + " WHERE " + extra(stage);
  }

  /** Prepares the stage for questions in which its rows are looked for by their key. */
  public void index(StagingTable stage) throws SQLException {}

  /**
   * Fills a column of the stage by looking up what another column of it means.
   *
   * @param from the table or the stage to look in, as statements name it
   */
  public String resolve(
      StagingTable stage, String column, String part, String from, String value, Column meaning) {
    String own = name(stage.name());
    return "UPDATE "
        + staged(stage)
        + " SET "
        + name(column)
        + " = (SELECT r."
        + name(value)
        + " FROM "
        + from
        + " r WHERE "
        + equal(meaning, "r." + name(meaning.name()), own + "." + name(part))
        + ") WHERE "
        + name(column)
        + " IS NULL AND "
        + name(part)
        + " IS NOT NULL";
  }

  /**
   * Lets references be checked at the commit, in the transaction that is open. Returns whether all
   * of them are: then rows may come in any order.
   */
  public boolean deferReferences() throws SQLException {
    return false;
  }

  /**
   * Whether {@link #numbersGoOn} is part of the transaction, so that it fails before the commit.
   */
  public boolean numbersJoinTransaction() {
    return true;
  }

  /** The same for all columns of a table that the database numbers. */
  public final List<String> numbersGoOn(Table table) throws SQLException {
    List<String> statements = new ArrayList<>();
    for (Column column : table.columns()) {
      if (numbers(table, column)) {
        statements.addAll(numbersGoOn(table, column));
      }
    }
    return statements;
  }

  /**
   * Statements that make the database's own numbers go on past those that were written.
   *
   * @param column one that the database numbers by itself
   */
  public List<String> numbersGoOn(Table table, Column column) throws SQLException {
    return List.of();
  }
}
