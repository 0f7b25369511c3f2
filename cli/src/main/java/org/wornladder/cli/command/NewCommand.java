package org.wornladder.cli.command;

import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import org.wornladder.RungRemoval;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.engine.Engines;
import org.wornladder.engine.UrlEngines;
import org.wornladder.project.CommandDraft;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.RungDraft;
import org.wornladder.project.Shorthand;
import picocli.CommandLine.Model.CommandSpec;

/** Writes the next rung, or deletes one that nobody has run. */
final class NewCommand implements Command {
  private static final String CREATE_TABLE = "--create-table";
  private static final String ADD_COLUMN = "--add-column";
  private static final String DROP_COLUMN = "--drop-column";
  private static final String RENAME_COLUMN = "--rename-column";
  private static final String ADD_INDEX = "--add-index";
  private static final String TAKE_BACK = "--take-back";

  @Override
  public void describe(CommandSpec spec) {
    Options.words(spec, "WORDS", "0..*", "What the rung is for: its file's name.");
    spec.addOption(
        Options.texts(CREATE_TABLE, "TEXT", "Such as \"bin (code text not null primary key)\"."));
    spec.addOption(Options.texts(ADD_COLUMN, "TEXT", "Such as \"picking price decimal(10,2)\"."));
    spec.addOption(
        Options.texts(
            DROP_COLUMN,
            "TEXT",
            "Such as \"picking price decimal(10,2)\"; the type is for the way back."));
    spec.addOption(
        Options.texts(RENAME_COLUMN, "TEXT", "Such as \"picking price to price_per_kg\"."));
    spec.addOption(
        Options.texts(
            ADD_INDEX, "TEXT", "Such as \"picking (picked_on)\" or \"unique bin (code)\"."));
    spec.addOption(
        Options.text(
            TAKE_BACK, "NUMBER", "Delete the file of a rung that no environment has in place."));
    spec.addOption(
        Options.texts(
            Options.CONFIRM,
            "ENV",
            "With --take-back: this environment, which cannot be reached, does not have it."));
  }

  @Override
  public int run(Call call) {
    return call.has(TAKE_BACK) ? takeBack(call) : write(call);
  }

  private int write(Call call) {
    String words = String.join(" ", call.words());
    if (words.isBlank()) {
      throw call.wrong("name what the rung is for: ladder new WORDS");
    }
    Project project = project(call);
    RungDraft draft = draft(call);
    boolean commands = draft.up().isEmpty() && isOfDocuments(project);
    String file =
        ProjectWriter.rung(project, words, commands ? CommandDraft.EMPTY : draft, timestamp());
    Page page = new Page(call.terminal());
    page.verdict("Wrote " + file + ".");
    page.next(
        commands
            ? "write its commands into up and down, then ladder check"
            : draft.up().isEmpty()
                ? "write its SQL below --| up and --| down, then ladder check"
                : "read it, then ladder preview");
    return ExitCode.DONE;
  }

  private static boolean isOfDocuments(Project project) {
    return new UrlEngines(project, name -> Optional.ofNullable(System.getenv(name)))
        .areOfDocuments();
  }

  /** The project as it is: a rung that is still empty is no reason against another one. */
  private static Project project(Call call) {
    return ProjectReader.examine(call.projectFolder(), Engines::isOther)
        .project()
        .orElseGet(() -> call.ladder().project());
  }

  private static RungDraft draft(Call call) {
    Shorthand shorthand = new Shorthand();
    call.texts(CREATE_TABLE).forEach(shorthand::createTable);
    call.texts(ADD_COLUMN).forEach(shorthand::addColumn);
    call.texts(DROP_COLUMN).forEach(shorthand::dropColumn);
    call.texts(RENAME_COLUMN).forEach(shorthand::renameColumn);
    call.texts(ADD_INDEX).forEach(shorthand::addIndex);
    return shorthand.draft();
  }

  private static String timestamp() {
    LocalDateTime now = LocalDateTime.ofInstant(Clock.systemUTC().instant(), ZoneOffset.UTC);
    return ProjectWriter.TIMESTAMP.format(now);
  }

  private int takeBack(Call call) {
    long number = call.number(call.text(TAKE_BACK).orElseThrow());
    List<String> confirmed = call.texts(Options.CONFIRM);
    RungRemoval removal = call.ladder().removeRung(number, new HashSet<>(confirmed));
    String asked =
        removal.asked().isEmpty() ? "" : "; not in place on " + String.join(", ", removal.asked());
    new Page(call.terminal()).verdict("Deleted " + removal.file() + asked + ".");
    return ExitCode.DONE;
  }
}
