package org.wornladder.maven;

import java.util.List;
import org.apache.maven.plugins.annotations.LifecyclePhase;
import org.apache.maven.plugins.annotations.Mojo;
import org.apache.maven.plugins.annotations.Parameter;
import org.wornladder.ApplyOptions;
import org.wornladder.Approval;
import org.wornladder.Ladder;
import org.wornladder.RunListener;
import org.wornladder.RunResult;

/** Runs the waiting rungs. */
@Mojo(name = "apply", defaultPhase = LifecyclePhase.PRE_INTEGRATION_TEST, requiresProject = false)
public class ApplyMojo extends LadderMojo {
  /** The highest rung to run; all if not set. */
  @Parameter(property = "worn-ladder.to")
  private Long to;

  @Override
  List<String> run(Ladder ladder) {
    ApplyOptions.Builder options = ApplyOptions.builder();
    if (to != null) {
      options.to(to);
    }
    RunResult result =
        ladder.apply(
            environment(), options.build(), Approval.given(confirmed(), true), RunListener.SILENT);
    result.done().forEach(done -> getLog().info(done.step().label() + "  " + done.step().about()));
    getLog().info(result.plan().environment() + " is at " + ladder.project().label(result.at()));
    return List.of();
  }
}
