package org.wornladder.engine;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** Reads values as files write them, and says what is wrong with one that cannot be read. */
public final class Values {
  /** How a time in UTC may end; the longer ones first. */
  private static final List<String> UTC = List.of("+00:00", "+00", "Z");

  private static final JsonFactory JSON = new JsonFactory();

  /** In front of binary values. */
  public static final String BASE64 = "base64:";

  private static final Set<String> TRUE = Set.of("true", "t", "1");
  private static final Set<String> FALSE = Set.of("false", "f", "0");
  private static final Pattern NUMBER =
      Pattern.compile("[+-]?(\\d+(\\.\\d*)?|\\.\\d+)([eE][+-]?\\d{1,4})?");
  private static final Pattern TIME =
      Pattern.compile("([01]\\d|2[0-3]):[0-5]\\d(:[0-5]\\d(\\.\\d{1,9})?)?");
  private static final Pattern ZONE = Pattern.compile("Z|[+-]\\d\\d(:?\\d\\d)?");

  private Values() {}

  public static boolean truth(String text) throws BadValueException {
    String word = text.toLowerCase(Locale.ROOT);
    if (TRUE.contains(word)) {
      return true;
    }
    if (FALSE.contains(word)) {
      return false;
    }
    throw new BadValueException("this is not a truth value: write true or false");
  }

