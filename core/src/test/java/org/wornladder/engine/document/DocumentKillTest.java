package org.wornladder.engine.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
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

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void afterACutAtAnyCommandAPlainRunEndsWhereAnUndisturbedOneEnds(boolean executed)
      throws Exception {
    try (DocumentProxy proxy = DocumentProxy.of(DocumentServer.port())) {
      DocumentCuts cuts = new DocumentCuts(ladder(), database, proxy, database.url(), executed);
      assertThat(cuts.everywhere()).isGreaterThan(20);
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
