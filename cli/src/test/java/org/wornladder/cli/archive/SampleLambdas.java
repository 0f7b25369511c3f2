package org.wornladder.cli.archive;

import java.io.Serializable;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.DoubleSupplier;
import java.util.function.Function;
import java.util.function.IntBinaryOperator;
import java.util.function.IntFunction;
import java.util.function.LongBinaryOperator;
import java.util.function.LongSupplier;
import java.util.function.Supplier;
import java.util.function.ToDoubleFunction;
import java.util.function.ToIntFunction;
import java.util.function.ToLongFunction;
import java.util.function.UnaryOperator;

/** Lambdas and method references of every kind, and what they come to. */
public class SampleLambdas extends SampleOrchard implements Supplier<List<String>> {
  private static final UnaryOperator<String> OF_THE_CLASS = text -> "<" + text + ">";

  private final List<String> found = new ArrayList<>();
  private final String mine = "quince";

  /** Lambdas in an interface, one that knows its object and one that does not. */
  interface Bin {
    int weight();

    default Supplier<String> told() {
      return () -> "bin of " + weight() + secret();
    }

    static IntFunction<Bin> maker() {
      return weight -> () -> weight;
    }

    private String secret() {
      Supplier<String> mark = () -> "!";
      return mark.get();
    }
  }

  /** One that names its row. */
  record Row(int number, String name) {
    Function<String, String> greeting() {
      return other -> name + number + " greets " + other;
    }
  }

  /** Constants with bodies. */
  enum Season {
    SPRING {
      @Override
      Supplier<String> word() {
        return () -> name().toLowerCase(java.util.Locale.ROOT);
      }
    };

    abstract Supplier<String> word();
  }

  private static final class Hidden {
    private final long number;

    private Hidden(long number) {
      this.number = number;
    }

    private long doubled() {
      return number * 2;
    }
  }

  @Override
  public List<String> get() {
    add(OF_THE_CLASS.apply("static"));
    captured(7, 8_000_000_000L, 1.5, 2.5f, 'c', (byte) 3, (short) 4, true);
    references();
    conversions();
    nested();
    Supplier<String> own = () -> "pear of " + name() + " and " + mine;
    add(own.get() + ", " + fruit().get() + ", " + above().get());
    Bin bin = Bin.maker().apply(12);
    add(bin.told().get());
    add(new Row(1, "row").greeting().apply("all") + Season.SPRING.word().get());
    Supplier<String> kept = (Supplier<String> & Serializable) () -> "kept " + mine;
    add(kept.get());
    failing();
    return List.copyOf(found);
  }

  @Override
  String name() {
    return "heir";
  }

  private Supplier<Supplier<String>> parent() {
    return super::fruit;
  }

  private Supplier<String> above() {
    return parent().get();
  }

  private void add(Object text) {
    found.add(String.valueOf(text));
  }

  private void captured(int i, long l, double d, float f, char c, byte b, short s, boolean truth) {
    Supplier<String> all = () -> i + " " + l + " " + d + " " + f + " " + c + b + s + truth + mine;
    add(all.get());
    LongSupplier sum = () -> l + i;
    DoubleSupplier product = () -> d * f;
    add(sum.getAsLong() + " " + product.getAsDouble());
    IntBinaryOperator more = (x, y) -> x * y + i;
    LongBinaryOperator larger = (x, y) -> x + y + l;
    add(more.applyAsInt(3, 4) + " " + larger.applyAsLong(1, 2));
  }

  private void references() {
    Function<String, Integer> parse = Integer::parseInt;
    Function<String, String> strip = String::strip;
    Supplier<String> bound = mine::toUpperCase;
    Function<Integer, List<String>> list = ArrayList::new;
    IntFunction<String[]> array = String[]::new;
    BiFunction<String, String, Boolean> same = String::equals;
    Function<Long, Hidden> hidden = Hidden::new;
    ToLongFunction<Hidden> doubled = Hidden::doubled;
    Supplier<String> privately = this::privately;
    Function<Object[], List<Object>> many = List::of;
    add(parse.apply("12") + strip.apply(" x ") + bound.get() + list.apply(4));
    add(array.apply(3).length + " " + same.apply("a", "a"));
    add(doubled.applyAsLong(hidden.apply(21L)) + privately.get());
    add(many.apply(new Object[] {1, "two"}));
    Map<String, List<Integer>> byName = new TreeMap<>(Comparator.comparing(String::length));
    byName.computeIfAbsent("bin", key -> new ArrayList<>()).add(1);
    byName.merge("bin", List.of(2), (one, other) -> List.of(one.size(), other.size()));
    add(byName);
  }

  private String privately() {
    return "private " + mine;
  }

  private void conversions() {
    ToIntFunction<Integer> unboxed = x -> x + 1;
    ToLongFunction<Integer> widened = Integer::intValue;
    ToDoubleFunction<Long> fromLong = Long::longValue;
    Function<Integer, Long> toLong = Integer::longValue;
    Supplier<Object> boxed = found::size;
    Function<Integer, Object> shown = Integer::toHexString;
    Map<String, Integer> weights = Map.of("bin", 9);
    ToIntFunction<String> weight = weights::get;
    Consumer<String> dropped = found::add;
    Consumer<Long> droppedLong = Long::bitCount;
    BiFunction<Character, Boolean, Object> either = (c, yes) -> yes ? c : 'n';
    ToLongFunction<Integer> ofInt = SampleLambdas::negated;
    dropped.accept("dropped");
    droppedLong.accept(3L);
    add(unboxed.applyAsInt(1) + widened.applyAsLong(2) + fromLong.applyAsDouble(3L));
    add(toLong.apply(4) + " " + boxed.get() + shown.apply(255) + weight.applyAsInt("bin"));
    add(either.apply('y', true) + " " + ofInt.applyAsLong(5));
  }

  private static long negated(long number) {
    return -number;
  }

  private void nested() {
    Function<Integer, Function<Long, Supplier<String>>> deep =
        a -> b -> () -> a + b + mine + ((Supplier<String>) () -> " deep").get();
    add(deep.apply(1).apply(2L).get());
    Runnable anonymous =
        new Runnable() {
          @Override
          public void run() {
            Runnable inner = () -> add("inside " + mine);
            inner.run();
          }
        };
    anonymous.run();
  }

  private void failing() {
    Supplier<String> thrown =
        () -> {
          throw new IllegalStateException("thrown by " + mine);
        };
    try {
      thrown.get();
    } catch (IllegalStateException e) {
      add(e.getMessage());
    }
  }
}
