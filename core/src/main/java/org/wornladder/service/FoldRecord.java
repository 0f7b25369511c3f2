package org.wornladder.service;

import java.sql.SQLException;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.FoldedHistory;
import org.wornladder.execution.RecordedScript;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.Event;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;

/** Says once in a database's journal that a fold stands for what ran there. */
final class FoldRecord {
  private FoldRecord() {}

  /** The caller holds the database's lock. */
  static void write(Project project, EnvironmentContext context) throws SQLException {
    if (project.rungs().stream().noneMatch(rung -> rung.script().header().folds().isPresent())) {
      return;
    }
    FoldedHistory folded = FoldedHistory.of(project, context.provenHistory());
    for (Rung fold : folded.standing()) {
      if (!folded.isRecorded(fold)) {
        context.journal().create();
        context.session().begin();
        context
            .journal()
            .append(
                Event.FOLDED,
                new RecordedScript.OfFile(fold, context.engine().dialect()).subject(),
                EntryDetails.of("for " + fold.script().header().folds().orElseThrow().words()));
        context.session().commit();
      }
    }
  }
}
