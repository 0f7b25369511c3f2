package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.DatabaseReport;
import org.wornladder.cli.Terminal;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;
import org.wornladder.schema.Table;

/** What stands in a database: its tables, or one table with its first rows. */
public final class ShowView {
  private static final int LONGEST_VALUE = 40;

  private final Terminal terminal;
  private final Colors paint;
  private final PrintStream out;

  public ShowView(Terminal terminal) {
    this.terminal = terminal;
    this.paint = new Colors(terminal);
    this.out = terminal.out();
  }

  public void show(DatabaseReport report) {
    String there = report.isThere() ? "" : " (not there yet; apply makes it)";
    out.println(
        paint.strong(report.environment())
            + paint.faint("  " + SafeText.line(report.address()) + there));
    if (!report.schema().tables().isEmpty()) {
      out.println();
      Grid grid = new Grid().header(List.of("table", "rows", "columns"));
      for (Table table : report.schema().tables()) {
        String columns = String.join(", ", table.columns().stream().map(Column::name).toList());
        Long rows = report.rowCounts().get(table.name());
        String counted = rows == null ? "not readable" : rows.toString();
        grid.row(SafeText.line(table.name()), counted, SafeText.line(columns));
      }
      grid.lines("  ", terminal).forEach(out::println);
    }
    for (Kind kind : Kind.values()) {
      if (!kind.isRight()) {
        names(kind.plural(), report.schema().names(kind));
      }
    }
    out.println();
    NotReadable.sorts(report.schema().snapshot().unseenKinds(), paint).forEach(out::println);
    int tables = report.schema().tables().size();
    long columns = report.schema().tables().stream().mapToLong(t -> t.columns().size()).sum();
    out.println(
        tables == 0
            ? "No table stands here."
            : PlanView.count(tables, "table") + ", " + PlanView.count(columns, "column") + ".");
  }

  private void names(String kind, List<String> names) {
    if (!names.isEmpty()) {
      out.println();
      out.println("  " + kind + ": " + SafeText.line(String.join(", ", names)));
    }
  }

  public void show(DatabaseReport.OfTable report) {
    Table table = report.table();
    out.println(
        paint.strong(SafeText.line(table.name()))
            + paint.faint(
                "  on " + report.environment() + ", " + PlanView.count(report.rowCount(), "row")));
    out.println();
    Grid columns = new Grid().header(List.of("column", "type", "", ""));
    for (Column column : table.columns()) {
      columns.row(
          SafeText.line(column.name()),
          SafeText.line(column.type()),
          column.nullable() ? "" : "NOT NULL",
          SafeText.line(extra(table, column)));
    }
    print(columns);
    keys(table);
    if (!report.rows().isEmpty()) {
      rows(report);
    }
  }

  private static String extra(Table table, Column column) {
    List<String> parts = new ArrayList<>();
    if (table.primaryKey().contains(column.name())) {
      parts.add("PRIMARY KEY");
    }
    column.defaultValue().ifPresent(value -> parts.add("DEFAULT " + value));
    column.more().forEach((word, value) -> parts.add(word.toUpperCase(Locale.ROOT) + " " + value));
    return String.join(" ", parts);
  }

  private void keys(Table table) {
    Grid keys = new Grid();
    for (ForeignKey key : table.foreignKeys()) {
      String target =
          key.targetColumns().isEmpty() ? "" : " (" + String.join(", ", key.targetColumns()) + ")";
      String onDelete = key.onDelete().equals("NO ACTION") ? "" : " ON DELETE " + key.onDelete();
      keys.row(
          "foreign key",
          SafeText.line(
              "(" + String.join(", ", key.columns()) + ") to " + key.table() + target + onDelete));
    }
    for (Index index : table.indexes()) {
      String columns = "(" + String.join(", ", index.columns()) + ")";
      String partial = index.partial() ? ", partial" : "";
      String kind = index.unique() ? "unique" : "index";
      String name = index.fromConstraint() ? "" : index.name() + " ";
      keys.row(kind, SafeText.line(name + columns + partial));
    }
    if (!table.foreignKeys().isEmpty() || !table.indexes().isEmpty()) {
      out.println();
      print(keys);
    }
  }

  private void rows(DatabaseReport.OfTable report) {
    out.println();
    Grid rows = new Grid().header(report.header().stream().map(SafeText::line).toList());
    for (List<Optional<String>> row : report.rows()) {
      rows.row(row.stream().map(this::value).toList());
    }
    print(rows);
    long more = report.rowCount() - report.rows().size();
    if (more > 0) {
      out.println(paint.faint("  and " + PlanView.count(more, "row") + " more; --rows N shows N"));
    }
  }

  private String value(Optional<String> value) {
    return value
        .map(text -> SafeText.cut(SafeText.line(text), LONGEST_VALUE, paint.ellipsis()))
        .orElse("NULL");
  }

  private void print(Grid grid) {
    grid.lines("  ", terminal).forEach(out::println);
  }

  public void json(DatabaseReport report) {
    new Json()
        .put("environment", report.environment())
        .put("database", report.address())
        .put("database_exists", report.isThere())
        .put(
            "tables",
            report.schema().tables().stream()
                .map(
                    table ->
                        table(table)
                            .put("rows", Optional.ofNullable(report.rowCounts().get(table.name()))))
                .toList())
        .put("views", report.schema().names(Kind.VIEW))
        .put("triggers", report.schema().names(Kind.TRIGGER))
        .put(
            "objects",
            report.schema().objects().stream()
                .filter(object -> !object.kind().isRight())
                .map(ShowView::object)
                .toList())
        .put("not_readable", report.schema().snapshot().unseenKinds())
        .write(out);
  }

  public void json(DatabaseReport.OfTable report) {
    new Json()
        .put("environment", report.environment())
        .put("table", table(report.table()).put("rows", report.rowCount()))
        .put("first_rows", List.copyOf(report.rows()))
        .write(out);
  }

  private static Json object(SchemaObject object) {
    return new Json()
        .put("kind", object.kind().word())
        .put("name", object.name())
        .put("table", Optional.of(object.table()).filter(table -> !table.isEmpty()))
        .put("definition", object.definition());
  }

  private static Json table(Table table) {
    return new Json()
        .put("name", table.name())
        .put("columns", table.columns().stream().map(ShowView::column).toList())
        .put("primary_key", table.primaryKey())
        .put("foreign_keys", table.foreignKeys().stream().map(ShowView::foreignKey).toList())
        .put("indexes", table.indexes().stream().map(ShowView::index).toList());
  }

  private static Json column(Column column) {
    return new Json()
        .put("name", column.name())
        .put("type", column.type())
        .put("nullable", column.nullable())
        .put("default", column.defaultValue())
        .put("generated", column.more(Column.GENERATED).isPresent());
  }

  private static Json foreignKey(ForeignKey key) {
    return new Json()
        .put("columns", key.columns())
        .put("table", key.table())
        .put("target_columns", key.targetColumns())
        .put("on_update", key.onUpdate())
        .put("on_delete", key.onDelete());
  }

  private static Json index(Index index) {
    return new Json()
        .put("name", index.name())
        .put("columns", index.columns())
        .put("unique", index.unique())
        .put("partial", index.partial())
        .put("from_constraint", index.fromConstraint());
  }
}
