package org.wornladder.cli.archive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.io.InputStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryMXBean;
import java.net.URISyntaxException;
import java.nio.file.Path;
import java.security.NoSuchAlgorithmException;
import java.text.Normalizer;
import java.text.NumberFormat;
import java.text.ParsePosition;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Calendar;
import java.util.List;
import java.util.Locale;
import java.util.TimeZone;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.postgresql.jdbc.TimestampUtils;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteConnectionConfig;
import org.sqlite.date.FastDateFormat;

/** Where the driver asks a shorter way, it gets the same answer. */
class ShortCallsTest {
  private static final String WAYS = "org/wornladder/cli/archive/ShortWays";
  private static final List<Class<?>> LIBRARIES =
      List.of(
          org.postgresql.Driver.class,
          org.mariadb.jdbc.Driver.class,
          org.sqlite.JDBC.class,
          org.slf4j.LoggerFactory.class,
          picocli.CommandLine.class,
          org.yaml.snakeyaml.Yaml.class);

  private static byte[] bytes(String name) throws IOException {
    try (InputStream in = ShortCallsTest.class.getResourceAsStream("/" + name + ".class")) {
      return in.readAllBytes();
    }
  }

  /** What the methods call whose names begin so, and the static fields they take. */
  private static List<String> calls(byte[] code, String in) {
    ClassReader reader = new ClassReader(code);
    List<String> calls = new ArrayList<>();
    reader.accept(
        new ClassVisitor(Opcodes.ASM9) {
          @Override
          public MethodVisitor visitMethod(
              int access, String name, String type, String signature, String[] exceptions) {
            return (reader.getClassName() + "." + name).startsWith(in) ? new Calls(calls) : null;
          }
        },
        0);
    return calls;
  }

  private static final class Calls extends MethodVisitor {
    private final List<String> calls;

    Calls(List<String> calls) {
      super(Opcodes.ASM9);
      this.calls = calls;
    }

    @Override
    public void visitMethodInsn(
        int kind, String owner, String method, String of, boolean ofInterface) {
      calls.add(owner + "." + method + of);
    }

    @Override
    public void visitFieldInsn(int kind, String owner, String field, String of) {
      if (kind == Opcodes.GETSTATIC) {
        calls.add(owner + "." + field + of);
      }
    }
  }

  private static long count(List<String> calls, String beginning) {
    return calls.stream().filter(call -> call.startsWith(beginning)).count();
  }

  private static Path jarOf(Class<?> one) throws URISyntaxException {
    return Path.of(one.getProtectionDomain().getCodeSource().getLocation().toURI());
  }

  /** The classes of the libraries in which methods with names that begin so may be. */
  private static List<String> classes(String in) throws IOException, URISyntaxException {
    List<String> names = new ArrayList<>();
    for (Class<?> one : LIBRARIES) {
      try (ZipFile jar = new ZipFile(jarOf(one).toFile())) {
        jar.stream()
            .map(ZipEntry::getName)
            .filter(name -> name.endsWith(".class"))
            .map(name -> name.substring(0, name.length() - ".class".length()))
            .filter(name -> name.startsWith(in) || in.startsWith(name + "."))
            .forEach(names::add);
      }
    }
    return names;
  }

  @ParameterizedTest
  @MethodSource("longCalls")
  void everyLongCallStandsInALibraryAndIsReplaced(ShortCalls.LongCall call)
      throws IOException, URISyntaxException {
    String called = call.method();
    String replaced =
        WAYS + called.substring(called.lastIndexOf('.', called.indexOf('(')), called.indexOf('('));
    long found = 0;
    for (String name : classes(call.in())) {
      byte[] original = bytes(name);
      List<String> before = calls(original, call.in());
      List<String> after = calls(ShortCalls.in(original), call.in());
      assertThat(count(after, called)).as(name).isZero();
      found += count(before, called);
      assertThat(count(after, replaced)).as(name).isGreaterThanOrEqualTo(count(before, called));
    }
    assertThat(found > 0 || isOfPatterns(call)).isTrue();
  }

