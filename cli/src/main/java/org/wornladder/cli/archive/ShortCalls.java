package org.wornladder.cli.archive;

import java.util.Map;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * Has the driver ask {@link ShortWays} where it asks a part of Java that takes longer to load than
 * to connect takes otherwise. Every program that connects would pay for it at each start.
 */
final class ShortCalls {
  /** A class of the driver, and the static method that it calls no more. */
  static final Map<String, String> CALLS =
      Map.of(
          "org/postgresql/core/ServerVersion",
          "java/text/NumberFormat.getIntegerInstance()Ljava/text/NumberFormat;",
          "org/postgresql/jdbc/PgConnection",
          "java/lang/Class.forName(Ljava/lang/String;)Ljava/lang/Class;",
          "org/postgresql/util/PGPropertyMaxResultBufferParser",
          "java/lang/management/ManagementFactory.getMemoryMXBean()"
              + "Ljava/lang/management/MemoryMXBean;");

  private static final String WAYS = Type.getInternalName(ShortWays.class);

  private ShortCalls() {}

  /** A class with its long calls replaced; the same bytes if it has none. */
  static byte[] in(byte[] classFile) {
    ClassReader reader = new ClassReader(classFile);
    String called = CALLS.get(reader.getClassName());
    if (called == null) {
      return classFile;
    }
    ClassWriter writer = new ClassWriter(reader, 0);
    reader.accept(replacing(called, writer), 0);
    return writer.toByteArray();
  }

  private static ClassVisitor replacing(String called, ClassWriter writer) {
    return new ClassVisitor(Opcodes.ASM9, writer) {
      @Override
      public MethodVisitor visitMethod(
          int access, String name, String type, String signature, String[] exceptions) {
        MethodVisitor code = super.visitMethod(access, name, type, signature, exceptions);
        return new MethodVisitor(Opcodes.ASM9, code) {
          @Override
          public void visitMethodInsn(
              int kind, String owner, String method, String of, boolean ofInterface) {
            boolean replaced = called.equals(owner + "." + method + of);
            super.visitMethodInsn(kind, replaced ? WAYS : owner, method, of, ofInterface);
          }
        };
      }
    };
  }
}
