package org.wornladder.cli.archive;

import java.util.List;
import java.util.stream.Stream;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * Has libraries ask {@link ShortWays} where they ask a part of Java, or of themselves, that takes
 * long to load and says nothing that they need here. Every start would pay for it.
 */
final class ShortCalls {
  private static final String DRIVER = "org/postgresql/";
  private static final String SCRAM = DRIVER + "shaded/com/ongres/scram/common/ScramMechanism";
  private static final String REGISTERS =
      "java/sql/DriverManager.registerDriver(Ljava/sql/Driver;)V";
  private static final String TIMES = DRIVER + "jdbc/TimestampUtils";

  /**
   * A static method that some classes call no more.
   *
   * @param in how the names of the classes begin
   */
  record LongCall(String in, String method) {}

  static final List<LongCall> CALLS =
      List.of(
          new LongCall(
              DRIVER + "core/ServerVersion",
              "java/text/NumberFormat.getIntegerInstance()Ljava/text/NumberFormat;"),
          new LongCall(
              DRIVER + "jdbc/PgConnection",
              "java/lang/Class.forName(Ljava/lang/String;)Ljava/lang/Class;"),
          new LongCall(
              DRIVER + "util/PGPropertyMaxResultBufferParser",
              "java/lang/management/ManagementFactory.getMemoryMXBean()"
                  + "Ljava/lang/management/MemoryMXBean;"),
          new LongCall(
              TIMES, "java/util/TimeZone.getTimeZone(Ljava/lang/String;)Ljava/util/TimeZone;"),
          new LongCall(
              TIMES, "java/util/TimeZone.getTimeZone(Ljava/time/ZoneId;)Ljava/util/TimeZone;"),
          new LongCall(
              SCRAM,
              "java/security/MessageDigest.getInstance(Ljava/lang/String;)"
                  + "Ljava/security/MessageDigest;"),
          new LongCall(
              DRIVER + "shaded/com/ongres/stringprep/Stringprep",
              "java/text/Normalizer.normalize(Ljava/lang/CharSequence;"
                  + "Ljava/text/Normalizer$Form;)Ljava/lang/String;"),
          new LongCall(
              "picocli/CommandLine$Interpreter",
              "picocli/CommandLine$BuiltIn.excluded(Ljava/lang/String;)Z"),
          new LongCall(
              "picocli/CommandLine$Model$CommandSpec",
              "picocli/CommandLine$RegexTransformer.createDefault()"
                  + "Lpicocli/CommandLine$RegexTransformer;"));

  private static final String WAYS = Type.getInternalName(ShortWays.class);

  /**
   * Those that are left out: they take one thing, give nothing, and say what nobody asks for. The
   * list of all drivers writes to a log, for which Java links a text at run time.
   */
  static final List<LongCall> LEFT_OUT =
      List.of(
          new LongCall(DRIVER + "Driver", REGISTERS),
          new LongCall("org/mariadb/jdbc/Driver", REGISTERS),
          new LongCall("org/sqlite/JDBC", REGISTERS));

  /**
   * A class that some classes have nothing to do with any more: whatever they ask it they get
   * nothing, and what they tell it is left out.
   *
   * @param in how the names of the classes begin
   */
  record Unasked(String in, String type) {}

  /** Nothing is logged here, and the levels of logs are linked at run time, 3 ms. */
  static final List<Unasked> UNASKED =
      List.of(
          new Unasked(DRIVER, "java/util/logging/Logger"),
          new Unasked(DRIVER, "java/util/logging/Level"));

  private ShortCalls() {}

  /** A class with its long calls replaced; the same bytes if it has none. */
  static byte[] in(byte[] classFile) {
    ClassReader reader = new ClassReader(classFile);
    String name = reader.getClassName();
    if (!isNamed(name)) {
      return classFile;
    }
    Replacing replacing = new Replacing(name, new ClassWriter(reader, 0));
    reader.accept(replacing, 0);
    return replacing.any ? replacing.written.toByteArray() : classFile;
  }

  private static boolean isNamed(String name) {
    return Stream.of(CALLS, LEFT_OUT).flatMap(List::stream).anyMatch(c -> name.startsWith(c.in()))
        || UNASKED.stream().anyMatch(unasked -> name.startsWith(unasked.in()));
  }

  private static final class Replacing extends ClassVisitor {
    private final String name;
    private final ClassWriter written;
    private boolean any;

    Replacing(String name, ClassWriter written) {
      super(Opcodes.ASM9, written);
      this.name = name;
      this.written = written;
    }

    @Override
    public MethodVisitor visitMethod(
        int access, String method, String type, String signature, String[] exceptions) {
      return new Code(super.visitMethod(access, method, type, signature, exceptions));
    }

    private boolean isAmong(List<LongCall> calls, String method) {
      for (LongCall call : calls) {
        if (name.startsWith(call.in()) && call.method().equals(method)) {
          return true;
        }
      }
      return false;
    }

    private boolean isUnasked(String type) {
      for (Unasked unasked : UNASKED) {
        if (name.startsWith(unasked.in()) && unasked.type().equals(type)) {
          return true;
        }
      }
      return false;
    }

    private final class Code extends MethodVisitor {
      Code(MethodVisitor written) {
        super(Opcodes.ASM9, written);
      }

      @Override
      public void visitMethodInsn(
          int kind, String owner, String called, String of, boolean ofInterface) {
        String whole = owner + "." + called + of;
        boolean leftOut = isUnasked(owner) || isAmong(LEFT_OUT, whole);
        boolean replaced = isAmong(CALLS, whole);
        any |= replaced || leftOut;
        if (leftOut) {
          leaveOut(of, kind == Opcodes.INVOKESTATIC);
        } else {
          super.visitMethodInsn(kind, replaced ? WAYS : owner, called, of, ofInterface);
        }
      }

      @Override
      public void visitFieldInsn(int kind, String owner, String field, String of) {
        if (isUnasked(owner) && kind == Opcodes.GETSTATIC) {
          any = true;
          nothing(Type.getType(of));
        } else {
          super.visitFieldInsn(kind, owner, field, of);
        }
      }

      /** Takes what the method would, and gives nothing. */
      private void leaveOut(String of, boolean isStatic) {
        Type[] taken = Type.getArgumentTypes(of);
        for (int i = taken.length - 1; i >= 0; i--) {
          super.visitInsn(taken[i].getSize() == 2 ? Opcodes.POP2 : Opcodes.POP);
        }
        if (!isStatic) {
          super.visitInsn(Opcodes.POP);
        }
        nothing(Type.getReturnType(of));
      }

      private void nothing(Type type) {
        switch (type.getSort()) {
          case Type.VOID -> {}
          case Type.OBJECT, Type.ARRAY -> super.visitInsn(Opcodes.ACONST_NULL);
          case Type.LONG -> super.visitInsn(Opcodes.LCONST_0);
          case Type.FLOAT -> super.visitInsn(Opcodes.FCONST_0);
          case Type.DOUBLE -> super.visitInsn(Opcodes.DCONST_0);
          default -> super.visitInsn(Opcodes.ICONST_0);
        }
      }
    }
  }
}
