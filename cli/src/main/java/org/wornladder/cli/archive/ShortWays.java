package org.wornladder.cli.archive;

import java.lang.management.MemoryMXBean;
import java.lang.management.MemoryUsage;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.text.FieldPosition;
import java.text.Normalizer;
import java.text.NumberFormat;
import java.text.ParsePosition;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Calendar;
import java.util.Map;
import java.util.SimpleTimeZone;
import java.util.TimeZone;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.management.ObjectName;
import org.postgresql.jdbc.TimestampUtils;
import org.sqlite.SQLiteConnectionConfig;
import org.sqlite.date.FastDateFormat;
import picocli.CommandLine;

/** What {@link ShortCalls} puts in the place of methods of the same names and types. */
public final class ShortWays {
  private static final String UTC = "UTC";
  private static final String GREENWICH = "GMT";

  /** Hours. */
  private static final int FARTHEST = 14;

  private static final String MANAGER = "java.lang.SecurityManager";
  private static final String DIGEST = "SHA-256";
  private static final char LAST_PLAIN = 0x7f;

  private static final Map<Pattern, Pattern> READ = new ConcurrentHashMap<>();

  private ShortWays() {}

  /** Reads digits, without a look at the locale: servers write their versions in no other ones. */
  public static NumberFormat getIntegerInstance() {
    return new Digits();
  }

  /** How much memory there is at most, without the management of all the rest. */
  public static MemoryMXBean getMemoryMXBean() {
    return new Memory();
  }

  /**
   * A class by its name.
   *
   * @throws ClassNotFoundException if there is none, and for the security manager: this program has
   *     none, and to look for its methods takes longer than to do without
   */
  public static Class<?> forName(String name) throws ClassNotFoundException {
    if (name.equals(MANAGER)) {
      throw new ClassNotFoundException(name);
    }
    return Class.forName(name);
  }

  /**
   * The calendar of a connection.
   *
   * @param made null while none was made
   */
  public static Calendar calendarWithUserTz(TimestampUtils of, Calendar made) {
    return made == null
        ? TimestampUtils.createProlepticGregorianCalendar(TimeZone.getDefault())
        : made;
  }

  /**
   * How a connection reads and writes dates.
   *
   * @param made null while none was made
   */
  public static FastDateFormat dateFormat(SQLiteConnectionConfig of, FastDateFormat made) {
    return made == null ? FastDateFormat.getInstance(of.getDateStringFormat()) : made;
  }

  /** Texts in the place of each {@code %s}; anything else goes the long way. */
  public static String format(String text, Object... values) {
    StringBuilder formatted = new StringBuilder();
    int from = 0;
    for (Object value : values) {
      int mark = text.indexOf('%', from);
      if (mark < 0 || !text.startsWith("%s", mark)) {
        return String.format(text, values);
      }
      formatted.append(text, from, mark).append(value);
      from = mark + 2;
    }
    return text.indexOf('%', from) < 0
        ? formatted.append(text.substring(from)).toString()
        : String.format(text, values);
  }

  /** A pattern that is read once it is used, by {@link #matcher}. */
  public static Pattern compile(String pattern) {
    return compile(pattern, 0);
  }

  /** Likewise. */
  public static Pattern compile(String pattern, int flags) {
    return Pattern.compile(pattern, flags | Pattern.LITERAL);
  }

  /** What matches a pattern of {@link #compile}, which is there for as long as the program. */
  public static Matcher matcher(Pattern pattern, CharSequence text) {
    return READ.computeIfAbsent(pattern, ShortWays::read).matcher(text);
  }

  private static Pattern read(Pattern pattern) {
    return Pattern.compile(pattern.pattern(), pattern.flags() & ~Pattern.LITERAL);
  }

  /** A zone that is so many hours from Greenwich needs no table of the world's zones. */
  public static TimeZone getTimeZone(String id) {
    if (id.equals(UTC)) {
      return new SimpleTimeZone(0, UTC);
    }
    for (int hours = -FARTHEST; id.startsWith(GREENWICH) && hours <= FARTHEST; hours++) {
      if (id.equals(GREENWICH + (hours > 0 ? "+" : "") + (hours == 0 ? "" : hours))) {
        return new SimpleTimeZone((int) TimeUnit.HOURS.toMillis(hours), id);
      }
    }
    return TimeZone.getTimeZone(id);
  }

  /** Likewise. */
  public static TimeZone getTimeZone(ZoneId zone) {
    return zone.equals(ZoneOffset.UTC) ? getTimeZone(UTC) : TimeZone.getTimeZone(zone);
  }

  /**
   * The one digest with which PostgreSQL has passwords proven (manual, 55.3 "SASL Authentication").
   *
   * @throws NoSuchAlgorithmException for any other, before it is looked for
   */
  public static MessageDigest getInstance(String algorithm) throws NoSuchAlgorithmException {
    if (!algorithm.equals(DIGEST)) {
      throw new NoSuchAlgorithmException(algorithm);
    }
    return MessageDigest.getInstance(algorithm);
  }

  /** Plain letters are what they are in every form (Unicode Standard Annex 15, section 1.2). */
  public static String normalize(CharSequence text, Normalizer.Form form) {
    for (int i = 0; i < text.length(); i++) {
      if (text.charAt(i) > LAST_PLAIN) {
        return Normalizer.normalize(text, form);
      }
    }
    return text.toString();
  }

  /** No names of options that take something back: none of ours has such a second name. */
  public static CommandLine.RegexTransformer createDefault() {
    return new CommandLine.RegexTransformer.Builder().build();
  }

  private static final class Digits extends NumberFormat {
    private static final long serialVersionUID = 1;

    @Override
    public StringBuffer format(double number, StringBuffer to, FieldPosition position) {
      return format((long) number, to, position);
    }

    @Override
    public StringBuffer format(long number, StringBuffer to, FieldPosition position) {
      return to.append(number);
    }

    /** The number that the digits from a place on are; none, and the place stays, without one. */
    @Override
    public Number parse(String source, ParsePosition place) {
      int from = place.getIndex();
      int to = from;
      while (to < source.length() && source.charAt(to) >= '0' && source.charAt(to) <= '9') {
        to++;
      }
      if (to == from) {
        place.setErrorIndex(from);
        return null;
      }
      place.setIndex(to);
      return Long.valueOf(source.substring(from, to));
    }
  }

  private static final class Memory implements MemoryMXBean {
    private static final long UNKNOWN = -1;

    @Override
    public MemoryUsage getHeapMemoryUsage() {
      return new MemoryUsage(UNKNOWN, 0, 0, Runtime.getRuntime().maxMemory());
    }

    @Override
    public MemoryUsage getNonHeapMemoryUsage() {
      return new MemoryUsage(UNKNOWN, 0, 0, UNKNOWN);
    }

    @Override
    public int getObjectPendingFinalizationCount() {
      return 0;
    }

    @Override
    public boolean isVerbose() {
      return false;
    }

    @Override
    public void setVerbose(boolean value) {
      throw new UnsupportedOperationException("nothing is told of memory here");
    }

    @Override
    public void gc() {
      throw new UnsupportedOperationException("nobody asks for it here");
    }

    @Override
    public ObjectName getObjectName() {
      throw new UnsupportedOperationException("it is registered nowhere");
    }
  }
}
