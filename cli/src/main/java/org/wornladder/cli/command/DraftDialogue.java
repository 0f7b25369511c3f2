package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.ExtensionApproval;
import org.wornladder.change.RenameCandidate;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.view.Commands;
import org.wornladder.cli.view.SafeText;

/** Asks the person at the terminal what a draft cannot know; without one it stays unknown. */
record DraftDialogue(Call call, DraftOptions options) implements DraftQuestions, ExtensionApproval {
  @Override
  public Optional<Boolean> isRenamed(RenameCandidate candidate) {
    if (!canAsk()) {
      return Optional.empty();
    }
    String question =
        "Is %s now %s, with its rows and values? [y/N] "
            .formatted(SafeText.line(candidate.before()), SafeText.line(candidate.after()));
    return Optional.of(terminal().agrees(question));
  }

  @Override
  public Optional<Boolean> isDropped(String thing) {
    if (!canAsk()) {
      return Optional.empty();
    }
    String question = "No entity class maps %s. Drop it? [y/N] ".formatted(SafeText.line(thing));
    return Optional.of(terminal().agrees(question));
  }

  @Override
  public Optional<String> value(String column) {
    if (!canAsk()) {
      return Optional.empty();
    }
    String question =
        "Every row must have a value in %s. SQL for those that have none (empty: leave it): "
            .formatted(SafeText.line(column));
    return terminal().ask(question).filter(answer -> !answer.isEmpty());
  }

  @Override
  public void check(String rung, Optional<String> takenBack, List<String> others) {
    if (takenBack.isPresent()) {
      YesQuestion.ask(
          call,
          rung
              + " is in place on "
              + takenBack.get()
              + ": it would be taken back and applied again",
          rung,
          "Take " + rung + " back on " + takenBack.get() + ", and apply it again with the change?");
    }
    for (String other : others) {
      terminal()
          .err()
          .println(
              SafeText.line(other)
                  + " has it too: ladder rollback "
                  + Commands.word(SafeText.line(other))
                  + " --from-journal, then ladder apply "
                  + Commands.word(SafeText.line(other)));
    }
  }

  private boolean canAsk() {
    return terminal().inIsTerminal()
        && terminal().errIsTerminal()
        && !call.has(Options.YES)
        && !call.wantsJson();
  }

  private Terminal terminal() {
    return call.terminal();
  }
}
