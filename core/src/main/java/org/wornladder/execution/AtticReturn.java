package org.wornladder.execution;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Consumer;
import org.wornladder.attic.Attic;
import org.wornladder.attic.Erasure;
import org.wornladder.attic.KeptItem;
import org.wornladder.project.Direction;
import org.wornladder.schema.Schema;

/**
 * Brings back what was kept aside when a rung ran that is taken back.
 *
 * @param items all that is kept
 * @param onDone receives what became of each
 */
public record AtticReturn(
    EnvironmentContext context, Attic attic, List<KeptItem> items, Consumer<String> onDone)
    implements AroundRung {
  @Override
  public void before(Step.OfRung rung) {}

  /** Whole rows first: those of a column may be among them. */
  @Override
  public void after(Step.OfRung rung) throws SQLException {
    List<KeptItem> own = new ArrayList<>(items);
    own.removeIf(item -> rung.direction() != Direction.DOWN || item.rung() != rung.number());
    if (own.isEmpty()) {
      return;
    }
    // What was erased last is what the others pointed to.
    Collections.reverse(own);
    Schema schema = context.structure();
    for (boolean columns : List.of(false, true)) {
      for (KeptItem item : own) {
        if ((item.what().kind() == Erasure.Kind.COLUMN) == columns) {
          onDone.accept(attic.bringBack(item, schema));
        }
      }
    }
  }
}
