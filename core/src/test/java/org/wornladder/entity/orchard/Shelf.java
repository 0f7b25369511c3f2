package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.SecondaryTable;

@Entity
@SecondaryTable(name = "shelf_note")
class Shelf {
  @EmbeddedId ShelfKey key;

  boolean cooled;

  @Column(table = "shelf_note", name = "words", length = 400)
  String note;
}
