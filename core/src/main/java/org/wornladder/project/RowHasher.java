package org.wornladder.project;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.wornladder.sql.Fingerprint;

/**
 * Computes the SHA-256 digests of rows, field by field: one of the key's fields, one of all fields.
 * Equal texts give equal digests, wherever the row comes from.
 */
public final class RowHasher {
  private static final int NULL_LENGTH = -1;

  private final List<Field> fields;
  private final MessageDigest key = Fingerprint.newDigest();
  private final MessageDigest all = Fingerprint.newDigest();

  /**
   * A column of the rows.
   *
   * @param isKey whether it is part of the key
   * @param isNumber whether zeros at the end of a fraction do not count
   * @param canonical brings a text into the one form that counts; empty where it counts as it is
   */
  public record Field(boolean isKey, boolean isNumber, Optional<UnaryOperator<String>> canonical) {}

  /** The first 128 bits of a SHA-256 digest (FIPS 180-4; SP 800-107, section 5.1). */
  public record Digest(long high, long low) {
    private static Digest of(MessageDigest digest) {
      ByteBuffer bytes = ByteBuffer.wrap(digest.digest());
      return new Digest(bytes.getLong(), bytes.getLong());
    }
  }

  /**
   * @param fields in the order of the rows
   */
  public RowHasher(List<Field> fields) {
    this.fields = List.copyOf(fields);
  }

  /** How many columns a row has. */
  public int columns() {
    return fields.size();
  }

  /** Adds the next field of a row; empty for NULL. */
  public void add(int column, Optional<String> value) {
    Field field = fields.get(column);
    Optional<String> counting =
        value
            .map(text -> field.canonical().map(form -> form.apply(text)).orElse(text))
            .map(text -> field.isNumber() ? withoutTrailingZeros(text) : text);
    byte[] bytes = counting.orElse("").getBytes(StandardCharsets.UTF_8);
    int length = counting.isPresent() ? bytes.length : NULL_LENGTH;
    add(all, length, bytes);
    if (field.isKey()) {
      add(key, length, bytes);
    }
  }

  /** The length goes first, so that no field can run into the next. */
  private static void add(MessageDigest digest, int length, byte[] bytes) {
    digest.update(ByteBuffer.allocate(Integer.BYTES).putInt(length).flip());
    digest.update(bytes);
  }

  private static String withoutTrailingZeros(String number) {
    if (number.indexOf('.') < 0) {
      return number;
    }
    int end = number.length();
    while (number.charAt(end - 1) == '0') {
      end--;
    }
    return number.substring(0, number.charAt(end - 1) == '.' ? end - 1 : end);
  }

  /** Adds a whole row. */
  public void row(SeedRow row) {
    for (int i = 0; i < columns(); i++) {
      add(i, row.isNull(i) ? Optional.empty() : Optional.of(row.text(i)));
    }
  }

  /** The digest of the key of the row that was added; to be asked once. */
  public Digest key() {
    return Digest.of(key);
  }

  /** The digest of all fields of the row that was added; to be asked once, and before the next. */
  public Digest all() {
    return Digest.of(all);
  }
}
