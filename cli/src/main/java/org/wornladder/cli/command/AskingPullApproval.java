package org.wornladder.cli.command;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.wornladder.PullApproval;
import org.wornladder.PulledSeed;

/** Asks before rows are written over edits that version control does not have. */
final class AskingPullApproval implements PullApproval {
  private final Call call;

  AskingPullApproval(Call call) {
    this.call = call;
  }

  @Override
  public void check(List<PulledSeed> files) {
    Path root = call.projectFolder();
    List<String> present =
        files.stream()
            .map(PulledSeed::file)
            .filter(file -> Files.exists(root.resolve(file)))
            .toList();
    List<String> edited = UncommittedFiles.of(root, present);
    if (!edited.isEmpty()) {
      String names = String.join(", ", edited);
      boolean one = edited.size() == 1;
      YesQuestion.ask(
          call,
          names + (one ? " has" : " have") + " edits that git does not have",
          names,
          names
              + (one ? " has" : " have")
              + " edits that git does not have. Write over "
              + (one ? "it?" : "them?"));
    }
  }
}
