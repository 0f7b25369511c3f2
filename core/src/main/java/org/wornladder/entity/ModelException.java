package org.wornladder.entity;

/** Entity classes from which no tables follow. */
final class ModelException extends RuntimeException {
  private static final long serialVersionUID = 1;

  private final String where;
  private final String next;

  /**
   * @param where the class and its attribute
   * @param next what to do
   */
  ModelException(String what, String where, String next) {
    super(what);
    this.where = where;
    this.next = next;
  }

  String where() {
    return where;
  }

  String next() {
    return next;
  }
}
