package org.wornladder.maven;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.apache.maven.plugins.annotations.LifecyclePhase;
import org.apache.maven.plugins.annotations.Mojo;
import org.apache.maven.plugins.annotations.Parameter;
import org.wornladder.Ladder;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearseOptions;

/**
 * Proves rungs in a scratch database: up, down, up again; one that is not proved fails the build.
 */
@Mojo(name = "rehearse", defaultPhase = LifecyclePhase.VERIFY, requiresProject = false)
public class RehearseMojo extends LadderMojo {
  /** Begins with nothing and proves all rungs, instead of those that wait. */
  @Parameter(property = "worn-ladder.fromBlank", defaultValue = "false")
  private boolean fromBlank;

  @Override
  List<String> run(Ladder ladder) {
    RehearsalReport report =
        ladder.rehearse(
            environment(), new RehearseOptions(fromBlank, false, OptionalLong.empty(), false));
    List<String> found = new ArrayList<>(report.standing());
    for (RehearsalReport.OfRung rung : report.rungs()) {
      if (rung.isProved()) {
        getLog().info(rung.label() + "  proved");
      }
      rung.faults().forEach(fault -> found.add(rung.file() + ": " + fault));
      rung.brokenCallers().forEach(one -> found.add(one.place() + ": " + one.reason()));
    }
    report.untried().forEach(rung -> getLog().warn(rung.label() + "  not tried"));
    return found;
  }
}
