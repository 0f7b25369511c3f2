package org.wornladder.execution;

import java.sql.SQLException;

/** What is done beside a rung's statements, in its transaction where it has one. */
public interface AroundRung {
  AroundRung NOTHING =
      new AroundRung() {
        @Override
        public void before(Step.OfRung rung) {}

        @Override
        public void after(Step.OfRung rung) {}
      };

  /** Called before the first statement; not where a rung goes on that stopped. */
  void before(Step.OfRung rung) throws SQLException;

  /** Called behind the last statement, before the rung's closing entry. */
  void after(Step.OfRung rung) throws SQLException;
}
