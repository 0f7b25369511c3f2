package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.DiscriminatorColumn;
import jakarta.persistence.DiscriminatorType;
import jakarta.persistence.DiscriminatorValue;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.TableGenerator;

/** All kinds in one table. */
@Entity
@DiscriminatorColumn(name = "kind", discriminatorType = DiscriminatorType.CHAR)
@DiscriminatorValue("-")
abstract class Person {
  @Id
  @GeneratedValue(strategy = GenerationType.TABLE, generator = "people")
  @TableGenerator(
      name = "people",
      table = "next_number",
      pkColumnName = "of_what",
      valueColumnName = "next")
  Long id;

  @Column(nullable = false)
  String name;
}
