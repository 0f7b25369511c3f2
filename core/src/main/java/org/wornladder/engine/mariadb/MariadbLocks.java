package org.wornladder.engine.mariadb;

import java.util.Optional;
import org.wornladder.change.Lock;
import org.wornladder.change.SchemaChange;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;

/**
 * The changes for which the server copies a table while writers wait (MariaDB manual, "InnoDB
 * Online DDL Operations with the COPY Alter Algorithm"); measured on a server.
 */
final class MariadbLocks {
  private static final String COPIES = "the table is copied (ALGORITHM=COPY): writers wait";

  private MariadbLocks() {}

  static Optional<Lock> of(SchemaChange change) {
    if (change.target().kind() != Kind.TABLE) {
      return Optional.empty();
    }
    if (change instanceof SchemaChange.AddPart add) {
      return added(add.part());
    }
    return change instanceof SchemaChange.AlterPart alter
            && alter.before() instanceof Column before
            && alter.after() instanceof Column after
            && !before.type().equals(after.type())
        ? Optional.of(
            new Lock(COPIES, "add a column of the new type, copy in batches, and switch over"))
        : Optional.empty();
  }

  private static Optional<Lock> added(Part part) {
    if (part instanceof ForeignKey || part.kind() == Kind.CHECK) {
      return Optional.of(Lock.of(COPIES));
    }
    return part instanceof Column column && column.more(Column.GENERATED).isPresent()
        ? Optional.of(Lock.of(COPIES))
        : Optional.empty();
  }
}
