package org.wornladder.engine.jdbc;

import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.wornladder.RefusedException;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JdbcStaging;
import org.wornladder.engine.Session;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.schema.Column;
import org.wornladder.schema.Table;

/** Rows on their way into a database, by statements of the SQL standard. */
final class DriverStaging extends JdbcStaging {
  /** The schema of declared tables on some engines. */
  private static final String IN_SESSION = "SESSION.";

  /**
   * The forms of a temporary table, the first that an engine takes is its own: with a schema and
   * without (ISO/IEC 9075-2, 14.16), as most others write it, and last a table that is dropped.
   */
  private enum Form {
    GLOBAL("DECLARE GLOBAL TEMPORARY TABLE ", IN_SESSION, " ON COMMIT PRESERVE ROWS NOT LOGGED"),
    LOCAL("DECLARE LOCAL TEMPORARY TABLE ", "", " ON COMMIT PRESERVE ROWS"),
    CREATED("CREATE LOCAL TEMPORARY TABLE ", "", " ON COMMIT PRESERVE ROWS"),
    PLAIN("CREATE TEMPORARY TABLE ", "", ""),
    LASTING("CREATE TABLE ", "", "");

    private final String begin;
    private final String prefix;
    private final String end;

    Form(String begin, String prefix, String end) {
      this.begin = begin;
      this.prefix = prefix;
      this.end = end;
    }
  }

  private final DriverSession base;
  private final DriverTypes types;
  private final Map<String, Form> forms = new HashMap<>();

  DriverStaging(Session session, DriverSession base) {
    super(session, base.traits().quoting());
    this.base = base;
    types = base.traits().types();
  }

  @Override
  public String staged(StagingTable stage) {
    return forms.getOrDefault(stage.name(), Form.LOCAL).prefix + super.staged(stage);
  }

  /** Tries the forms; what fails is undone up to a savepoint where a transaction is open. */
  @Override
  protected String making(StagingTable stage) {
    if (!base.traits().transactions()) {
      throw RefusedException.of(
          "a rollback undoes nothing on this engine, so that a seed could be half written",
          base.address(),
          "write the rows by rungs");
    }
    for (Form form : Form.values()) {
      if (form == Form.LASTING && !base.mayWrite()) {
        throw RefusedException.of(
            "this engine has no temporary tables, without which rows are not compared",
            base.address(),
            "ladder seed writes the rows, with a table that it drops again");
      }
      forms.put(stage.name(), form);
      String text = text(stage, form);
      if (form == Form.LASTING) {
        dropLeftover(stage);
      }
      if (form == Form.LASTING || isTaken(text, "DROP TABLE " + staged(stage))) {
        return text;
      }
    }
    throw new IllegalStateException("the last form is taken without a trial");
  }

  /** What a process left that was killed. */
  private void dropLeftover(StagingTable stage) {
    try {
      if (base.catalog().table(stage.name()).isPresent()) {
        base.change("DROP TABLE " + staged(stage));
      }
    } catch (SQLException e) {
      // Making the table fails then, and says why.
      return;
    }
  }

  /** Whether an engine takes a statement, which is then undone. */
  private boolean isTaken(String text, String undo) {
    try {
      base.change(text);
      base.change(undo);
      return true;
    } catch (SQLException e) {
      return false;
    }
  }

  private String text(StagingTable stage, Form form) {
    List<String> columns = new ArrayList<>();
    // Some engines make no table without a primary key.
    columns.add(
        LINE
            + " "
            + base.traits().storage().number()
            + (form == Form.LASTING ? " NOT NULL PRIMARY KEY" : ""));
    for (StagingTable.Part part : stage.all()) {
      String type =
          part.table().isEmpty()
              ? types.text(Math.max(1, stage.optional().size()))
              : part.column().type();
      columns.add(name(part.name()) + " " + type);
    }
    return form.begin
        + form.prefix
        + name(stage.name())
        + " ("
        + String.join(", ", columns)
        + ")"
        + form.end;
  }

  @Override
  protected ValueKind kindOf(Column column) {
    return types.kind(column.type());
  }

  @Override
  protected void bind(PreparedStatement sql, int index, ValueKind kind, String text)
      throws SQLException, BadValueException {
    switch (kind) {
      case WHOLE -> sql.setLong(index, Values.whole(text));
      case DECIMAL -> {
        Values.checkNumber(text);
        sql.setBigDecimal(index, new BigDecimal(text));
      }
      case FLOATING -> {
        Values.checkNumber(text);
        sql.setDouble(index, Double.parseDouble(text));
      }
      case MOMENT -> {
        Values.checkMoment(text);
        sql.setString(index, Values.canonicalTime(text).replace('T', ' ').replace("Z", ""));
      }
      default -> super.bind(sql, index, kind, text);
    }
  }

  @Override
  protected String words(SQLException e) {
    return session().fault(e).message();
  }

  @Override
  public String same(Column column, String left, String right) {
    String one = comparable(column, left);
    String other = comparable(column, right);
    // What is compared with NULL is unknown, and the opposite of that is unknown too.
    return "CASE WHEN %s = %s OR %s IS NULL AND %s IS NULL THEN 1 ELSE 0 END = 1"
        .formatted(one, other, left, right);
  }

  private String comparable(Column column, String expression) {
    return types.isLarge(column.type()) && kind(column) == ValueKind.TEXT
        ? "CAST(" + expression + " AS " + types.longestText() + ")"
        : expression;
  }

  @Override
  protected String nothing(Column column) {
    return "CAST(NULL AS " + column.type() + ")";
  }

  @Override
  protected boolean keepsOrder() {
    return false;
  }

  /** A join in UPDATE is not in the standard: each value is looked up. */
  @Override
  public String assign(StagingTable stage, Map<String, String> values, String condition) {
    String from = " FROM " + staged(stage) + " s WHERE " + matching(stage);
    return "UPDATE "
        + session().quoted(stage.table())
        + alias()
        + " SET "
        + values.entrySet().stream()
            .map(one -> name(one.getKey()) + " = (SELECT " + one.getValue() + from + ")")
            .collect(Collectors.joining(", "))
        + " WHERE EXISTS (SELECT 1"
        + from
        + " AND "
        + condition
        + ")";
  }

  /** Under another name, since some engines put a schema in front of the stage's own. */
  @Override
  public String resolve(
      StagingTable stage, String column, String part, String from, String value, Column meaning) {
    return "UPDATE "
        + staged(stage)
        + " s SET "
        + name(column)
        + " = (SELECT r."
        + name(value)
        + " FROM "
        + from
        + " r WHERE "
        + equal(meaning, "r." + name(meaning.name()), "s." + name(part))
        + ") WHERE "
        + name(column)
        + " IS NULL AND "
        + name(part)
        + " IS NOT NULL";
  }

  @Override
  protected String alias() {
    return " t";
  }

  @Override
  public String standInText(String of) {
    return "'~' || TRIM(CAST(" + of + " AS CHAR(20)))";
  }

  @Override
  public boolean numbersJoinTransaction() {
    return base.traits().structureInTransactions();
  }

  @Override
  public List<String> numbersGoOn(Table table, Column column) throws SQLException {
    String query = "SELECT max(" + name(column.name()) + ") FROM " + base.quoted(table.name());
    long highest = base.number(query);
    return highest <= 0
        ? List.of()
        : List.of(
            "ALTER TABLE "
                + base.quoted(table.name())
                + " ALTER COLUMN "
                + name(column.name())
                + " RESTART WITH "
                + (highest + 1));
  }
}
