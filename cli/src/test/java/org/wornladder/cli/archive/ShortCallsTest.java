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
import java.util.List;
import java.util.Locale;
import java.util.TimeZone;
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

/** Where the driver asks a shorter way, it gets the same answer. */
class ShortCallsTest {
  private static byte[] bytes(String name) throws IOException {
    try (InputStream in = ShortCallsTest.class.getResourceAsStream("/" + name + ".class")) {
      return in.readAllBytes();
    }
  }

  private static List<String> calls(byte[] code) {
    List<String> calls = new ArrayList<>();
    new ClassReader(code)
        .accept(
            new ClassVisitor(Opcodes.ASM9) {
              @Override
              public MethodVisitor visitMethod(
                  int access, String name, String type, String signature, String[] exceptions) {
                return new MethodVisitor(Opcodes.ASM9) {
                  @Override
                  public void visitMethodInsn(
                      int kind, String owner, String method, String of, boolean ofInterface) {
                    calls.add(owner + "." + method + of);
                  }

                  @Override
                  public void visitFieldInsn(int kind, String owner, String field, String of) {
                    if (kind == Opcodes.GETSTATIC && isUnasked(owner + ".")) {
                      calls.add(owner + "." + field + of);
                    }
                  }
                };
              }
            },
            0);
    return calls;
  }

  private static boolean isUnasked(String call) {
    return ShortCalls.UNASKED.stream().anyMatch(one -> call.startsWith(one.type() + "."));
  }

  private static Path jarOf(Class<?> one) throws URISyntaxException {
    return Path.of(one.getProtectionDomain().getCodeSource().getLocation().toURI());
  }

  /** The classes of the libraries, by the beginning of their names. */
  private static List<String> classes(String beginning) throws IOException, URISyntaxException {
    List<String> names = new ArrayList<>();
    for (Class<?> one : List.of(org.postgresql.Driver.class, picocli.CommandLine.class)) {
      try (ZipFile jar = new ZipFile(jarOf(one).toFile())) {
        jar.stream()
            .map(ZipEntry::getName)
            .filter(name -> name.startsWith(beginning) && name.endsWith(".class"))
            .forEach(name -> names.add(name.substring(0, name.length() - ".class".length())));
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
        "org/wornladder/cli/archive/ShortWays" + called.substring(called.indexOf('.'));
    int found = 0;
    for (String name : classes(call.in())) {
      byte[] original = bytes(name);
      List<String> before = calls(original);
      ShortCalls.LEFT_OUT.forEach(gone -> before.remove(gone.method()));
      before.removeIf(ShortCallsTest::isUnasked);
      List<String> after = calls(ShortCalls.in(original));
      assertThat(after).as(name).hasSameSizeAs(before).doesNotContain(called);
      for (int i = 0; i < before.size(); i++) {
        if (before.get(i).equals(called)) {
          assertThat(after.get(i)).as(name).isEqualTo(replaced);
          found++;
        }
      }
    }
    assertThat(found).isPositive();
  }

  @Test
  void driversAreOnNoList() throws IOException {
    for (ShortCalls.LongCall call : ShortCalls.LEFT_OUT) {
      byte[] original = bytes(call.in());
      List<String> before = calls(original);
      assertThat(before).containsOnlyOnce(call.method());
      assertThat(calls(ShortCalls.in(original)))
          .hasSize(before.size() - 1)
          .doesNotContain(call.method());
    }
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
  void aClassIsFoundByItsNameOrNot() throws ClassNotFoundException {
    assertThat(ShortWays.forName("java.lang.SecurityManager"))
        .isSameAs(Class.forName("java.lang.SecurityManager"));
    assertThatThrownBy(() -> ShortWays.forName("org.wornladder.None"))
        .isInstanceOf(ClassNotFoundException.class);
  }

  @ParameterizedTest
  @MethodSource("unasked")
  void whatIsUnaskedIsFoundInALibraryAndNoMoreAfterwards(ShortCalls.Unasked unasked)
      throws IOException, URISyntaxException {
    int found = 0;
    for (String name : classes(unasked.in())) {
      byte[] original = bytes(name);
      String beginning = unasked.type() + ".";
      found += calls(original).stream().filter(call -> call.startsWith(beginning)).count();
      assertThat(calls(ShortCalls.in(original)))
          .as(name)
          .noneMatch(call -> call.startsWith(beginning));
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
