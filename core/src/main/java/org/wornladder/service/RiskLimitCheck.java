package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Advice;
import org.wornladder.FoundRisk;
import org.wornladder.Preview;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.project.EnvironmentSettings;
import org.wornladder.project.Project;

/** Holds the risks of waiting rungs against what an environment's settings refuse. */
record RiskLimitCheck(Project project, EnvironmentSettings environment) {
  /** The refusal of a plan; empty if its risks are within the limits, or accepted by the rungs. */
  Optional<RefusedException> refusal(Preview preview) {
    if (environment.risks().isEmpty() || preview.plan().rungs().isEmpty()) {
      return Optional.empty();
    }
    if (preview.fromTextAlone().isPresent()) {
      return Optional.of(
          RefusedException.of(
              environment.name()
                  + " limits risks, and those of the waiting rungs cannot be looked at: "
                  + preview.fromTextAlone().get(),
              "environment " + environment.name(),
              "name a server for scratch databases in ladder.yaml (scratch:), or take risks: out"
                  + " of the environment"));
    }
    List<Refusal> refusals = new ArrayList<>();
    preview.risks().forEach(found -> refused(found).ifPresent(refusals::add));
    return refusals.isEmpty() ? Optional.empty() : Optional.of(new RefusedException(refusals));
  }

  private Optional<Refusal> refused(FoundRisk found) {
    OptionalLong most = environment.risks().most(found.risk().kind().label());
    boolean within =
        most.isEmpty()
            || found.accepted()
            || most.getAsLong() > 0 && found.rows().orElse(0) <= most.getAsLong();
    if (within) {
      return Optional.empty();
    }
    String word = found.risk().kind().label();
    String rows = found.rows().isEmpty() ? "" : ", " + found.rows().getAsLong() + " rows now";
    String limit = most.getAsLong() == 0 ? "" : " over " + most.getAsLong() + " rows";
    String label = project.rung(found.rung()).orElseThrow().label();
    String file = project.rung(found.rung()).orElseThrow().file();
    String instead = found.risk().instead();
    return Optional.of(
        new Refusal(
            "%s refuses %s%s, and %s has it: %s: %s%s"
                .formatted(
                    environment.name(),
                    word,
                    limit,
                    label,
                    found.risk().subject(),
                    found.risk().reason(),
                    rows),
            found.line().isPresent() ? file + ":" + found.line().getAsInt() : file,
            Advice.hint(
                (instead.isEmpty() ? "" : instead + "; or ")
                    + "write --| accepts: "
                    + word
                    + ", because TEXT above --| up in "
                    + file)));
  }
}