  /** No class has them all. */
  private static boolean isOfPatterns(ShortCalls.LongCall call) {
    return call.method().startsWith("java/util/regex/Pattern.compile(");
  }

  @ParameterizedTest
  @MethodSource("leftOut")
  void whatIsLeftOutStandsInALibraryAndNoMoreAfterwards(ShortCalls.LongCall call)
      throws IOException, URISyntaxException {
    long found = 0;
    for (String name : classes(call.in())) {
      byte[] original = bytes(name);
      found += count(calls(original, call.in()), call.method());
      assertThat(count(calls(ShortCalls.in(original), call.in()), call.method())).isZero();
    }
    assertThat(found).isPositive();
  }

  static List<ShortCalls.LongCall> leftOut() {
    return ShortCalls.LEFT_OUT;
  }

  static List<ShortCalls.LongCall> longCalls() {
    return ShortCalls.CALLS;
  }

  @Test
  void otherClassesStayAsTheyAre() throws IOException {
    byte[] other = bytes("org/postgresql/PGProperty");
    assertThat(ShortCalls.in(other)).isSameAs(other);
  }

  @ParameterizedTest
  @ValueSource(strings = {"15.4", "150004", "9beta1", "devel", "", "18rc1 (Debian)", ".5"})
  void digitsAreReadAsTheLocalesRulesReadThem(String version) {
    NumberFormat rules = NumberFormat.getIntegerInstance(Locale.ROOT);
    ParsePosition there = new ParsePosition(0);
    ParsePosition here = new ParsePosition(0);
    assertThat(ShortWays.getIntegerInstance().parse(version, here))
        .isEqualTo(rules.parse(version, there));
    assertThat(here).isEqualTo(there);
    assertThat(ShortWays.getIntegerInstance().format(15)).isEqualTo(rules.format(15));
  }

  @Test
  void thereIsAsMuchMemoryAsTheBeanSays() {
    MemoryMXBean bean = ManagementFactory.getMemoryMXBean();
    long max = bean.getHeapMemoryUsage().getMax();
    assertThat(ShortWays.getMemoryMXBean().getHeapMemoryUsage().getMax())
        .isCloseTo(max, within(max / 10));
  }

  @Test
  void aClassIsFoundByItsNameButForTheSecurityManager() throws ClassNotFoundException {
    assertThat(ShortWays.forName("java.lang.String")).isSameAs(String.class);
    for (String none : List.of("java.lang.SecurityManager", "org.wornladder.None")) {
      assertThatThrownBy(() -> ShortWays.forName(none)).isInstanceOf(ClassNotFoundException.class);
    }
  }

  @Test
  void aCalendarIsMadeOnceItIsRead() throws IOException {
    TimestampUtils of = new TimestampUtils(false, TimeZone::getDefault);
    Calendar made = ShortWays.calendarWithUserTz(of, null);
    assertThat(made.getTimeZone()).isEqualTo(TimeZone.getDefault());
    assertThat(ShortWays.calendarWithUserTz(of, made)).isSameAs(made);
    assertThat(reads(ShortCalls.LATE.get(0))).isEqualTo(5);
  }

  @Test
  void aFormatOfDatesIsMadeOnceItIsRead() throws IOException {
    SQLiteConnectionConfig of = new SQLiteConfig().newConnectionConfig();
    FastDateFormat made = ShortWays.dateFormat(of, null);
    assertThat(made).isEqualTo(of.getDateFormat());
    assertThat(ShortWays.dateFormat(of, made)).isSameAs(made);
    assertThat(reads(ShortCalls.LATE.get(1))).isEqualTo(1);
  }

