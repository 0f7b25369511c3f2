package org.wornladder.engine;

/**
 * A text that is no value of a column's type. Its message says what it is not, without the text.
 */
public final class BadValueException extends Exception {
  private static final long serialVersionUID = 1;

  public BadValueException(String message) {
    super(message);
  }
}
