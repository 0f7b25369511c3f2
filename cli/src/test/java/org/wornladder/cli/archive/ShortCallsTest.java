package org.wornladder.cli.archive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.io.InputStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryMXBean;
import java.text.NumberFormat;
import java.text.ParsePosition;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
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
                };
              }
            },
            0);
    return calls;
  }

  @Test
  void everyLongCallStandsInTheDriverAndIsReplaced() throws IOException {
    for (var call : ShortCalls.CALLS.entrySet()) {
      byte[] original = bytes(call.getKey());
      List<String> before = calls(original);
      List<String> after = calls(ShortCalls.in(original));
      assertThat(before).as(call.getKey()).contains(call.getValue());
      before.replaceAll(
          one ->
              one.equals(call.getValue())
                  ? "org/wornladder/cli/archive/ShortWays" + one.substring(one.indexOf('.'))
                  : one);
      assertThat(after).containsExactlyElementsOf(before);
    }
  }

  @Test
  void otherClassesStayAsTheyAre() throws IOException {
    byte[] other = bytes("org/postgresql/Driver");
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
}
