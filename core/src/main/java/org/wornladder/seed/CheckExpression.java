package org.wornladder.seed;

import java.util.List;

/** What a CHECK constraint says, as far as rows that obey it can be made. */
sealed interface CheckExpression {
  /** All of them hold. */
  record All(List<CheckExpression> parts) implements CheckExpression {}

  /** One of them holds. */
  record Any(List<CheckExpression> parts) implements CheckExpression {}

  /**
   * Two values are compared.
   *
   * @param operator one of {@code = <> < <= > >=}
   */
  record Comparison(Operand left, String operator, Operand right) implements CheckExpression {}

  /** A value is one of a list. */
  record In(Operand value, List<Literal> list) implements CheckExpression {}

  /** A value is NULL, or is not. */
  record Null(Operand value, boolean isNot) implements CheckExpression {}

  /** Something that cannot be read. */
  record Unknown() implements CheckExpression {}

  /** What is compared. */
  sealed interface Operand permits Name, Length, Literal {}

  /** A column; {@code VALUE} in a domain. */
  record Name(String name) implements Operand {}

  /** How many characters a column has. */
  record Length(String name) implements Operand {}

  /** A number, text or truth value without its quotes. */
  record Literal(String text) implements Operand {}
}
