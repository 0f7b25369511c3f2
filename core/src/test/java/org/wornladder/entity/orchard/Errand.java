package org.wornladder.entity.orchard;

import jakarta.persistence.Basic;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Temporal;
import jakarta.persistence.TemporalType;
import java.util.Date;

@Entity
class Errand {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Basic(optional = false)
  @Column(length = 100)
  String what;

  @Temporal(TemporalType.TIME)
  Date at;

  Character mark;
  Boolean done;
  Double cost;
  Long meters;
}
