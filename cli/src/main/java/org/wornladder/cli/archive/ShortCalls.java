package org.wornladder.cli.archive;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
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

  private static final String SQLITE_LOADER = "org/sqlite/SQLiteJDBCLoader";
  private static final String SQLITE_CONNECTION = "org/sqlite/SQLiteConnectionConfig";
  private static final String INTERPRETER = "picocli/CommandLine$Interpreter";
  private static final String FORMAT =
      "java/lang/String.format(Ljava/lang/String;[Ljava/lang/Object;)Ljava/lang/String;";

  /**
   * A method that some methods call no more. One that is not static becomes a static one that is
   * given what it was called on.
   *
   * @param in how the names of the methods begin, their class before them
   */
  record LongCall(String in, String method) {}

  private static final List<LongCall> OTHERS =
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
          new LongCall("org/slf4j/LoggerFactory.loadExplicitlySpecified", FORMAT),
          new LongCall("org/sqlite/SQLiteConfig.", FORMAT),
          new LongCall(
              SCRAM,
              "java/security/MessageDigest.getInstance(Ljava/lang/String;)"
                  + "Ljava/security/MessageDigest;"),
          new LongCall(
              DRIVER + "shaded/com/ongres/stringprep/Stringprep",
              "java/text/Normalizer.normalize(Ljava/lang/CharSequence;"
                  + "Ljava/text/Normalizer$Form;)Ljava/lang/String;"),
          new LongCall(
              "picocli/CommandLine$Model$CommandSpec",
              "picocli/CommandLine$RegexTransformer.createDefault()"
                  + "Lpicocli/CommandLine$RegexTransformer;"));

  /** Classes with patterns that are there for as long as the program, and few use. */
  static final List<String> PATTERNED =
      List.of(
          "org/yaml/snakeyaml/scanner/ScannerImpl.",
          "org/sqlite/core/CoreStatement.",
          "org/sqlite/jdbc3/JDBC3ResultSet.");

  private static final String TO_PATTERN = ")Ljava/util/regex/Pattern;";

  static final List<LongCall> CALLS =
      Stream.concat(OTHERS.stream(), PATTERNED.stream().flatMap(ShortCalls::ofPatterns)).toList();

  private static Stream<LongCall> ofPatterns(String in) {
    String pattern = "java/util/regex/Pattern.";
    return Stream.of(
        new LongCall(in + "<clinit>", pattern + "compile(Ljava/lang/String;" + TO_PATTERN),
        new LongCall(in + "<clinit>", pattern + "compile(Ljava/lang/String;I" + TO_PATTERN),
        new LongCall(in, pattern + "matcher(Ljava/lang/CharSequence;)Ljava/util/regex/Matcher;"));
  }

  private static final String WAYS = Type.getInternalName(ShortWays.class);

  /**
   * A field that is made once it is read, by a method of its name that is given whose it is, and
   * what it holds.
   *
   * @param of its class
   */
  record LateField(String of, String name) {}

  /**
   * What a connection reads and writes dates with, which takes long to make, and few ask for: one
   * asks the locale how weeks are counted, the other how days and months are called.
   */
  static final List<LateField> LATE =
      List.of(
          new LateField(TIMES, "calendarWithUserTz"),
          new LateField(SQLITE_CONNECTION, "dateFormat"));

  /**
   * Those that are left out, and give nothing. The list of all drivers writes to a log, for which
   * Java links a text at run time; options of other types than text are read by nobody; no native
   * library is ever unpacked, so that none is to be looked for among all files of this machine.
   */
  static final List<LongCall> LEFT_OUT =
      List.of(
          new LongCall(DRIVER + "Driver.", REGISTERS),
          new LongCall("org/mariadb/jdbc/Driver.", REGISTERS),
          new LongCall("org/sqlite/JDBC.", REGISTERS),
          new LongCall(INTERPRETER + ".", INTERPRETER + ".registerBuiltInConverters()V"),
          new LongCall(SQLITE_LOADER + ".initialize", SQLITE_LOADER + ".cleanup()V"),
          new LongCall(
              SQLITE_CONNECTION + ".",
              "org/sqlite/date/FastDateFormat.getInstance(Ljava/lang/String;)"
                  + "Lorg/sqlite/date/FastDateFormat;"),
          new LongCall(
              TIMES + ".<init>",
              TIMES
                  + ".createProlepticGregorianCalendar(Ljava/util/TimeZone;)Ljava/util/Calendar;"));

  /**
   * A class that some methods have nothing to do with any more: whatever they ask it they get
   * nothing, and what they tell it is left out.
   *
   * @param in how the names of the methods begin, their class before them
   */
  record Unasked(String in, String type) {}

  /** Nothing is logged here, and the levels of logs are linked at run time, 3 ms. */
  static final List<Unasked> UNASKED =
      List.of(
          new Unasked(DRIVER, "java/util/logging/Logger"),
          new Unasked(DRIVER, "java/util/logging/Level"));

  private static final Set<String> IN =
      Stream.of(
              Stream.of(CALLS, LEFT_OUT).flatMap(List::stream).map(LongCall::in),
              UNASKED.stream().map(Unasked::in),
              LATE.stream().map(LateField::of))
          .flatMap(in -> in)
          .collect(Collectors.toUnmodifiableSet());

  private ShortCalls() {}

  /** A class with its long calls replaced; the same bytes if it has none. */
  static byte[] in(byte[] classFile) {
    ClassReader reader = new ClassReader(classFile);
    String name = reader.getClassName();
    if (IN.stream().noneMatch(in -> name.startsWith(in) || in.startsWith(name + "."))) {
      return classFile;
    }
    Replacing replacing = new Replacing(name, new ClassWriter(reader, ClassWriter.COMPUTE_MAXS));
    reader.accept(replacing, 0);
    return replacing.any ? replacing.written.toByteArray() : classFile;
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
      MethodVisitor code = super.visitMethod(access, method, type, signature, exceptions);
      return new Code(name + "." + method, code);
    }

    private final class Code extends MethodVisitor {
      /** The method's class and name. */
      private final String of;

      Code(String of, MethodVisitor written) {
        super(Opcodes.ASM9, written);
        this.of = of;
      }

      private boolean isAmong(List<LongCall> calls, String method) {
        return calls.stream()
            .anyMatch(call -> of.startsWith(call.in()) && call.method().equals(method));
      }

      private boolean isUnasked(String type) {
        return UNASKED.stream()
            .anyMatch(unasked -> of.startsWith(unasked.in()) && unasked.type().equals(type));
      }

      @Override
      public void visitMethodInsn(
          int kind, String owner, String called, String type, boolean ofInterface) {
        String whole = owner + "." + called + type;
        boolean isStatic = kind == Opcodes.INVOKESTATIC;
        if (isUnasked(owner) || isAmong(LEFT_OUT, whole)) {
          any = true;
          leaveOut(type, isStatic);
        } else if (isAmong(CALLS, whole)) {
          any = true;
          String given = isStatic ? type : "(L" + owner + ";" + type.substring(1);
          super.visitMethodInsn(Opcodes.INVOKESTATIC, WAYS, called, given, false);
        } else {
          super.visitMethodInsn(kind, owner, called, type, ofInterface);
        }
      }

      @Override
      public void visitFieldInsn(int kind, String owner, String field, String type) {
        if (kind == Opcodes.GETSTATIC && isUnasked(owner)) {
          any = true;
          nothing(Type.getType(type));
          return;
        }
        boolean late = kind == Opcodes.GETFIELD && LATE.contains(new LateField(owner, field));
        if (late) {
          super.visitInsn(Opcodes.DUP);
        }
        super.visitFieldInsn(kind, owner, field, type);
        if (late) {
          any = true;
          String given = "(L" + owner + ";" + type + ")" + type;
          super.visitMethodInsn(Opcodes.INVOKESTATIC, WAYS, field, given, false);
        }
      }

      /** Takes what the method would, and gives nothing. */
      private void leaveOut(String type, boolean isStatic) {
        Type[] taken = Type.getArgumentTypes(type);
        for (int i = taken.length - 1; i >= 0; i--) {
          super.visitInsn(taken[i].getSize() == 2 ? Opcodes.POP2 : Opcodes.POP);
        }
        if (!isStatic) {
          super.visitInsn(Opcodes.POP);
        }
        nothing(Type.getReturnType(type));
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
