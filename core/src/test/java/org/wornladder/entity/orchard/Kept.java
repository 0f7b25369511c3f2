package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.MappedSuperclass;
import jakarta.persistence.PrePersist;
import jakarta.persistence.Version;

/** What all that changes has. */
@MappedSuperclass
abstract class Kept {
  @Version int version;

  @Column(name = "made_by", nullable = false, length = 30)
  String madeBy;

  @PrePersist
  void madeBySomebody() {
    madeBy = "clerk";
  }
}
