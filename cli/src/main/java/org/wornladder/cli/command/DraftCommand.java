package org.wornladder.cli.command;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.DirectChange;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.Ladder;
import org.wornladder.SchemaFileChanges;
import org.wornladder.StructureModel;
import org.wornladder.change.LeftOut;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.DraftView;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.project.SettingsLists;
import picocli.CommandLine.Model.CommandSpec;

/** Writes a rung from a difference, and keeps the declared structure up to date. */
final class DraftCommand implements Command {
  private static final String FROM = "--from";
  private static final String FROM_ENTITIES = "--from-entities";
  private static final String DROP_UNMAPPED = "--drop-unmapped";
  private static final String TO_FILES = "--to-files";
  private static final String TO_DATABASE = "--to-database";
  private static final String REFRESH_FILES = "--refresh-files";
  private static final String EMPTY = "--empty";
  private static final String DRY_RUN = "--dry-run";
  private static final String ONLY = "--only";
  private static final String EXCEPT = "--except";
  private static final String FORGIVE = "--forgive";
  private static final String RENAMED = "--renamed";
  private static final String EXTEND = "--extend";
  private static final String STAGED = "--staged";
  private static final String DOWN = "--down";
  private static final String FILL = "--fill";

  @Override
  public void describe(CommandSpec spec) {
    Options.words(spec, "WORDS", "0..*", "What the rung is for: its file's name.");
    Options.database(spec);
    spec.addOption(
        Options.text(
            FROM, "ENV", "Bring the ladder to what is in this database, instead of to schema/."));
    spec.addOption(
        Options.texts(
            FROM_ENTITIES,
            "PATH,…",
            "Bring the ladder to what compiled entity classes say: folders of classes, jars, and"
                + " folders of jars."));
    spec.addOption(
        Options.texts(
            DROP_UNMAPPED,
            "KIND:NAME",
            "Drop this, which no entity class maps, such as column:bin.fax."));
    spec.addOption(
        Options.texts(ONLY, "KIND:NAME", "Take these objects alone, such as table:bin*."));
    spec.addOption(Options.texts(EXCEPT, "KIND:NAME", "Leave these objects out."));
    spec.addOption(
        Options.texts(
            FORGIVE,
            "KIND:NAME",
            "Leave this to others from now on: adds it to ignore: in ladder.yaml first."));
    spec.addOption(
        Options.texts(
            RENAMED,
            "OLD=NEW",
            "Something has another name now, such as bin.wt=bin.weight_kg; bin.wt= says that it"
                + " has not."));
    spec.addOption(
        Options.texts(
            FILL,
            "COLUMN=SQL",
            "What rows get that have no value, before there must be one, such as"
                + " \"bin.grade='U'\"."));
    spec.addOption(Options.flag(EMPTY, "Write a rung although nothing differs."));
    spec.addOption(Options.flag(DRY_RUN, "Show the rung, and write nothing."));
    spec.addOption(
        Options.flag(
            EXTEND,
            "Put the change into the newest rung, while no guarded environment has it; the default"
                + " environment takes it back and applies it again."));
    spec.addOption(
        Options.flag(
            STAGED,
            "Write a series of rungs, between which the old program and the new one both work."));
    spec.addOption(
        Options.text(DOWN, "NUMBER", "Write the way down of this rung, which has none."));
    spec.addOption(
        Options.flag(REFRESH_FILES, "Write no rung: bring schema/ to what the ladder builds."));
    spec.addOption(
        Options.text(TO_FILES, "ENV", "Write no rung: bring schema/ to what is in this database."));
    spec.addOption(
        Options.text(
            TO_DATABASE,
            "ENV",
            "Write no rung: bring this database to what schema/ declares. Not if it is guarded."));
    Options.change(spec);
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    for (String pattern : call.patterns(FORGIVE)) {
      SettingsLists.ignore(call.projectFolder(), pattern);
    }
    if (call.has(TO_DATABASE)) {
      return toDatabase(call);
    }
    if (call.has(REFRESH_FILES) || call.has(TO_FILES)) {
      return toFiles(call);
    }
    if (call.has(DOWN)) {
      long number = call.number(call.text(DOWN).orElseThrow());
      Draft way = call.ladder().draftWayDown(number, !call.has(DRY_RUN));
      return shown(call, way, "the structure before it", format);
    }
    DraftOptions options = options(call);
    if (call.has(STAGED)) {
      return staged(call, options, format);
    }
    String wanted =
        options.from().or(() -> options.model().map(StructureModel::label)).orElse("schema/");
    return shown(call, draft(call, options), wanted, format);
  }

