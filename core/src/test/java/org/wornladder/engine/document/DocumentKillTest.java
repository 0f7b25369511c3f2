package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.LadderException;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.DocumentProxy;
import org.wornladder.server.DocumentServer;

/**
 * Cuts a client off at every command by which it changes something, before the server takes it and
 * behind it. What follows is a plain run, and it ends where an undisturbed one ends.
 */
class DocumentKillTest {
  @TempDir Path root;

  private final DocumentServer database = new DocumentServer();

  private TestLadder ladder() {
    return new TestLadder(root)
        .file(
            "rungs/0001-bin.json",
            """
            {
              "up": [
                {"create": "bin"},
                {"createIndexes": "bin", "indexes": [{"key": {"code": 1}, "name": "bin_code"}]}
              ],
              "down": [ {"dropIndexes": "bin", "index": "bin_code"}, {"drop": "bin"} ]
            }
            """);
  }

  private void settings(TestLadder ladder, String url) {
    ladder.file("ladder.yaml", "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n");
  }

  /**
   * Releases the lock of the client that was cut off, which would be taken over after six seconds.
   */
  private void freeLock() {
    database.run("{update: 'ladder_lock', updates: [{q: {_id: 1}, u: {$set: {holder: ''}}}]}");
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void afterACutAtAnyCommandAPlainRunEndsWhereAnUndisturbedOneEnds(boolean executed)
      throws Exception {
    TestLadder ladder = ladder();
    settings(ladder, database.url());
    ladder.apply();
    Map<String, List<String>> up = database.everything();
    ladder.rollback(new RollbackOptions.To(0));
    Map<String, List<String>> down = database.everything();
    int cuts = 0;
    try (DocumentProxy proxy = DocumentProxy.of(DocumentServer.port())) {
      for (int command = 1; isCut(ladder, proxy, command, executed, true); command++, cuts++) {
        ladder.apply();
        assertEnd(ladder, up, "apply", command);
        ladder.rollback(new RollbackOptions.To(0));
        assertEnd(ladder, down, "rollback", command);
      }
      ladder.rollback(new RollbackOptions.To(0));
      for (int command = 1; isCut(ladder, proxy, command, executed, false); command++, cuts++) {
        ladder.rollback(new RollbackOptions.To(0));
        assertEnd(ladder, down, "rollback", command);
      }
    }
    assertThat(cuts).isGreaterThan(20);
  }

  private void assertEnd(
      TestLadder ladder, Map<String, List<String>> end, String way, int command) {
    assertThat(database.everything()).as("%s cut at command %d", way, command).isEqualTo(end);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken())
        .as("%s cut at command %d", way, command)
        .isEmpty();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).isClean()).isTrue();
  }

  private boolean isCut(
      TestLadder ladder, DocumentProxy proxy, int command, boolean executed, boolean up) {
    if (!up) {
      ladder.apply();
    }
    settings(ladder, database.impatientUrl(proxy.port()));
    boolean known = false;
    for (int attempt = 1; !known; attempt++) {
      // On a machine that is busy an answer can come too late.
      assertThat(attempt).as("attempts to come to command %d", command).isLessThan(9);
      proxy.cutAt(command, executed);
      known = isRunToItsEnd(ladder, up) || proxy.isCut();
      freeLock();
    }
    boolean cut = proxy.isCut();
    settings(ladder, database.url());
    return cut;
  }

  private static boolean isRunToItsEnd(TestLadder ladder, boolean up) {
    try {
      if (up) {
        ladder.apply();
      } else {
        ladder.rollback(new RollbackOptions.To(0));
      }
      return true;
    } catch (LadderException e) {
      return false;
    }
  }

  @Test
  void theLockOfAClientThatWasCutIsTakenOver() throws Exception {
    TestLadder ladder = ladder();
    settings(ladder, database.url());
    ladder.apply();
    ladder.rollback(new RollbackOptions.To(0));
    try (DocumentProxy proxy = DocumentProxy.of(DocumentServer.port())) {
      settings(ladder, database.impatientUrl(proxy.port()));
      proxy.cutAt(6, true);
      try {
        ladder.apply();
      } catch (LadderException e) {
        assertThat(proxy.isCut()).isTrue();
      }
    }
    settings(ladder, database.url());
    assertThat(ladder.open().status(Optional.of("dev")).running().orElse(""))
        .contains("process " + ProcessHandle.current().pid());
    ladder.apply();
    assertThat(database.documents("ladder_lock").get(0).getString("taken_over_from").getValue())
        .contains("process " + ProcessHandle.current().pid());
    assertThat(database.everything()).containsOnlyKeys("bin");
  }
}
