package org.wornladder.entity.orchard;

import java.io.Serializable;

/** A key of two columns. */
class RowKey implements Serializable {
  private static final long serialVersionUID = 1;
  Long block;
  int number;

  @Override
  public boolean equals(Object other) {
    return other instanceof RowKey key && key.number == number && key.block.equals(block);
  }

  @Override
  public int hashCode() {
    return number;
  }
}
