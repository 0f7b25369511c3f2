package org.wornladder.cli.archive;

import java.lang.management.MemoryMXBean;
import java.lang.management.MemoryUsage;
import java.text.FieldPosition;
import java.text.NumberFormat;
import java.text.ParsePosition;
import javax.management.ObjectName;

/** What {@link ShortCalls} puts in the place of Java's own methods of the same names and types. */
public final class ShortWays {
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
   * A class that is not begun yet: what it begins with is done once it is used.
   *
   * @throws ClassNotFoundException if there is none
   */
  public static Class<?> forName(String name) throws ClassNotFoundException {
    return Class.forName(name, false, ShortWays.class.getClassLoader());
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