  private static long reads(ShortCalls.LateField late) throws IOException {
    return count(calls(ShortCalls.in(bytes(late.of())), ""), WAYS + "." + late.name());
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "09afAF", "0g", "-1", "REPLACE"})
  void aPatternMatchesAsItWould(String text) {
    for (String pattern : List.of("[^0-9A-Fa-f]", "^\\s*(?:insert|replace)")) {
      assertThat(ShortWays.matcher(ShortWays.compile(pattern), text).find())
          .isEqualTo(Pattern.compile(pattern).matcher(text).find());
      int flags = Pattern.CASE_INSENSITIVE | Pattern.DOTALL;
      Pattern late = ShortWays.compile(pattern, flags);
      for (int again = 0; again < 2; again++) {
        assertThat(ShortWays.matcher(late, text).find())
            .isEqualTo(Pattern.compile(pattern, flags).matcher(text).find());
      }
    }
  }

  @Test
  void aLatePatternIsAskedForNothingButAMatcher() throws IOException {
    for (String patterned : ShortCalls.PATTERNED) {
      String name = patterned.substring(0, patterned.length() - 1);
      assertThat(count(calls(ShortCalls.in(bytes(name)), ""), "java/util/regex/Pattern."))
          .as(name)
          .isZero();
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"pragma %s=%s", "'%s%s'", "%s", "none", "%d%% of %s", "%s %s %%", "%S%s"})
  void aTextIsFormattedAsItWouldBe(String text) {
    Object[] values = {7, "bin"};
    assertThat(ShortWays.format(text, values)).isEqualTo(String.format(text, values));
  }

  @ParameterizedTest
  @MethodSource("unasked")
  void whatIsUnaskedIsFoundInALibraryAndNoMoreAfterwards(ShortCalls.Unasked unasked)
      throws IOException, URISyntaxException {
    String beginning = unasked.type() + ".";
    long found = 0;
    for (String name : classes(unasked.in())) {
      byte[] original = bytes(name);
      found += count(calls(original, unasked.in()), beginning);
      assertThat(count(calls(ShortCalls.in(original), unasked.in()), beginning)).as(name).isZero();
    }
    assertThat(found).isPositive();
  }

  static List<ShortCalls.Unasked> unasked() {
    return ShortCalls.UNASKED;
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "UTC",
        "GMT",
        "GMT+1",
        "GMT-1",
        "GMT+14",
        "GMT-14",
        "GMT+15",
        "GMT+05:30",
        "GMT+0",
        "Etc/UTC",
        "Europe/Paris",
        "Nowhere"
      })
  void aZoneIsAsFarFromGreenwichAsInTheTableOfZones(String id) {
    TimeZone there = TimeZone.getTimeZone(id);
    TimeZone here = ShortWays.getTimeZone(id);
    for (long moment : List.of(-2_000_000_000_000L, 0L, 1_780_000_000_000L, 1_795_000_000_000L)) {
      assertThat(here.getOffset(moment)).isEqualTo(there.getOffset(moment));
    }
    assertThat(ShortWays.getTimeZone(ZoneOffset.UTC).getRawOffset()).isZero();
    assertThat(ShortWays.getTimeZone(ZoneId.of("Asia/Tokyo")))
        .isEqualTo(TimeZone.getTimeZone("Asia/Tokyo"));
  }

  @Test
  void theOneDigestIsThere() throws NoSuchAlgorithmException {
    assertThat(ShortWays.getInstance("SHA-256").getAlgorithm()).isEqualTo("SHA-256");
    assertThatThrownBy(() -> ShortWays.getInstance("SHA-1"))
        .isInstanceOf(NoSuchAlgorithmException.class);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"", "plain ~\u007f\t", "\u0080", "\ufb01g", "e\u0301", "\u212b", "\ud83c\udf50"})
  void aPasswordHasTheSameForm(String password) {
    for (Normalizer.Form form : Normalizer.Form.values()) {
      assertThat(ShortWays.normalize(password, form))
          .isEqualTo(Normalizer.normalize(password, form));
    }
  }

  @Test
  void noOptionHasASecondName() {
    assertThat(ShortWays.createDefault().makeNegative("--plain", null)).isEqualTo("--plain");
  }
}
