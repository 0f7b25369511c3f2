package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Which rows of a table a role may read or write. See {@link DefinedObject}.
 *
 * @param table the table or view that it belongs to
 */
public record Policy(
    ObjectId id,
    ObjectId table,
    String definition,
    Map<String, String> more,
    List<Dependency> dependsOn)
    implements DefinedObject {

  public Policy {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  @Override
  public Optional<ObjectId> owner() {
    return Optional.of(table);
  }
}
