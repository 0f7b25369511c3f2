package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Inheritance;
import jakarta.persistence.InheritanceType;
import jakarta.persistence.OneToMany;
import java.util.ArrayList;
import java.util.List;

/** Each kind in a table beside that of all. */
@Entity
@Inheritance(strategy = InheritanceType.JOINED)
class Message {
  @Id
  @GeneratedValue(strategy = GenerationType.SEQUENCE)
  Long id;

  @Column(length = 2000)
  String words;

  @OneToMany List<Person> readers = new ArrayList<>();
}
