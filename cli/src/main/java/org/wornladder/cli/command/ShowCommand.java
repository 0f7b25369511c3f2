package org.wornladder.cli.command;

import org.wornladder.DatabaseReport;
import org.wornladder.Ladder;
import org.wornladder.StructureSql;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.DdlView;
import org.wornladder.cli.view.FieldsView;
import org.wornladder.cli.view.ShowView;
import picocli.CommandLine.Model.CommandSpec;

/** Shows what is in a database. */
final class ShowCommand implements Command {
  private static final String TABLE = "--table";
  private static final String DDL = "--ddl";
  private static final String ROWS = "--rows";
  private static final String FIELDS = "--fields";
  private static final int FIRST_ROWS = 5;
  private static final int SAMPLE = 100;

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.text(TABLE, "NAME", "One table: its columns, keys, indexes and first rows."));
    spec.addOption(
        Options.text(
            FIELDS,
            "NAME",
            "One collection: its fields with their types, inferred from documents."));
    spec.addOption(
        Options.text(
            ROWS, "N", "How many rows of the table; 5 otherwise, 0 for none. With --fields 100."));
    spec.addOption(Options.flag(DDL, "As SQL, in an order that runs on an empty database."));
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    if (call.has(ROWS) && !call.has(TABLE) && !call.has(FIELDS)) {
      throw call.wrong("--rows goes with --table or --fields");
    }
    if (call.has(FIELDS)) {
      return fields(call);
    }
    if (call.has(DDL)) {
      if (call.has(Options.FORMAT) || call.has(ROWS)) {
        throw call.wrong("--ddl goes with --table alone");
      }
      StructureSql sql = call.ladder().ddl(call.environment(), call.text(TABLE));
      new DdlView(call.terminal()).show(sql);
      return sql.isWhole() ? ExitCode.DONE : ExitCode.FOUND;
    }
    int rows = call.count(ROWS, 0, FIRST_ROWS);
    boolean json = call.isJson();
    Ladder ladder = call.ladder();
    ShowView view = new ShowView(call.terminal());
    if (call.has(TABLE)) {
      DatabaseReport.OfTable report =
          ladder.showTable(call.environment(), call.text(TABLE).orElseThrow(), rows);
      if (json) {
        view.json(report);
      } else {
        view.show(report);
      }
      return ExitCode.DONE;
    }
    DatabaseReport report = ladder.show(call.environment());
    if (json) {
      view.json(report);
    } else {
      view.show(report);
    }
    return ExitCode.DONE;
  }

  private static int fields(Call call) {
    if (call.has(TABLE) || call.has(DDL)) {
      throw call.wrong("--fields goes with --rows alone");
    }
    DatabaseReport.OfFields report =
        call.ladder()
            .showFields(
                call.environment(), call.text(FIELDS).orElseThrow(), call.count(ROWS, 1, SAMPLE));
    FieldsView view = new FieldsView(call.terminal());
    if (call.isJson()) {
      view.json(report);
    } else {
      view.show(report);
    }
    return ExitCode.DONE;
  }
}
