package org.wornladder.engine.sqlite;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Dialects;

/**
 * Writes structures for SQLite (SQLite documentation, "CREATE TABLE", "ALTER TABLE"). A table whose
 * own text is known is written as it was.
 */
final class SqliteDdl extends SqlDdl {
  private static final String AUTOINCREMENT = "autoincrement";

  SqliteDdl() {
    super(Dialects.SQLITE, SqliteEngine.QUOTING, Letters.BOTH);
  }

  @Override
  protected Creation table(Element table) {
    List<String> then = new ArrayList<>();
    table.parts(Kind.INDEX).forEach(index -> then.add(index(index, table.name())));
    String statement = table.fact(Element.TEXT).orElseGet(() -> written(table));
    return new Creation(List.of(statement), then, List.of());
  }

  private String written(Element table) {
    Optional<String> module = table.fact("virtual");
    if (module.isPresent()) {
      return "CREATE VIRTUAL TABLE " + name(table.name()) + " USING " + module.get();
    }
    boolean counts =
        table.parts(Kind.COLUMN).stream()
            .anyMatch(column -> column.fact(Column.IDENTITY).isPresent());
    List<String> inside = counts ? parts(table, Kind.PRIMARY_KEY) : parts(table);
    List<String> options = new ArrayList<>();
    table.fact("strict").ifPresent(yes -> options.add("STRICT"));
    table.fact("rowid").ifPresent(no -> options.add("WITHOUT ROWID"));
    String end = options.isEmpty() ? "" : " " + String.join(", ", options);
    return "CREATE TABLE " + name(table.name()) + lines(inside) + end;
  }

  @Override
  protected String column(Element column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    column.fact(TYPE).ifPresent(type -> text.append(' ').append(type));
    column
        .fact(Column.IDENTITY)
        .filter(AUTOINCREMENT::equals)
        .ifPresent(how -> text.append(" PRIMARY KEY AUTOINCREMENT"));
    text.append(isNullable(column) ? "" : " NOT NULL");
    column.fact(DEFAULT).ifPresent(value -> text.append(" DEFAULT (").append(value).append(")"));
    column.fact(Column.COLLATION).ifPresent(name -> text.append(" COLLATE ").append(name(name)));
    computed(column)
        .ifPresent(
            how ->
                text.append(" GENERATED ALWAYS AS ")
                    .append(how)
                    .append(isStored(column) ? " STORED" : " VIRTUAL"));
    return text.toString();
  }

  @Override
  protected String demand(Element constraint) {
    return constraint.kind() == Kind.UNIQUE
        ? "UNIQUE " + columns(constraint.fact(Element.DEFINITION).orElse(""))
        : super.demand(constraint);
  }

  @Override
  protected String index(Element index, String table) {
    return index.fact(Element.DEFINITION).orElse("");
  }

  @Override
  protected Optional<List<String>> tableChange(Difference difference) {
    return Optional.empty();
  }

  /** The engine changes no column in place. */
  @Override
  protected Optional<List<String>> columnChange(Difference difference, String alter) {
    return Optional.empty();
  }

  @Override
  protected Optional<String> keyAdd(Element key, String table) {
    return key.kind() == Kind.INDEX ? super.keyAdd(key, table) : Optional.empty();
  }

  @Override
  protected Optional<String> keyDrop(Element key, String table) {
    return key.kind() == Kind.INDEX ? super.keyDrop(key, table) : Optional.empty();
  }
}
