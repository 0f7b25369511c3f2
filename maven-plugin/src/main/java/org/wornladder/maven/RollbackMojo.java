package org.wornladder.maven;

import java.util.List;
import org.apache.maven.plugins.annotations.Mojo;
import org.apache.maven.plugins.annotations.Parameter;
import org.wornladder.Approval;
import org.wornladder.Ladder;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;

/** Takes rungs back: the last one, or all above one. */
@Mojo(name = "rollback", requiresProject = false)
public class RollbackMojo extends LadderMojo {
  /** The rung that stays; 0 takes all back. The last rung alone is taken back if not set. */
  @Parameter(property = "worn-ladder.to")
  private Long to;

  /** Says that rows may be lost where the environment is not disposable. */
  @Parameter(property = "worn-ladder.yes", defaultValue = "false")
  private boolean yes;

  @Override
  List<String> run(Ladder ladder) {
    RollbackOptions.Builder options = RollbackOptions.builder();
    RunResult result =
        ladder.rollback(
            environment(),
            (to == null ? options : options.to(to)).build(),
            Approval.given(confirmed(), yes),
            RunListener.SILENT);
    result.done().forEach(done -> getLog().info(done.step().label() + "  taken back"));
    return List.of();
  }
}
