package org.wornladder.cli.command;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.Ladder;
import org.wornladder.attic.KeptItem;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.AtticView;
import org.wornladder.cli.view.ProgressView;
import picocli.CommandLine.Model.CommandSpec;

/** Looks after what was kept aside of what rungs erased. */
final class AtticCommand implements Command {
  private static final String OLDER_THAN = "--older-than";
  private static final Pattern AGE = Pattern.compile("(\\d{1,6})([dh])");
  private static final List<String> ACTIONS = List.of("list", "restore", "empty");

  @Override
  public void describe(CommandSpec spec) {
    Options.words(
        spec,
        "[list | restore ENTRY | empty] [ENV]",
        "*",
        "What to do, list otherwise; ENTRY is the number that list shows.");
    spec.addOption(
        Options.text(
            OLDER_THAN, "AGE", "With empty: what has been kept for longer, such as 30d or 12h."));
    Options.change(spec);
    Options.format(spec);
    Options.database(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    List<String> words = call.words();
    boolean named = !words.isEmpty() && ACTIONS.contains(words.get(0));
    String action = named ? words.get(0) : ACTIONS.get(0);
    List<String> rest = named ? words.subList(1, words.size()) : words;
    if (action.equals("restore")) {
      return restore(call, rest);
    }
    Optional<String> environment = environment(call, rest);
    AtticView view = new AtticView(call.terminal());
    List<KeptItem> items =
        action.equals("empty") ? empty(call, environment) : call.ladder().attic(environment);
    if (json) {
      view.json(items);
    } else if (action.equals("empty")) {
      view.emptied(items);
    } else {
      view.show(items);
    }
    return ExitCode.DONE;
  }

  private static Optional<String> environment(Call call, List<String> words) {
    if (words.size() > 1) {
      throw call.wrong("one environment at a time: ladder attic list ENV");
    }
    return words.stream().findFirst();
  }

  private static int restore(Call call, List<String> words) {
    if (words.isEmpty()) {
      throw call.wrong("name what to bring back: ladder attic restore ENTRY [ENV]");
    }
    long entry = call.number(words.get(0));
    Optional<String> environment = environment(call, words.subList(1, words.size()));
    Ladder ladder = call.ladder();
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      String done = ladder.restoreFromAttic(environment, entry, new AskingApproval(call), progress);
      new AtticView(call.terminal()).restored(done);
    }
    return ExitCode.DONE;
  }

  private static List<KeptItem> empty(Call call, Optional<String> environment) {
    Duration age =
        call.text(OLDER_THAN)
            .map(text -> age(call, text))
            .orElseThrow(() -> call.wrong("say of what age: ladder attic empty --older-than 30d"));
    Ladder ladder = call.ladder();
    YesQuestion.ask(
        call,
        "what is dropped from the attic is gone",
        "environment " + environment.orElse("that is the default"),
        "Drop what has been kept for longer than " + call.text(OLDER_THAN).orElseThrow() + "?");
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      return ladder.emptyAttic(environment, age, new AskingApproval(call), progress);
    }
  }

  private static Duration age(Call call, String text) {
    Matcher parts = AGE.matcher(text);
    if (!parts.matches()) {
      throw call.wrong(OLDER_THAN + " wants an age such as 30d or 12h");
    }
    long number = Long.parseLong(parts.group(1));
    return parts.group(2).equals("d") ? Duration.ofDays(number) : Duration.ofHours(number);
  }
}
