package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.wornladder.Advice;
import org.wornladder.ApplyOptions;
import org.wornladder.RefusedException;
import org.wornladder.attic.Attic;
import org.wornladder.attic.Erasure;
import org.wornladder.engine.Ability;
import org.wornladder.execution.AroundRung;
import org.wornladder.execution.AtticKeeping;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.Plan;
import org.wornladder.project.AtticSettings;
import org.wornladder.schema.Schema;

/** Decides before a run whether what it erases is kept, and whether there is room for it. */
record AtticDecision(EnvironmentContext context, ApplyOptions options) {
  /**
   * What is done beside the rungs of a plan.
   *
   * @throws RefusedException if a person must decide, or what goes cannot be kept
   */
  AroundRung of(Plan plan) throws SQLException {
    List<Erasure> erased = plan.erasures();
    if (erased.isEmpty() || !isKept(erased)) {
      return AroundRung.NOTHING;
    }
    if (!context.engine().abilities().contains(Ability.ATTIC)) {
      refuse(context.engine().name() + " has no attic: what goes cannot be kept aside");
    }
    Attic attic = context.attic();
    Schema schema = context.structure();
    long rows = 0;
    long bytes = 0;
    for (Erasure what : erased) {
      Attic.obstacle(what, schema).ifPresent(this::refuse);
      rows += attic.rows(what, schema);
      bytes += attic.bytes(what, schema);
    }
    AtticSettings limits = context.environment().settings().attic();
    refuseOver(limits.mostRows(), rows, "rows");
    refuseOver(limits.mostBytes(), bytes, "bytes");
    return new AtticKeeping(context, attic);
  }

  private boolean isKept(List<Erasure> erased) {
    if (options.attic().isPresent()) {
      return options.attic().get();
    }
    return switch (context.environment().settings().attic().mode()) {
      case ON -> true;
      case OFF -> false;
      case ASK -> answer(erased);
    };
  }

  private boolean answer(List<Erasure> erased) {
    String name = context.environment().name();
    List<String> words = new ArrayList<>(erased.stream().map(Erasure::words).toList());
    return options
        .question()
        .keeps(name, words)
        .orElseThrow(
            () ->
                RefusedException.of(
                    "nobody says whether what goes is kept: " + String.join(", ", words),
                    "environment " + name,
                    Advice.of(Advice.Code.KEEP_OR_LET_GO, name)));
  }

  private void refuseOver(OptionalLong most, long found, String unit) {
    if (most.isPresent() && found > most.getAsLong()) {
      refuse(
          "what goes does not fit into the attic: %d %s, and it takes %d"
              .formatted(found, unit, most.getAsLong()));
    }
  }

  private void refuse(String reason) {
    String name = context.environment().name();
    throw RefusedException.of(reason, "environment " + name, Advice.of(Advice.Code.LET_GO, name));
  }
}
