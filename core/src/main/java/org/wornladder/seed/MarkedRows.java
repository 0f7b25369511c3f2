package org.wornladder.seed;

import java.util.Arrays;
import java.util.List;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.sql.Place;

/**
 * Rows as the stage takes them: where rows may leave columns out, each has one more value that says
 * which it does.
 */
record MarkedRows(StagingTable stage, SeedRows rows) implements SeedRows {
  @Override
  public List<String> columns() {
    return rows.columns();
  }

  @Override
  public Place place(long position) {
    return rows.place(position);
  }

  @Override
  public Place header() {
    return rows.header();
  }

  @Override
  public String fingerprint() {
    return rows.fingerprint();
  }

  @Override
  public long most() {
    return rows.most();
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    if (stage.optional().isEmpty()) {
      rows.each(visitor);
    } else {
      rows.<E>each(row -> visitor.row(row.with(leftOut(row))));
    }
  }

  private String leftOut(SeedRow row) {
    char[] which = new char[stage.optional().size()];
    Arrays.fill(which, '0');
    for (int i = 0; i < row.size(); i++) {
      int place = stage.optional().indexOf(stage.columns().get(i).name());
      if (place >= 0 && row.isLeftOut(i)) {
        which[place] = '1';
      }
    }
    return new String(which);
  }
}
