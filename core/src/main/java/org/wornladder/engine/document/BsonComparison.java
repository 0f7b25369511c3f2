package org.wornladder.engine.document;

import java.math.BigDecimal;
import org.bson.BsonArray;
import org.bson.BsonDecimal128;
import org.bson.BsonDocument;
import org.bson.BsonDouble;
import org.bson.BsonNumber;
import org.bson.BsonValue;
import org.bson.types.Decimal128;

/**
 * Compares values as the database does: numbers by what they are and not by their type, fields in
 * their order (the open protocol's "Comparison/Sort Order").
 */
final class BsonComparison {
  private BsonComparison() {}

  static boolean same(BsonValue one, BsonValue other) {
    return settled(one).equals(settled(other));
  }

  /** A text that is one for all values that are the same, and for no others. */
  static String text(BsonValue value) {
    return value.isInt32()
        ? Integer.toString(value.asInt32().getValue())
        : value instanceof BsonDouble fraction && needsManyDigits(fraction)
            ? new BigDecimal(fraction.getValue()).toPlainString()
            : value instanceof BsonNumber number
                ? decimal(number).getValue().toString()
                : DocumentJson.text(settled(value));
  }

  /** A value in one form for all that are the same. */
  static BsonValue settled(BsonValue value) {
    if (value instanceof BsonDouble fraction && needsManyDigits(fraction)) {
      return value;
    }
    if (value instanceof BsonNumber number) {
      return decimal(number);
    }
    if (value instanceof BsonDocument document) {
      BsonDocument settled = new BsonDocument();
      document.forEach((name, one) -> settled.put(name, settled(one)));
      return settled;
    }
    if (value instanceof BsonArray array) {
      BsonArray settled = new BsonArray();
      array.forEach(one -> settled.add(settled(one)));
      return settled;
    }
    return value;
  }

  /** Whether no decimal number of 34 digits is the same: most fractions, such as 16.8. */
  private static boolean needsManyDigits(BsonDouble number) {
    double value = number.getValue();
    return Double.isFinite(value) && new BigDecimal(value).stripTrailingZeros().precision() > 34;
  }

  private static BsonDecimal128 decimal(BsonNumber number) {
    Decimal128 decimal = number.decimal128Value();
    if (decimal.isNaN() || decimal.isInfinite()) {
      return new BsonDecimal128(decimal);
    }
    BigDecimal plain =
        decimal.isNegative() && decimal.equals(Decimal128.NEGATIVE_ZERO)
            ? BigDecimal.ZERO
            : decimal.bigDecimalValue();
    return plain.signum() == 0
        ? new BsonDecimal128(Decimal128.POSITIVE_ZERO)
        : new BsonDecimal128(new Decimal128(plain.stripTrailingZeros()));
  }
}