  private static int staged(Call call, DraftOptions options, String format) {
    if (call.has(EXTEND)) {
      throw call.wrong("--staged and --extend exclude each other");
    }
    List<Draft> drafts = call.ladder().draftInStages(options, new DraftDialogue(call, options));
    DraftView view = new DraftView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(drafts);
      case Call.MARKDOWN -> drafts.forEach(draft -> view.markdown(draft, "schema/"));
      default -> view.show(drafts);
    }
    return drafts.stream().anyMatch(DraftCommand::needsPerson) ? ExitCode.FOUND : ExitCode.DONE;
  }

  private static Draft draft(Call call, DraftOptions options) {
    DraftDialogue dialogue = new DraftDialogue(call, options);
    if (!call.has(EXTEND)) {
      return call.ladder().draft(options, dialogue);
    }
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      return call.ladder().extendNewestRung(options, dialogue, dialogue, progress);
    }
  }

  private static int shown(Call call, Draft draft, String wanted, String format) {
    DraftView view = new DraftView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(draft);
      case Call.MARKDOWN -> view.markdown(draft, wanted);
      default -> view.show(draft, wanted);
    }
    return needsPerson(draft) ? ExitCode.FOUND : ExitCode.DONE;
  }

  /** Whether something is left that the draft could not do, or does not know. */
  private static boolean needsPerson(Draft draft) {
    return !draft.unanswered().isEmpty()
        || draft.notProved().isPresent()
        || draft.leftOut().stream()
            .map(LeftOut::difference)
            .anyMatch(difference -> !draft.written().contains(difference));
  }

  private static DraftOptions options(Call call) {
    String words = String.join(" ", call.words());
    if (words.isBlank() && !call.has(DRY_RUN) && !call.has(EXTEND)) {
      throw call.wrong("name what the rung is for: ladder draft WORDS");
    }
    DraftOptions options = plainOptions(call, words.isBlank() ? "draft" : words);
    if (!call.has(FROM_ENTITIES)) {
      if (call.has(DROP_UNMAPPED)) {
        throw call.wrong("--drop-unmapped goes with --from-entities");
      }
      return options;
    }
    if (call.has(FROM)) {
      throw call.wrong("--from and --from-entities exclude each other");
    }
    return options.from(
        call.ladder().entities(call.listed(FROM_ENTITIES)), call.patterns(DROP_UNMAPPED));
  }

  private static DraftOptions plainOptions(Call call, String words) {
    return new DraftOptions(
        words,
        call.text(FROM),
        call.has(EMPTY),
        !call.has(DRY_RUN),
        call.patterns(ONLY),
        call.patterns(EXCEPT),
        pairs(call, RENAMED, "bin.wt=bin.weight_kg"),
        pairs(call, FILL, "\"bin.grade='U'\""));
  }

  /** Each value of an option, parted at its first equals sign. */
  private static Map<String, String> pairs(Call call, String option, String example) {
    Map<String, String> pairs = new TreeMap<>();
    for (String text : call.texts(option)) {
      int sign = text.indexOf('=');
      if (sign < 1 || text.indexOf('.') < 0 && option.equals(FILL)) {
        throw call.wrong(
            option
                + " takes a name and what it becomes, such as "
                + example
                + ", not '"
                + text
                + "'");
      }
      pairs.put(text.substring(0, sign).strip(), text.substring(sign + 1).strip());
    }
    return pairs;
  }

  private static int toFiles(Call call) {
    Optional<String> database = call.text(TO_FILES);
    SchemaFileChanges changes = call.ladder().writeSchemaFiles(database, call.patterns(ONLY));
    DraftView view = new DraftView(call.terminal());
    if (call.wantsJson()) {
      view.json(changes);
    } else {
      view.show(changes, database.orElse("the ladder"));
    }
    return changes.left().isEmpty() ? ExitCode.DONE : ExitCode.FOUND;
  }

  private static int toDatabase(Call call) {
    Ladder ladder = call.ladder();
    String environment = call.text(TO_DATABASE).orElseThrow();
    List<String> only = call.patterns(ONLY);
    DraftView view = new DraftView(call.terminal());
    DirectChange change;
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      change =
          ladder.applySchemaFiles(environment, only, planned -> ask(call, planned, view), progress);
    }
    if (call.wantsJson()) {
      view.json(change);
    } else {
      view.done(change);
    }
    return change.leftOut().isEmpty() ? ExitCode.DONE : ExitCode.FOUND;
  }

  private static void ask(Call call, DirectChange planned, DraftView view) {
    if (!call.wantsJson()) {
      view.statements(planned);
    }
    YesQuestion.ask(
        call,
        planned.environment() + " would be changed without a rung",
        "environment " + planned.environment(),
        "Run this in " + planned.environment() + "?");
  }
}
