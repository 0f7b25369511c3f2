package org.wornladder.engine;

import org.wornladder.project.Environment;

/** A throw-away database. Whoever asked for it closes it, and it is gone. */
public interface ScratchDatabase extends AutoCloseable {
  /** The table inside that proves whose it is; no part of its structure. */
  String PROOF = "ladder_scratch";

  /** How to open it: everything else is as in the environment that it stands in for. */
  Environment environment();

  @Override
  void close();
}
