package org.wornladder.project;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.wornladder.sql.Fingerprint;

/**
 * Computes the SHA-256 digests of rows, field by field. Equal texts give equal digests, wherever
 * the row comes from.
 */
public final class RowHasher {
  private static final int NULL_LENGTH = -1;

  private final List<Field> fields;
  private final MessageDigest digest = Fingerprint.newDigest();

  /** The fields that were added so far. */
  private ByteBuffer row = ByteBuffer.allocate(1 << 10);

  /**
   * A column of the rows.
   *
   * @param counts whether it is part of what is compared
   * @param isNumber whether zeros at the end of a fraction do not count
   * @param canonical brings a text into the one form that counts; empty where it counts as it is
   */
  public record Field(
      boolean counts, boolean isNumber, Optional<UnaryOperator<String>> canonical) {}

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

  /** Adds the next field of a row. */
  public void add(int column, String text) {
    Field field = fields.get(column);
    if (field.counts()) {
      String form = field.canonical().isEmpty() ? text : field.canonical().get().apply(text);
      String counting = field.isNumber() ? withoutTrailingZeros(form) : form;
      append(counting.getBytes(StandardCharsets.UTF_8));
    }
  }

  /** Adds a NULL as the next field of a row. */
  public void addNull(int column) {
    if (fields.get(column).counts()) {
      row = withRoom(0).putInt(NULL_LENGTH);
    }
  }

  /** The length goes first, so that no field can run into the next. */
  private void append(byte[] text) {
    row = withRoom(text.length).putInt(text.length).put(text);
  }

  private ByteBuffer withRoom(int bytes) {
    int needed = row.position() + Integer.BYTES + bytes;
    return needed <= row.capacity() ? row : ByteBuffer.allocate(2 * needed).put(row.flip());
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
  public void row(SeedRow values) {
    for (int i = 0; i < columns(); i++) {
      if (values.isNull(i)) {
        addNull(i);
      } else {
        add(i, values.text(i));
      }
    }
  }

  /** Makes room for the next row. */
  public void start() {
    row.clear();
  }

  /** Whether the row that was added to another one is this one's. */
  public boolean hasSameRow(RowHasher other) {
    return row.position() == other.row.position()
        && row.duplicate().flip().equals(other.row.duplicate().flip());
  }

  /** The digest of the row that was added. */
  public Digest digest() {
    digest.update(row.duplicate().flip());
    return Digest.of(digest);
  }
}
