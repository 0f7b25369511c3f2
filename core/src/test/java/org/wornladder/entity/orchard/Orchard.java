package org.wornladder.entity.orchard;

import jakarta.persistence.AttributeOverride;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Index;
import jakarta.persistence.OneToMany;
import jakarta.persistence.Table;
import jakarta.persistence.Transient;
import jakarta.persistence.UniqueConstraint;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(
    name = "orchard",
    uniqueConstraints =
        @UniqueConstraint(
            name = "orchard_names",
            columnNames = {"name", "town"}),
    indexes = {@Index(name = "orchard_by_town", columnList = "town, name desc")})
class Orchard extends Kept {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(length = 80, nullable = false)
  String name;

  @Embedded Address address = new Address();

  @Embedded
  @AttributeOverride(name = "latitude", column = @Column(name = "north"))
  @AttributeOverride(name = "longitude", column = @Column(name = "east"))
  Position gate;

  @OneToMany(mappedBy = "orchard")
  List<Block> blocks = new ArrayList<>();

  @ElementCollection List<String> nicknames = new ArrayList<>();

  @Transient int visitors;
}
