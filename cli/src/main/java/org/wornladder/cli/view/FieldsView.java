package org.wornladder.cli.view;

import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.wornladder.DatabaseReport;
import org.wornladder.cli.Terminal;
import org.wornladder.engine.Documents.FieldTypes;

/** The fields of a collection as its documents show them. */
public final class FieldsView {
  private final Terminal terminal;
  private final Page page;

  public FieldsView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
  }

  public void show(DatabaseReport.OfFields report) {
    page.subject(
        SafeText.line(report.collection()),
        "on " + SafeText.line(report.environment()),
        PlanView.count(report.documents(), "document"));
    Columns fields = new Columns().header("field", "type", "values").figures(2);
    for (FieldTypes field : report.sample().fields()) {
      fields.row(
          SafeText.line(field.name()),
          field.types().entrySet().stream()
              .map(type -> types(field, type))
              .collect(Collectors.joining(", ")),
          String.format(
              Locale.ROOT, "%,d", field.types().values().stream().mapToLong(n -> n).sum()));
    }
    page.rows(fields);
    page.gap();
    page.verdict(
        report.sample().documents() == 0
            ? "There is no document to infer fields from."
            : "Inferred from "
                + PlanView.count(report.sample().documents(), "document")
                + (report.sample().documents() < report.documents()
                    ? ": others may hold something else."
                    : ", which are all."));
  }

  /** A type, and how many values are of it where others are of another one. */
  private static String types(FieldTypes field, Map.Entry<String, Long> type) {
    return field.types().size() == 1 ? type.getKey() : type.getKey() + " (" + type.getValue() + ")";
  }

  public void json(DatabaseReport.OfFields report) {
    new Json()
        .put("environment", report.environment())
        .put("collection", report.collection())
        .put("documents", report.documents())
        .put("inferred_from", report.sample().documents())
        .put(
            "fields",
            report.sample().fields().stream()
                .map(
                    field ->
                        new Json()
                            .put("name", field.name())
                            .put(
                                "types",
                                field.types().entrySet().stream()
                                    .map(
                                        type ->
                                            new Json()
                                                .put("type", type.getKey())
                                                .put("values", type.getValue()))
                                    .toList()))
                .toList())
        .write(terminal.out());
  }
}
