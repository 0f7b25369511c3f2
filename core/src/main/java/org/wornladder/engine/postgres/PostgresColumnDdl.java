package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.wornladder.engine.SqlDdl;
import org.wornladder.schema.Column;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Table;

/** Writes columns for PostgreSQL (manual, "CREATE TABLE", "ALTER TABLE", "ALTER TYPE"). */
final class PostgresColumnDdl {
  /** What parts options, outside of quotes. */
  private static final Pattern BETWEEN = Pattern.compile(", (?=(?:[^']*'[^']*')*[^']*$)");

  private final Function<ObjectId, String> objects;
  private final UnaryOperator<String> names;

  /**
   * @param objects writes an object's name
   * @param names writes a column's name
   */
  PostgresColumnDdl(Function<ObjectId, String> objects, UnaryOperator<String> names) {
    this.objects = objects;
    this.names = names;
  }

  private String name(String name) {
    return names.apply(name);
  }

  static boolean isMadeAsPartition(Table table) {
    return table.option(PostgresDdl.BOUND).isPresent()
        && table.option(PostgresDdl.ATTACHED).isEmpty();
  }

  /** A column as ADD COLUMN writes it. */
  String whole(Column column) {
    StringBuilder text = new StringBuilder(attribute(column));
    Optional<String> computed = SqlDdl.computed(column);
    if (computed.isPresent()) {
      text.append(" GENERATED ALWAYS AS ").append(computed.get());
      text.append(SqlDdl.isStored(column) ? " STORED" : " VIRTUAL");
    }
    column.more(Column.IDENTITY).ifPresent(how -> text.append(" ").append(identity(how)));
    column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(value));
    return text + (column.nullable() ? "" : " NOT NULL");
  }

  /** Name, type and collation. */
  String attribute(Column column) {
    return name(column.name()) + " " + typed(column);
  }

  String retypedAttribute(Column column) {
    return name(column.name()) + " TYPE " + typed(column);
  }

  private static String typed(Column column) {
    return column.type() + column.more(Column.COLLATION).map(name -> " COLLATE " + name).orElse("");
  }

  private static String identity(String how) {
    boolean always = how.startsWith("always");
    String options = how.contains("(") ? " " + how.substring(how.indexOf('(')) : "";
    return "GENERATED " + (always ? "ALWAYS" : "BY DEFAULT") + " AS IDENTITY" + options;
  }

  /**
   * A column as its table's statement has it: a partition's and a typed table's are there already,
   * with a default or more of their own; one that is inherited is not there.
   */
  Optional<String> inTable(Table table, Column column) {
    boolean partition = isMadeAsPartition(table);
    if (!partition && table.option(PostgresDdl.OF_TYPE).isEmpty()) {
      return column.more(PostgresDdl.INHERITED).isPresent()
          ? Optional.empty()
          : Optional.of(whole(column));
    }
    boolean plain =
        column.more(Column.GENERATED).isEmpty() && column.more(Column.IDENTITY).isEmpty();
    String own =
        column.defaultValue().filter(value -> plain).map(value -> " DEFAULT " + value).orElse("");
    if (partition ? column.more(PostgresDdl.NOT_NULL).isPresent() : !column.nullable()) {
      own += " NOT NULL";
    }
    return own.isEmpty() ? Optional.empty() : Optional.of(name(column.name()) + own);
  }

  /** What a column's words in its table's statement cannot say. */
  List<String> settings(Table table, Column column) {
    List<String> statements = new ArrayList<>();
    boolean inherited = column.more(PostgresDdl.INHERITED).isPresent();
    if (inherited && table.option(PostgresDdl.BOUND).isEmpty()) {
      String alter = alter(table.id(), column);
      column.defaultValue().ifPresent(value -> statements.add(alter + "SET DEFAULT " + value));
      column.more(PostgresDdl.NOT_NULL).ifPresent(own -> statements.add(alter + "SET NOT NULL"));
    }
    statements.addAll(tuning(table.id(), column));
    return statements;
  }

  /** Storage, statistics and other settings of a column that is there. */
  List<String> tuning(ObjectId table, Column column) {
    String alter = alter(table, column);
    List<String> statements = new ArrayList<>();
    column.more(PostgresDdl.STORAGE).ifPresent(how -> statements.add(alter + "SET STORAGE " + how));
    column
        .more(PostgresDdl.STATISTICS)
        .ifPresent(many -> statements.add(alter + "SET STATISTICS " + many));
    column.more(PostgresDdl.OPTIONS).ifPresent(all -> statements.add(alter + "SET (" + all + ")"));
    return statements;
  }

  private String alter(ObjectId table, Column column) {
    return "ALTER TABLE " + objects.apply(table) + " ALTER COLUMN " + name(column.name()) + " ";
  }

  /** What makes one column of another, but for its comment. */
  List<String> alter(ObjectId table, Column before, Column after) {
    String alter = alter(table, after);
    List<String> changed = SqlDdl.changed(before, after);
    List<String> statements = new ArrayList<>();
    if (changed.contains(Column.GENERATED)) {
      statements.add(alter + "DROP EXPRESSION");
    }
    boolean retyped = changed.contains(Column.TYPE) || changed.contains(Column.COLLATION);
    boolean inTheWay = retyped && before.defaultValue().isPresent();
    if (inTheWay) {
      // A default is not always cast to the new type.
      statements.add(alter + "DROP DEFAULT");
    }
    if (retyped) {
      statements.add(alter + retyping(before, after));
    }
    if (changed.contains(Column.IDENTITY)) {
      statements.addAll(identity(alter, before, after));
    }
    if (changed.contains(Column.NULLABLE)) {
      statements.add(alter + (after.nullable() ? "DROP NOT NULL" : "SET NOT NULL"));
    }
    if (inTheWay || changed.contains(Column.DEFAULT)) {
      Optional<String> set = after.defaultValue().map(value -> "SET DEFAULT " + value);
      if (set.isPresent() || !inTheWay) {
        statements.add(alter + set.orElse("DROP DEFAULT"));
      }
    }
    if (changed.contains(PostgresDdl.STATISTICS)) {
      statements.add(alter + "SET STATISTICS " + after.more(PostgresDdl.STATISTICS).orElse("-1"));
    }
    if (changed.contains(PostgresDdl.STORAGE)) {
      statements.add(alter + "SET STORAGE " + after.more(PostgresDdl.STORAGE).orElse(usual(after)));
    }
    if (changed.contains(PostgresDdl.OPTIONS)) {
      statements.addAll(
          options(alter, before.more(PostgresDdl.OPTIONS), after.more(PostgresDdl.OPTIONS)));
    }
    return statements;
  }

  /** A value goes through its text where it comes from or to a type that is made anew. */
  private String retyping(Column before, Column after) {
    String name = name(after.name());
    return "TYPE " + typed(after) + " USING " + name + "::" + after.type();
  }

  private static List<String> identity(String alter, Column before, Column after) {
    Optional<String> is = after.more(Column.IDENTITY);
    if (is.isEmpty()) {
      return List.of(alter + "DROP IDENTITY");
    }
    if (before.more(Column.IDENTITY).isEmpty()) {
      return List.of(alter + "ADD " + identity(is.get()));
    }
    boolean always = is.get().startsWith("always");
    String options = is.get().contains("(") ? inParentheses(is.get()) : "";
    StringBuilder set = new StringBuilder();
    set.append("SET GENERATED ").append(always ? "ALWAYS" : "BY DEFAULT");
    Map<String, String> all = new LinkedHashMap<>();
    all.put("INCREMENT BY", "1");
    all.put("CACHE", "1");
    all.forEach(
        (word, usual) -> set.append(options.contains(word) ? "" : " SET " + word + " " + usual));
    set.append(options.contains("MINVALUE") ? "" : " SET NO MINVALUE");
    set.append(options.contains("MAXVALUE") ? "" : " SET NO MAXVALUE");
    set.append(options.contains("CYCLE") ? "" : " SET NO CYCLE");
    for (String option : options.split(" (?=START|INCREMENT|MINVALUE|MAXVALUE|CACHE|CYCLE)")) {
      set.append(option.isEmpty() ? "" : " SET " + option);
    }
    return List.of(alter + set);
  }

  private static String inParentheses(String how) {
    return how.substring(how.indexOf('(') + 1, how.length() - 1);
  }

  /** How a type that can be stored otherwise is stored by itself (manual, "Storage", "TOAST"). */
  private static String usual(Column column) {
    String type = column.type();
    boolean main = type.startsWith("numeric") || type.equals("inet") || type.equals("cidr");
    return main ? "MAIN" : "EXTENDED";
  }

  /**
   * The statements that set options and take those back that are not wanted any more.
   *
   * @param alter the statement's beginning
   */
  static List<String> options(String alter, Optional<String> before, Optional<String> after) {
    List<String> statements = new ArrayList<>();
    List<String> gone = new ArrayList<>();
    String wanted = after.orElse("");
    for (String option : BETWEEN.split(before.orElse(""))) {
      String name = option.replaceFirst("=.*", "");
      boolean kept =
          List.of(BETWEEN.split(wanted)).stream().anyMatch(one -> one.startsWith(name + "="));
      if (!name.isEmpty() && !kept) {
        gone.add(name);
      }
    }
    if (!gone.isEmpty()) {
      statements.add(alter + "RESET (" + String.join(", ", gone) + ")");
    }
    if (!wanted.isEmpty()) {
      statements.add(alter + "SET (" + wanted + ")");
    }
    return statements;
  }
}
