package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/**
 * A query under a name. See {@link DefinedObject}.
 *
 * @param indexes those of a materialised one
 */
public record View(
    ObjectId id,
    String definition,
    Map<String, String> more,
    List<Index> indexes,
    List<Dependency> dependsOn)
    implements DefinedObject {
  public View {
    more = Facts.of(more);
    indexes = List.copyOf(indexes);
    dependsOn = Dependency.sorted(dependsOn);
  }

  @Override
  public List<Part> parts() {
    return List.copyOf(indexes);
  }

  @Override
  public boolean isHidden() {
    return definition.isEmpty();
  }
}
