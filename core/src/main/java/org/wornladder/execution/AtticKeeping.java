package org.wornladder.execution;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.attic.Attic;
import org.wornladder.attic.Erasure;
import org.wornladder.project.Direction;
import org.wornladder.schema.Schema;

/** Keeps aside what ways up erase. */
public record AtticKeeping(EnvironmentContext context, Attic attic) implements AroundRung {
  @Override
  public void before(Step.OfRung rung) throws SQLException {
    if (rung.direction() != Direction.UP) {
      return;
    }
    List<Erasure> erased = Erasures.of(rung);
    if (!erased.isEmpty()) {
      Schema schema = context.structure();
      for (Erasure what : erased) {
        attic.keep(rung.number(), what, schema);
      }
    }
  }

  @Override
  public void after(Step.OfRung rung) {}
}
