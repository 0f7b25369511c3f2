package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.Against;
import org.wornladder.LadderException;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.project.Direction;
import org.wornladder.server.DocumentProxy;
import org.wornladder.server.DocumentServer;

/**
 * Cuts a client off at each command in turn by which it changes something; what follows is a plain
 * run, and it ends where an undisturbed one ends.
 *
 * @param plain the url of the runs that are not cut off
 * @param executed whether the server still carries the command out
 */
record DocumentCuts(
    TestLadder ladder,
    DocumentServer database,
    DocumentProxy proxy,
    String plain,
    boolean executed) {
  private static final Optional<String> DEV = Optional.of("dev");

  /** Cuts both ways off; returns how often. */
  int everywhere() {
    use(plain);
    ladder.apply();
    Map<String, List<String>> up = content();
    ladder.rollback(new RollbackOptions.To(0));
    Map<String, List<String>> down = content();
    return cuts(Direction.UP, up) + cuts(Direction.DOWN, down);
  }

  private int cuts(Direction way, Map<String, List<String>> end) {
    for (int command = 1; ; command++) {
      run(way == Direction.UP ? Direction.DOWN : Direction.UP);
      if (!isCut(way, command)) {
        return command - 1;
      }
      run(way);
      String where = way.label() + ", cut at command " + command;
      assertThat(content()).as(where).isEqualTo(end);
      assertThat(ladder.open().history(DEV).history().broken()).as(where).isEmpty();
      assertThat(ladder.open().drift(DEV, Against.EXPECTED, false).isClean()).as(where).isTrue();
    }
  }

  /** Collections, indexes and documents, but for what differs each time. */
  private Map<String, List<String>> content() {
    Map<String, List<String>> all = database.everything();
    all.forEach(
        (collection, said) ->
            database
                .documents(collection)
                .forEach(
                    document -> {
                      document.remove("_id");
                      said.add(document.toJson());
                    }));
    return all;
  }

  private void use(String url) {
    ladder.file("ladder.yaml", "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n");
  }

  private void run(Direction way) {
    if (way == Direction.UP) {
      ladder.apply();
    } else {
      ladder.rollback(new RollbackOptions.To(0));
    }
  }

  private boolean isCut(Direction way, int command) {
    use(database.impatientUrl(proxy.port()));
    boolean known = false;
    for (int attempt = 1; !known; attempt++) {
      // On a machine that is busy an answer can come too late.
      assertThat(attempt).as("attempts to come to command %d", command).isLessThan(9);
      proxy.cutAt(command, executed);
      known = isRunToItsEnd(way) || proxy.isCut();
      freeLock();
    }
    boolean cut = proxy.isCut();
    proxy.cutAt(Integer.MAX_VALUE, false);
    use(plain);
    return cut;
  }

  private boolean isRunToItsEnd(Direction way) {
    try {
      run(way);
      return true;
    } catch (LadderException e) {
      return false;
    }
  }

  /**
   * Releases the lock of the client that was cut off, which would be taken over after six seconds.
   */
  private void freeLock() {
    database.run("{update: 'ladder_lock', updates: [{q: {_id: 1}, u: {$set: {holder: ''}}}]}");
  }
}
