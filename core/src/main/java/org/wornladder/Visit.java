package org.wornladder;

import org.wornladder.engine.Access;

/** How an environment is visited by its name. */
interface Visit {
  <T> T in(String environment, Access access, Site.Work<T> work);
}
