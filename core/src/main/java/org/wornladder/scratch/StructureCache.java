package org.wornladder.scratch;

import java.util.Optional;
import org.wornladder.schema.Snapshot;

/** The structures that a project's files built in scratch databases. */
record StructureCache(CacheFolder folder) {
  Optional<Snapshot> read(String key) {
    return folder.read(key).flatMap(Snapshot::read);
  }

  void write(String key, Snapshot snapshot) {
    folder.write(key, snapshot.json());
  }
}
