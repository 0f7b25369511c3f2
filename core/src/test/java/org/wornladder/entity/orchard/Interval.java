package org.wornladder.entity.orchard;

import jakarta.persistence.Access;
import jakarta.persistence.AccessType;
import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import java.time.LocalTime;

/** Of a class that has its identifier by a getter: by its own fields all the same. */
@Embeddable
@Access(AccessType.FIELD)
class Interval {
  @Column(name = "begins")
  LocalTime from;

  @Column(name = "ends")
  LocalTime to;
}
