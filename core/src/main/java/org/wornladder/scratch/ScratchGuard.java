package org.wornladder.scratch;

import java.util.List;
import java.util.Optional;
import org.wornladder.ReplayException;
import org.wornladder.engine.Engine;
import org.wornladder.sql.Statement;

/** Keeps statements out of a scratch database that would reach out of it. */
record ScratchGuard(Engine engine, boolean ownServer) {
  /**
   * @throws ReplayException if one reaches out, and the server is not the project's own
   */
  void check(List<Statement> statements) {
    for (Statement statement : statements) {
      Optional<String> reached = ownServer ? Optional.empty() : engine.reachesOut(statement);
      if (reached.isPresent()) {
        throw new ReplayException(
            "this statement reaches out of a scratch database: " + reached.get(),
            statement.place().toString(),
            "name a server of the project's own under scratch: in ladder.yaml, with own-server: true",
            null);
      }
    }
  }
}
