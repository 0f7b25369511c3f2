package org.wornladder.cli.archive;

import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Opcodes;

/**
 * Lifts classes of an old class-file version to one with stack maps. The JVM then verifies them by
 * checking types instead of inferring them, and an archive holds them verified (Java Virtual
 * Machine Specification, sections 4.10.1 and 4.10.2).
 */
final class StackMaps {
  private static final int MAJOR_VERSION_OFFSET = 7;
  private static final int FIRST_WITH_STACK_MAPS = Opcodes.V1_6;

  private StackMaps() {}

  static boolean isOld(byte[] classFile) {
    return classFile[MAJOR_VERSION_OFFSET] < FIRST_WITH_STACK_MAPS;
  }

  /** The same class with stack maps. Finds the types that it names on the class path. */
  static byte[] into(byte[] classFile) {
    ClassWriter writer = new ClassWriter(ClassWriter.COMPUTE_FRAMES);
    ClassVisitor lift =
        new ClassVisitor(Opcodes.ASM9, writer) {
          @Override
          public void visit(
              int version,
              int access,
              String name,
              String signature,
              String parent,
              String[] interfaces) {
            super.visit(Opcodes.V1_7, access, name, signature, parent, interfaces);
          }
        };
    new ClassReader(classFile).accept(lift, 0);
    return writer.toByteArray();
  }
}