  /** Refuses half a character, which no encoding can write (The Unicode Standard, "Surrogates"). */
  static void checkText(String text) throws BadValueException {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (Character.isSurrogate(c)) {
        boolean pair =
            Character.isHighSurrogate(c)
                && i + 1 < text.length()
                && Character.isLowSurrogate(text.charAt(i + 1));
        if (!pair) {
          throw new BadValueException("half a character stands in this text");
        }
        i++;
      }
    }
  }

  /** The bytes of a binary value. */
  public static byte[] bytes(String text) throws BadValueException {
    if (!text.startsWith(BASE64)) {
      throw new BadValueException("a binary value begins with base64:");
    }
    try {
      return Base64.getDecoder().decode(text.substring(BASE64.length()).replaceAll("\\s", ""));
    } catch (IllegalArgumentException e) {
      throw new BadValueException("what stands behind base64: is not Base64");
    }
  }

  public static String base64(byte[] bytes) {
    return BASE64 + Base64.getEncoder().encodeToString(bytes);
  }

  public static void checkWhole(String text) throws BadValueException {
    int from = text.startsWith("-") || text.startsWith("+") ? 1 : 0;
    boolean good = text.length() > from;
    for (int i = from; good && i < text.length(); i++) {
      good = text.charAt(i) >= '0' && text.charAt(i) <= '9';
    }
    if (!good) {
      throw new BadValueException("this is not a whole number");
    }
  }

  /** A whole number of 64 bits. */
  public static long whole(String text) throws BadValueException {
    checkWhole(text);
    try {
      return Long.parseLong(text);
    } catch (NumberFormatException e) {
      throw new BadValueException("this number is too large for the column");
    }
  }

  public static void checkNumber(String text) throws BadValueException {
    if (!isPlainNumber(text) && !NUMBER.matcher(text).matches()) {
      throw new BadValueException("this is not a number");
    }
  }

  /** Whether a text is digits, with one point between them or none: nearly all numbers are. */
  private static boolean isPlainNumber(String text) {
    int point = -1;
    int length = text.length();
    for (int i = 0; i < length; i++) {
      char c = text.charAt(i);
      if (c == '.' && point < 0 && i > 0) {
        point = i;
      } else if (c < '0' || c > '9') {
        return false;
      }
    }
    return length > 0 && point != length - 1;
  }

  /** How many digits of a number count. */
  public static int digits(String text) {
    return new BigDecimal(text).stripTrailingZeros().precision();
  }

  public static void checkJson(String text) throws BadValueException {
    try (JsonParser json = JSON.createParser(text)) {
      if (json.nextToken() == null) {
        throw new BadValueException("this is not JSON");
      }
      json.skipChildren();
      if (json.nextToken() != null) {
        throw new BadValueException("more stands behind the JSON value");
      }
    } catch (IOException e) {
      throw new BadValueException("this is not JSON");
    }
  }

  public static void checkDate(String text) throws BadValueException {
    if (text.length() != 10 || !isDate(text)) {
      throw new BadValueException("this is not a date such as 2026-08-31");
    }
  }

  /** Whether the first ten characters are a date of ISO 8601. */
  private static boolean isDate(String text) {
    if (text.length() < 10 || text.charAt(4) != '-' || text.charAt(7) != '-') {
      return false;
    }
    int year = number(text, 0, 4);
    int month = number(text, 5, 7);
    int day = number(text, 8, 10);
    return year >= 0
        && month >= 1
        && month <= 12
        && day >= 1
        && (day <= 28 || day <= YearMonth.of(year, month).lengthOfMonth());
  }

  private static int number(String text, int from, int to) {
    int number = 0;
    for (int i = from; i < to; i++) {
      int digit = text.charAt(i) - '0';
      if (digit < 0 || digit > 9) {
        return -1;
      }
      number = number * 10 + digit;
    }
    return number;
  }

  public static void checkTime(String text) throws BadValueException {
    if (!TIME.matcher(text).matches()) {
      throw new BadValueException("this is not a time of day such as 06:30:00");
    }
  }

  public static void checkMoment(String text) throws BadValueException {
    if (isDate(text)) {
      String rest = text.substring(10);
      boolean parted = rest.startsWith("T") || rest.startsWith(" ");
      int zone = zone(text) - 10;
      if (rest.isEmpty()
          || parted
              && TIME.matcher(rest.substring(1, zone)).matches()
              && (zone == rest.length() || ZONE.matcher(rest.substring(zone)).matches())) {
        return;
      }
    }
    throw new BadValueException("this is not a time such as 2026-08-31T06:30:00Z");
  }

  /** Where the zone of a moment begins; its end if it has none. */
  private static int zone(String text) {
    for (int i = 11; i < text.length(); i++) {
      if ("Z+-".indexOf(text.charAt(i)) >= 0) {
        return i;
      }
    }
    return text.length();
  }

  /** A moment with a zone as the same one in UTC, without it; another as it is. */
  public static String withoutZone(String text) throws BadValueException {
    checkMoment(text);
    int zone = zone(text);
    if (text.length() == 10) {
      return text;
    }
    String plain = text.substring(0, 10) + " " + text.substring(11, zone);
    if (zone == text.length()) {
      return plain;
    }
    try {
      OffsetDateTime moment =
          LocalDateTime.parse(plain.replace(' ', 'T'))
              .atOffset(ZoneOffset.of(text.substring(zone)));
      String utc = moment.withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime().toString();
      return utc.replace('T', ' ');
    } catch (DateTimeException e) {
      throw new BadValueException("this is not a time such as 2026-08-31T06:30:00Z");
    }
  }

  /**
   * One text for all that mean the same time in UTC: a blank before the time of day, seconds, no
   * zeros at the end of a fraction, no zone. A text with another zone stays as it is, since not
   * every column heeds it.
   */
  public static String canonicalTime(String text) {
    int end = text.length();
    for (String zone : UTC) {
      if (text.endsWith(zone)) {
        end = text.length() - zone.length();
        break;
      }
    }
    boolean isDated = end >= 10 && text.charAt(4) == '-';
    if (!isDated && !(end >= 5 && text.charAt(2) == ':')) {
      return text;
    }
    if (isDated && end == 10) {
      return text.substring(0, 10) + " 00:00:00";
    }
    StringBuilder plain = new StringBuilder(text.length());
    int time = isDated ? 11 : 0;
    if (isDated) {
      plain.append(text, 0, 10).append(' ');
    }
    plain.append(text, time, end);
    if (end - time == 5) {
      plain.append(":00");
    } else if (end - time > 8 && text.charAt(time + 8) == '.') {
      int last = plain.length();
      while (plain.charAt(last - 1) == '0') {
        last--;
      }
      plain.setLength(plain.charAt(last - 1) == '.' ? last - 1 : last);
    }
    return plain.toString();
  }
}
