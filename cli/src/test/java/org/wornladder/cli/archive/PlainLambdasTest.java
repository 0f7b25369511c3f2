package org.wornladder.cli.archive;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.junit.jupiter.api.Test;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.Handle;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;

/** Lambdas that became classes do what they did. */
class PlainLambdasTest {
  private static final String SAMPLE = SampleLambdas.class.getName();
  private static final List<String> CLASSES =
      List.of("", "$Bin", "$Row", "$Season", "$Season$1", "$Hidden", "$1");

  /** Holds the sample without lambdas, and leaves the rest to the loader above. */
  private static final class Loader extends ClassLoader {
    private final Map<String, byte[]> classes = new HashMap<>();

    Loader() throws IOException {
      super(PlainLambdasTest.class.getClassLoader());
      for (String name : CLASSES) {
        put(PlainLambdas.in(bytes(SAMPLE + name)));
      }
      put(PlainLambdas.in(bytes(SampleOrchard.class.getName())));
    }

    private void put(Map<String, byte[]> made) {
      made.forEach((name, code) -> classes.put(name.replace('/', '.'), code));
    }

    @Override
    protected Class<?> loadClass(String name, boolean resolve) throws ClassNotFoundException {
      byte[] code = classes.get(name);
      if (code == null) {
        return super.loadClass(name, resolve);
      }
      Class<?> known = findLoadedClass(name);
      return known == null ? defineClass(name, code, 0, code.length) : known;
    }
  }

  private static byte[] bytes(String name) throws IOException {
    String file = "/" + name.replace('.', '/') + ".class";
    try (InputStream in = PlainLambdasTest.class.getResourceAsStream(file)) {
      return in.readAllBytes();
    }
  }

  @Test
  void lambdasDoAsClassesWhatTheyDidBefore() throws Exception {
    Class<?> plain = new Loader().loadClass(SAMPLE);
    assertThat(plain).isNotSameAs(SampleLambdas.class);
    Supplier<?> sample = (Supplier<?>) plain.getConstructor().newInstance();
    assertThat(sample.get()).isEqualTo(new SampleLambdas().get());
  }

  @Test
  void whatComesToNothingLikeALambdaStaysAsItIs() throws IOException {
    byte[] none = bytes(Conversion.class.getName());
    assertThat(PlainLambdas.in(none)).hasSize(1).containsValue(none);
  }

  @Test
  void noLambdaIsLeftButOneThatIsWritten() throws IOException {
    List<String> left = new ArrayList<>();
    int made = 0;
    for (String name : CLASSES) {
      Map<String, byte[]> classes = PlainLambdas.in(bytes(SAMPLE + name));
      made += classes.size() - 1;
      classes.values().forEach(code -> left.addAll(factories(code)));
    }
    assertThat(made).isGreaterThan(40);
    assertThat(left).isNotEmpty().containsOnly("altMetafactory");
  }

  private static List<String> factories(byte[] code) {
    List<String> called = new ArrayList<>();
    new ClassReader(code)
        .accept(
            new ClassVisitor(Opcodes.ASM9) {
              @Override
              public MethodVisitor visitMethod(
                  int access, String name, String type, String signature, String[] exceptions) {
                return new MethodVisitor(Opcodes.ASM9) {
                  @Override
                  public void visitInvokeDynamicInsn(
                      String method, String made, Handle bootstrap, Object... arguments) {
                    if (bootstrap.getOwner().endsWith("LambdaMetafactory")) {
                      called.add(bootstrap.getName());
                    }
                  }
                };
              }
            },
            0);
    return called;
  }
}
