package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Lob;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Table;
import java.math.BigDecimal;

/** Points to a column that is no key. */
@Entity
@Table(name = "errand_log")
class ErrandLog {
  @Id
  @Column(name = "entry", precision = 20, scale = 0)
  BigDecimal entry;

  @ManyToOne
  @JoinColumn(name = "tag", referencedColumnName = "tag")
  Tree tree;

  @Lob String words;
}
