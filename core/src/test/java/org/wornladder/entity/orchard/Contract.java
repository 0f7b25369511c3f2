package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.OneToOne;
import jakarta.persistence.PrimaryKeyJoinColumn;
import java.time.LocalDate;

/** Shares its key with whom it is about. */
@Entity
class Contract {
  @Id Long id;

  @OneToOne
  @PrimaryKeyJoinColumn(name = "id")
  Person person;

  @Column(nullable = false)
  LocalDate since;
}
