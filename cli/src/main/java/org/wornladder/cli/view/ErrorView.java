package org.wornladder.cli.view;

import java.util.List;
import java.util.Set;
import org.wornladder.LadderException;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.StatementFailedException;
import org.wornladder.cli.Terminal;
import org.wornladder.project.Problem;

/** What went wrong: what happened, where, and what to do next. */
public final class ErrorView {
  private static final int INDENT = 9;

  private final Terminal terminal;
  private final Colors colors;
  private final boolean json;
  private final boolean showRows;
  private final Set<String> guarded;

  /**
   * @param showRows whether values of rows may be printed
   * @param guarded the names of the guarded environments
   */
  public ErrorView(Terminal terminal, boolean json, boolean showRows, Set<String> guarded) {
    this.guarded = guarded;
    this.showRows = showRows;
    this.terminal = terminal;
    this.colors = new Colors(terminal);
    this.json = json;
  }

  public void show(LadderException e, int exitCode) {
    if (json) {
      json(e, exitCode).write(terminal.out());
      return;
    }
    terminal.out().flush();
    if (e instanceof ProjectException project) {
      for (Problem problem : project.problems()) {
        part(
            problem.message(),
            problem.place().toString(),
            AdviceText.of(problem.advice(), guarded));
      }
    } else if (e instanceof RefusedException refused) {
      for (Refusal refusal : refused.refusals()) {
        part(refusal.what(), refusal.where(), AdviceText.of(refusal.advice(), guarded));
      }
    } else if (e instanceof StatementFailedException failed) {
      failure(failed);
    } else {
      part(e.what(), e.where().orElse(""), AdviceText.of(e.advice(), guarded));
    }
  }

  private void part(String what, String where, String next) {
    terminal.err().println(colors.bad("ladder: ") + SafeText.line(what));
    line("where", where);
    line("next", next);
  }

  /** A named part; alternatives are printed one below the other. */
  private void line(String name, String text) {
    if (text.isEmpty()) {
      return;
    }
    String label = name;
    int room = terminal.errIsTerminal() ? terminal.width() - INDENT : Integer.MAX_VALUE;
    for (String way : text.split("; or ")) {
      for (String row : Wrapping.words(SafeText.line(way), room)) {
        terminal.err().println("  " + colors.faint(SafeText.pad(label, 5)) + "  " + row);
        label = "";
      }
      label = "or";
    }
  }

  private void failure(StatementFailedException e) {
    terminal.err().println(colors.bad("ladder: ") + SafeText.line(e.what()));
    line("where", e.failure().place());
    e.failure().statement().ifPresent(this::statement);
    e.failure()
        .values()
        .ifPresent(
            values ->
                line(
                    "rows",
                    showRows ? values : "--show-rows prints what the database said of them"));
    line("left", e.failure().left());
    line("next", AdviceText.of(e.advice(), guarded));
  }

  private void statement(String text) {
    for (String sql : SqlText.lines(text, colors)) {
      terminal.err().println(" ".repeat(INDENT) + sql);
    }
  }

  /** A command that was typed wrongly. */
  public void usage(String what, String next, int exitCode) {
    new Json()
        .put("error", new Json().put("what", what).put("next", next).put("exit_code", exitCode))
        .write(terminal.out());
    terminal.flush();
  }

  private Json json(LadderException e, int exitCode) {
    Json error = new Json();
    error
        .put("what", e.what())
        .put("where", e.where())
        .put("next", AdviceText.optional(e.advice(), guarded));
    error.put("exit_code", exitCode);
    if (e instanceof ProjectException project) {
      List<Problem> problems = project.problems();
      error.put("all", problems.stream().map(ProblemJson::of).toList());
    } else if (e instanceof RefusedException refused) {
      error.put("all", refused.refusals().stream().map(this::json).toList());
    } else if (e instanceof StatementFailedException failed) {
      error
          .put("environment", failed.failure().environment())
          .put("step", failed.failure().step())
          .put("statement", failed.failure().statement())
          .put("database_said", failed.failure().message())
          .put("rows", failed.failure().values().filter(values -> showRows))
          .put("left", failed.failure().left())
          .put("steps_completed", failed.failure().completed());
    }
    return new Json().put("error", error);
  }

  private Json json(Refusal refusal) {
    return new Json()
        .put("what", refusal.what())
        .put("where", refusal.where())
        .put("next", AdviceText.of(refusal.advice(), guarded));
  }
}
