package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.OneToOne;
import jakarta.persistence.Temporal;
import jakarta.persistence.TemporalType;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.Date;

@Entity
class Badge {
  @Id
  @Column(columnDefinition = "char(8)")
  String code;

  @OneToOne(optional = false)
  Picker holder;

  LocalDateTime issued;

  Instant lastSeen;

  @Temporal(TemporalType.DATE)
  Date expires;
}
