package org.wornladder.maven;

import java.util.List;
import org.apache.maven.plugins.annotations.LifecyclePhase;
import org.apache.maven.plugins.annotations.Mojo;
import org.wornladder.Ladder;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;

/** Brings reference data to what the seed files say. */
@Mojo(name = "seed", defaultPhase = LifecyclePhase.PRE_INTEGRATION_TEST, requiresProject = false)
public class SeedMojo extends LadderMojo {
  @Override
  List<String> run(Ladder ladder) {
    ladder
        .seed(environment(), SeedOptions.ALL, SeedApproval.given(confirmed()), SeedListener.SILENT)
        .results()
        .forEach(result -> getLog().info(result.label() + "  " + result.counts().text()));
    return List.of();
  }
}
