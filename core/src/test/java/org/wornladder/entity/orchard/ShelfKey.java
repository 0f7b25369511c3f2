package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import java.io.Serializable;

@Embeddable
class ShelfKey implements Serializable {
  private static final long serialVersionUID = 1;

  @Column(length = 4)
  String room;

  int number;

  @Override
  public boolean equals(Object other) {
    return other instanceof ShelfKey key && key.number == number && key.room.equals(room);
  }

  @Override
  public int hashCode() {
    return number;
  }
}
