package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.DatabaseReport;
import org.wornladder.cli.Terminal;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Table;

/** What is in a database: its tables, or one table with its first rows. */
public final class ShowView {
  private static final int LONGEST_VALUE = 40;

  private final Terminal terminal;
  private final Colors colors;
  private final Page page;

  public ShowView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  public void show(DatabaseReport report) {
    String there = report.isThere() ? "" : " (not there yet; apply makes it)";
    page.subject(SafeText.line(report.environment()), SafeText.line(report.address()) + there, "");
    if (!report.schema().tables().isEmpty()) {
      boolean documents = isOfDocuments(report);
      Columns tables =
          documents
              ? new Columns().header("collection", "documents", "indexes").figures(1)
              : new Columns().header("table", "rows", "columns").figures(1);
      for (Table table : report.schema().tables()) {
        String columns =
            documents
                ? String.join(", ", table.indexes().stream().map(Index::name).toList())
                : String.join(", ", table.columns().stream().map(Column::name).toList());
        Long rows = report.rowCounts().get(table.name());
        String counted = rows == null ? "not readable" : String.format(Locale.ROOT, "%,d", rows);
        tables.row(SafeText.line(table.name()), counted, SafeText.line(columns));
      }
      page.rows(tables);
      page.gap();
    }
    Columns others = new Columns();
    for (Kind kind : Kind.values()) {
      List<String> names = report.schema().names(kind);
      if (!kind.isRight() && !names.isEmpty()) {
        String word = names.size() == 1 ? kind.label() : kind.plural();
        others.row(word, SafeText.line(String.join(", ", names)));
      }
    }
    page.rows(others);
    page.lines(NotReadable.kinds(report.schema().snapshot().unseenKinds(), colors));
    int tables = report.schema().tables().size();
    if (isOfDocuments(report)) {
      page.verdict(PlanView.count(tables, "collection") + ".");
      return;
    }
    long columns = report.schema().tables().stream().mapToLong(t -> t.columns().size()).sum();
    page.verdict(
        tables == 0
            ? "There is no table."
            : PlanView.count(tables, "table") + ", " + PlanView.count(columns, "column") + ".");
  }

  private static boolean isOfDocuments(DatabaseReport report) {
    return report.schema().tables().stream().anyMatch(one -> one.kind() == Kind.COLLECTION);
  }

  public void show(DatabaseReport.OfTable report) {
    Table table = report.table();
    page.subject(
        SafeText.line(table.name()),
        "on " + SafeText.line(report.environment()),
        PlanView.count(report.rowCount(), "row"));
    Columns columns = new Columns().header("column", "type", "", "");
    for (Column column : table.columns()) {
      columns.row(
          SafeText.line(column.name()),
          SafeText.line(column.type()),
          column.nullable() ? "" : "NOT NULL",
          SafeText.line(extra(table, column)));
    }
    page.rows(columns);
    page.gap();
    keys(table);
    page.gap();
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
    column.more().entrySet().stream()
        .filter(fact -> Facts.counts(fact.getKey()))
        .forEach(fact -> parts.add(fact.getKey().toUpperCase(Locale.ROOT) + " " + fact.getValue()));
    return String.join(" ", parts);
  }

  private void keys(Table table) {
    Columns keys = new Columns();
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
      if (index.fromConstraint() && index.columns().equals(table.primaryKey())) {
        continue;
      }
      String columns = "(" + String.join(", ", index.columns()) + ")";
      String partial = index.partial() ? ", partial" : "";
      String kind = index.unique() ? "unique" : "index";
      String name = index.fromConstraint() ? "" : index.name() + " ";
      keys.row(kind, SafeText.line(name + columns + partial));
    }
    page.rows(keys);
  }

  private void rows(DatabaseReport.OfTable report) {
    Columns rows =
        new Columns().header(report.header().stream().map(SafeText::line).toArray(String[]::new));
    for (List<Optional<String>> row : report.rows()) {
      rows.row(row.stream().map(this::value).toList());
    }
    page.rows(rows);
    long more = report.rowCount() - report.rows().size();
    if (more > 0) {
      page.line(colors.faint("  " + PlanView.count(more, "row") + " more, --rows N shows N"));
    }
  }

  private String value(Optional<String> value) {
    return value
        .map(text -> SafeText.cut(SafeText.line(text), LONGEST_VALUE, colors.ellipsis()))
        .orElse("NULL");
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
        .write(terminal.out());
  }

  public void json(DatabaseReport.OfTable report) {
    new Json()
        .put("environment", report.environment())
        .put("table", table(report.table()).put("rows", report.rowCount()))
        .put("first_rows", List.copyOf(report.rows()))
        .write(terminal.out());
  }

  private static Json object(DatabaseObject object) {
    return new Json()
        .put("kind", object.kind().label())
        .put("name", object.name())
        .put("table", object.fact(Facts.TABLE))
        .put("definition", object.fact(Facts.DEFINITION).orElse(""));
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
