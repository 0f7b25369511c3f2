package org.wornladder.entity.orchard;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;

/** By its getters, as the class that embeds it. */
@Embeddable
class Pay {
  private int cents;

  @Column(name = "pay_cents", nullable = false)
  public int getCents() {
    return cents;
  }

  public void setCents(int cents) {
    this.cents = cents;
  }
}
