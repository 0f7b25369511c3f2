package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/**
 * An object of a kind that is named, and whose definition may not be read. See {@link
 * DefinedObject}.
 */
public record OtherObject(
    ObjectId id, String definition, Map<String, String> more, List<Dependency> dependsOn)
    implements DefinedObject {
  /** The fact that is the object's kind and name as DROP writes them, where that is known. */
  public static final String DROPPED_AS = "dropped as";

  public OtherObject {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }
}
