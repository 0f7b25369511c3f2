package org.wornladder.cli.archive;

import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * From one type to another, as a lambda's arguments and result are converted: casting, boxing,
 * unboxing, widening, and leaving out a result that nobody wants (Java Language Specification,
 * section 5.1).
 */
record Conversion(Type from, Type to) {
  private static final String OBJECT = "java/lang/Object";

  void write(MethodVisitor code) {
    if (to.getSort() == Type.VOID) {
      leaveOut(code);
    } else if (isPrimitive(from) && isPrimitive(to)) {
      widen(code, from, to);
    } else if (isPrimitive(from)) {
      String box = box(from);
      String descriptor = Type.getMethodDescriptor(Type.getObjectType(box), from);
      code.visitMethodInsn(Opcodes.INVOKESTATIC, box, "valueOf", descriptor, false);
    } else if (isPrimitive(to)) {
      unbox(code);
    } else if (!to.equals(from) && !to.getInternalName().equals(OBJECT)) {
      code.visitTypeInsn(Opcodes.CHECKCAST, to.getInternalName());
    }
  }

  private void leaveOut(MethodVisitor code) {
    if (from.getSize() > 0) {
      code.visitInsn(from.getSize() == 2 ? Opcodes.POP2 : Opcodes.POP);
    }
  }

  private static boolean isPrimitive(Type type) {
    return type.getSort() < Type.ARRAY;
  }

  private void unbox(MethodVisitor code) {
    Type held = held(from.getInternalName());
    Type first = held.getSort() == Type.VOID ? to : held;
    String box = box(first);
    if (!box.equals(from.getInternalName())) {
      code.visitTypeInsn(Opcodes.CHECKCAST, box);
    }
    String name = first.getClassName() + "Value";
    code.visitMethodInsn(Opcodes.INVOKEVIRTUAL, box, name, Type.getMethodDescriptor(first), false);
    widen(code, first, to);
  }

  private static void widen(MethodVisitor code, Type from, Type to) {
    int narrow = from.getSort();
    int wide = to.getSort();
    if (narrow == wide || wide <= Type.INT) {
      return;
    }
    if (narrow <= Type.INT) {
      code.visitInsn(
          wide == Type.LONG ? Opcodes.I2L : wide == Type.FLOAT ? Opcodes.I2F : Opcodes.I2D);
    } else if (narrow == Type.LONG) {
      code.visitInsn(wide == Type.FLOAT ? Opcodes.L2F : Opcodes.L2D);
    } else {
      code.visitInsn(Opcodes.F2D);
    }
  }

  private static String box(Type primitive) {
    return switch (primitive.getSort()) {
      case Type.BOOLEAN -> "java/lang/Boolean";
      case Type.CHAR -> "java/lang/Character";
      case Type.BYTE -> "java/lang/Byte";
      case Type.SHORT -> "java/lang/Short";
      case Type.INT -> "java/lang/Integer";
      case Type.LONG -> "java/lang/Long";
      case Type.FLOAT -> "java/lang/Float";
      case Type.DOUBLE -> "java/lang/Double";
      default -> throw new IllegalArgumentException("no primitive type: " + primitive);
    };
  }

  /** What a box holds; nothing if it is none. */
  private static Type held(String box) {
    return switch (box) {
      case "java/lang/Boolean" -> Type.BOOLEAN_TYPE;
      case "java/lang/Character" -> Type.CHAR_TYPE;
      case "java/lang/Byte" -> Type.BYTE_TYPE;
      case "java/lang/Short" -> Type.SHORT_TYPE;
      case "java/lang/Integer" -> Type.INT_TYPE;
      case "java/lang/Long" -> Type.LONG_TYPE;
      case "java/lang/Float" -> Type.FLOAT_TYPE;
      case "java/lang/Double" -> Type.DOUBLE_TYPE;
      default -> Type.VOID_TYPE;
    };
  }
}
