package org.wornladder.maven;

import java.util.ArrayList;
import java.util.List;
import org.apache.maven.plugins.annotations.LifecyclePhase;
import org.apache.maven.plugins.annotations.Mojo;
import org.wornladder.Against;
import org.wornladder.DriftReport;
import org.wornladder.Ladder;

/** Compares a database with what its history says; a difference fails the build. */
@Mojo(
    name = "drift",
    defaultPhase = LifecyclePhase.VERIFY,
    requiresProject = false,
    threadSafe = true)
public class DriftMojo extends LadderMojo {
  @Override
  List<String> run(Ladder ladder) {
    DriftReport report = ladder.drift(environment(), Against.EXPECTED, false);
    List<String> found = new ArrayList<>();
    report.structure().forEach(one -> found.add(one.description() + " is not what was expected"));
    report.files().forEach(one -> found.add(one.what()));
    report.broken().ifPresent(one -> found.add("the journal is broken at entry " + one.entry()));
    if (found.isEmpty() && !report.isClean()) {
      found.add(report.environment() + " is not what its history and its seeds say");
    }
    return found;
  }
}
