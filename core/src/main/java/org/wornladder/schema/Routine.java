package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/** A function, procedure or aggregate. See {@link DefinedObject}. */
public record Routine(
    ObjectId id, String definition, Map<String, String> more, List<Dependency> dependsOn)
    implements DefinedObject {
  public Routine {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  /** The fact that is the type of what a function gives back; part of the definition too. */
  public static final String RESULT = "result";

  /** The fact that lists the parameters with names and defaults; part of the definition too. */
  public static final String PARAMETERS = "parameters";

  @Override
  public boolean isHidden() {
    return kind() != Kind.AGGREGATE && definition.isEmpty();
  }
}
