package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;

/**
 * What became of the files of the declared structure.
 *
 * @param written relative to the project
 * @param deleted likewise; of objects that are not there any more
 * @param left in what the files still differ: objects that are declared in files of another name
 */
public record SchemaFileChanges(List<String> written, List<String> deleted, List<Difference> left) {
  public SchemaFileChanges {
    written = List.copyOf(written);
    deleted = List.copyOf(deleted);
    left = List.copyOf(left);
  }
}
