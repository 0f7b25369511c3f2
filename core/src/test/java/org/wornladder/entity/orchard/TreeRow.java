package org.wornladder.entity.orchard;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.ManyToOne;

@Entity
@IdClass(RowKey.class)
class TreeRow {
  @Id @ManyToOne Block block;

  @Id int number;

  Short trees;
}
