package org.wornladder.engine.postgres;

import java.security.Security;

/** What a password is proven with (RFC 5802; manual, 53.3 "SASL Authentication"). */
final class PostgresProof {
  private static final String PROVIDER = "security.provider.";
  private static final String DIGESTS = "SUN";
  private static final String PROOFS = "SunJCE";

  private PostgresProof() {}

  /**
   * Puts the platform's provider of the proof's algorithms first: else those before it in the list
   * are loaded to be asked, elliptic curves and all. A list that does not begin as the platform's
   * own does is somebody's choice, and stays.
   */
  static void prepare() {
    if (!DIGESTS.equals(Security.getProperty(PROVIDER + 1))) {
      return;
    }
    int place = 1;
    while (!PROOFS.equals(Security.getProperty(PROVIDER + place))) {
      if (Security.getProperty(PROVIDER + place++) == null) {
        return;
      }
    }
    for (; place > 1; place--) {
      Security.setProperty(PROVIDER + place, Security.getProperty(PROVIDER + (place - 1)));
    }
    Security.setProperty(PROVIDER + 1, PROOFS);
  }
}
