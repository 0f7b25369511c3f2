package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;

@Entity
class Tree {
  @Id @GeneratedValue Long id;

  @Column(unique = true, length = 12)
  String tag;

  Integer plantedIn;
}
