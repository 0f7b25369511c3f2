package org.wornladder.scratch;

import java.sql.SQLException;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;

/**
 * What a scratch database holds at one moment.
 *
 * @param structure without owners and grants
 */
record Moment(Snapshot structure, RowCopy rows) {
  static Moment of(EnvironmentContext scratch) throws SQLException {
    Schema schema = scratch.structure();
    return new Moment(schema.snapshot().withoutRights(), RowCopy.of(scratch, schema));
  }
}
