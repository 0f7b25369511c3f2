package org.wornladder.engine;

import org.wornladder.engine.ClientVariables.OutOfReach;
import org.wornladder.engine.ClientVariables.Put;

/** How a database's own client puts the values of its variables into statements. */
public interface VariableSyntax {
  /** A client that has no variables. */
  VariableSyntax NONE =
      new VariableSyntax() {
        @Override
        public Put put(String statement, ClientVariables variables) throws OutOfReach {
          throw new OutOfReach("a statement holds a variable's value, and the client has none");
        }

        @Override
        public String demand(String variable) {
          return "";
        }
      };

  /**
   * A statement with the client's variables in place of the markers.
   *
   * @throws OutOfReach if one stands where the client puts no value
   */
  Put put(String statement, ClientVariables variables) throws OutOfReach;

  /** Lines with which a script ends, having done nothing, while a variable has no value. */
  String demand(String variable);
}
