package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Draft;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Environment;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.RungDraft;
import org.wornladder.project.RungText;
import org.wornladder.schema.Snapshot;
import org.wornladder.scratch.ChangeProof;

/** Derives a rung's way down from the structures before and after its way up. */
record WayDownPlan(ProjectContext project, Snapshot before, Snapshot after) {
  /** The way down, and what is wrong with it; proved in a scratch database. */
  record Proved(ChangeScript script, Optional<String> notProved) {}

  Proved plan(EnvironmentContext scratch) throws SQLException {
    ChangeProof proof =
        new ChangeProof(scratch, new IgnoreFilter(project.project().settings().ignore()));
    ChangeScript script =
        ChangeScript.of(
            Differences.between(after, before),
            after,
            before,
            scratch.session().ddl(),
            Origin.TWO_DATABASES);
    Optional<String> fault =
        proof.make(after)
            ? proof.run("the way down", script.statements(), before)
            : Optional.of("the structure behind the rung cannot be made anew");
    return new Proved(script, fault);
  }

  Draft draft(Environment like, Proved proved, Rung rung, boolean write) {
    ChangeScript script = proved.script();
    List<String> remarks = new ArrayList<>();
    proved.notProved().ifPresent(reason -> remarks.add("NOT PROVED: " + reason));
    script.losses().forEach(loss -> remarks.add("erases: " + loss));
    RungDraft way =
        new RungDraft(List.of(), RungDraft.lines(script.statements()), Optional.empty(), remarks);
    way.refuseSecrets(like.definitionSecrets());
    String text = RungText.withWayDown(rung, way);
    boolean written = write && !script.statements().isEmpty();
    if (written) {
      ProjectWriter.rewrite(project.project(), rung, text);
    }
    return new Draft(
        like.name(),
        written ? Optional.of(rung.file()) : Optional.empty(),
        script.statements().isEmpty() ? "" : text,
        script.written(),
        List.of(),
        script.leftOut(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        proved.notProved());
  }
}
