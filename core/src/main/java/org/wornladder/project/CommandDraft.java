package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What is in a new rung of commands of a document database.
 *
 * @param up commands as JSON
 * @param down likewise
 * @param noWayDown why there is no way down; empty if there is one, or it is left to be written
 * @param remarks lines for whoever reads the rung
 */
public record CommandDraft(
    List<String> up, List<String> down, Optional<String> noWayDown, List<String> remarks)
    implements NewRung {
  public static final CommandDraft EMPTY =
      new CommandDraft(List.of(), List.of(), Optional.empty(), List.of());

  public CommandDraft {
    up = List.copyOf(up);
    down = List.copyOf(down);
    remarks = List.copyOf(remarks);
  }

  @Override
  public String ending() {
    return RungNames.JSON;
  }

  @Override
  public String text(String about) {
    List<String> keys = new ArrayList<>();
    keys.add("\"about\": " + JsonText.string(about));
    if (!remarks.isEmpty()) {
      keys.add("\"remarks\": " + list(remarks.stream().map(JsonText::string).toList()));
    }
    noWayDown.ifPresent(reason -> keys.add("\"no way down\": " + JsonText.string(reason)));
    keys.add("\"up\": " + list(commands(up)));
    if (noWayDown.isEmpty()) {
      keys.add("\"down\": " + list(commands(down)));
    }
    return "{\n  " + String.join(",\n  ", keys) + "\n}\n";
  }

  /** What would be a value's place is kept as it is. */
  private static List<String> commands(List<String> commands) {
    return commands.stream().map(one -> one.replace("@{", "@@{")).toList();
  }

  private static String list(List<String> items) {
    return items.isEmpty() ? "[\n  ]" : "[\n    " + String.join(",\n    ", items) + "\n  ]";
  }
}
