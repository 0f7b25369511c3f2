package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What runs when a table or view is written to. See {@link DefinedObject}.
 *
 * @param table the table or view that it belongs to
 */
public record Trigger(
    ObjectId id,
    ObjectId table,
    String definition,
    Map<String, String> more,
    List<Dependency> dependsOn)
    implements DefinedObject {
  /** The fact that says when it runs at all, where that is not always. */
  public static final String STATE = "state";

  public Trigger {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  @Override
  public Optional<ObjectId> owner() {
    return Optional.of(table);
  }

  @Override
  public boolean isHidden() {
    return definition.isEmpty();
  }
}
