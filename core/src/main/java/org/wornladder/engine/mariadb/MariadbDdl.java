package org.wornladder.engine.mariadb;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Dialects;

/** Writes structures for MariaDB (MariaDB documentation, "CREATE TABLE", "ALTER TABLE"). */
final class MariadbDdl extends SqlDdl {
  /** How the expression begins of a column that says from when, or until when, a row was there. */
  static final String ROW = "ROW ";

  /** What a column must fulfil that was declared as a part of it: as such it goes with it. */
  static final String CHECK = "check";

  MariadbDdl() {
    super(Dialects.MARIADB, MariadbEngine.QUOTING, Letters.BOTH);
  }

  @Override
  protected Creation table(Element table) {
    List<String> inside = parts(table, Kind.FOREIGN_KEY);
    table.parts(Kind.INDEX).forEach(index -> inside.add(key(index)));
    List<String> rows =
        table.parts(Kind.COLUMN).stream()
            .filter(column -> column.fact(Column.GENERATED).filter(this::isOfRow).isPresent())
            .sorted(Comparator.comparing(column -> column.fact(Column.GENERATED).orElse("")))
            .map(column -> name(column.name()))
            .toList();
    if (!rows.isEmpty()) {
      inside.add("PERIOD FOR SYSTEM_TIME (" + rows.get(1) + ", " + rows.get(0) + ")");
    }
    List<String> last = new ArrayList<>();
    for (Element key : table.parts(Kind.FOREIGN_KEY)) {
      last.add("ALTER TABLE " + name(table.name()) + " ADD " + constraint(key, table.name()));
    }
    String statement = "CREATE TABLE " + name(table.name()) + lines(inside) + options(table);
    return new Creation(List.of(statement), List.of(), last);
  }

  private boolean isOfRow(String generated) {
    return generated.startsWith(ROW);
  }

  /** What was made under another mode or in another time zone says something else in this one. */
  @Override
  public Creation create(Element element) {
    boolean elsewhere =
        element.fact("sql mode").isPresent() || element.fact("time zone").isPresent();
    return elsewhere ? Creation.NONE : super.create(element);
  }

  private String options(Element table) {
    StringBuilder text = new StringBuilder();
    table.fact("engine").ifPresent(engine -> text.append(" ENGINE = ").append(engine));
    table.fact("collation").ifPresent(name -> text.append(collation(name)));
    table.fact("storage options").ifPresent(more -> text.append(' ').append(more));
    table.fact(Column.COMMENT).ifPresent(words -> text.append(" COMMENT = ").append(text(words)));
    table.fact("system versioned").ifPresent(yes -> text.append(" WITH SYSTEM VERSIONING"));
    table.fact("partitions").ifPresent(how -> text.append(' ').append(how));
    return text.toString();
  }

  private static String collation(String name) {
    return " DEFAULT CHARSET = " + charset(name) + " COLLATE = " + name;
  }

  /** A collation's name begins with its character set's. */
  private static String charset(String collation) {
    int end = collation.indexOf('_');
    return end < 0 ? collation : collation.substring(0, end);
  }

  /** An index inside a table's statement. */
  private String key(Element index) {
    String definition = index.fact(Element.DEFINITION).orElse("");
    int end = definition.indexOf(" USING ");
    int at = end < 0 ? definition.indexOf(" (") : end;
    return definition.substring(0, at) + " " + name(index.name()) + definition.substring(at);
  }

  @Override
  protected String index(Element index, String table) {
    return "ALTER TABLE " + name(table) + " ADD " + key(index);
  }

  @Override
  protected String column(Element column) {
    StringBuilder text = new StringBuilder(name(column.name()));
    String type = column.fact(TYPE).orElse("");
    text.append(' ').append(type);
    column
        .fact(Column.COLLATION)
        .ifPresent(
            name ->
                text.append(" CHARACTER SET ")
                    .append(charset(name))
                    .append(" COLLATE ")
                    .append(name));
    Optional<String> row = column.fact(Column.GENERATED).filter(this::isOfRow);
    Optional<String> computed = computed(column);
    if (row.isPresent()) {
      text.append(" GENERATED ALWAYS AS ").append(row.get());
    } else if (computed.isPresent()) {
      text.append(" GENERATED ALWAYS AS ").append(computed.get());
      text.append(isStored(column) ? " STORED" : " VIRTUAL");
    } else {
      // A timestamp that nothing is said of is NOT NULL in older versions.
      text.append(isNullable(column) ? " NULL" : " NOT NULL");
    }
    column.fact(DEFAULT).ifPresent(value -> text.append(" DEFAULT ").append(value));
    column.fact(Column.IDENTITY).ifPresent(how -> text.append(" AUTO_INCREMENT"));
    column.fact(MariadbStructure.EXTRA).ifPresent(more -> text.append(' ').append(more));
    column.fact(Column.COMMENT).ifPresent(words -> text.append(" COMMENT ").append(text(words)));
    column.fact(CHECK).ifPresent(what -> text.append(" CHECK (").append(what).append(')'));
    return text.toString();
  }

  @Override
  protected Optional<List<String>> tableChange(Difference difference) {
    String alter = "ALTER TABLE " + name(difference.name()) + " ";
    List<String> statements = new ArrayList<>();
    for (Difference.FactChange fact : difference.facts()) {
      switch (fact.name()) {
        case Column.COMMENT -> statements.add(alter + "COMMENT = " + text(fact.after().orElse("")));
        case "engine" -> statements.add(alter + "ENGINE = " + fact.after().orElse("InnoDB"));
        case "collation" -> statements.add(alter + collation(fact.after().orElse("")).strip());
        default -> {
          return Optional.empty();
        }
      }
    }
    return Optional.of(statements);
  }

  @Override
  protected Optional<List<String>> columnChange(Difference difference, String alter) {
    return Optional.of(
        List.of(alter + "MODIFY COLUMN " + column(difference.after().orElseThrow())));
  }

  @Override
  protected Optional<String> keyDrop(Element key, String table) {
    String alter = "ALTER TABLE " + name(table) + " DROP ";
    Optional<String> known = known(key);
    return switch (key.kind()) {
      case PRIMARY_KEY -> Optional.of(alter + "PRIMARY KEY");
      case INDEX -> Optional.of(alter + "INDEX " + name(key.name()));
      case FOREIGN_KEY -> known.map(name -> alter + "FOREIGN KEY " + name(name));
      default -> known.map(name -> alter + "CONSTRAINT " + name(name));
    };
  }

  @Override
  protected Optional<String> drop(Element element) {
    return element.kind() == Kind.OTHER ? Optional.empty() : super.drop(element);
  }
}
