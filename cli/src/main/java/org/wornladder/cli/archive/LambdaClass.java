package org.wornladder.cli.archive;

import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Handle;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * The class that stands for a lambda: its fields hold what the lambda has captured, its method
 * calls what the lambda says, with the conversions that {@code java.lang.invoke.LambdaMetafactory}
 * names.
 *
 * @param method the name of the interface's method
 * @param making what is captured, and as the result the interface
 * @param erased the type of the interface's method
 * @param actual the same with what stands for the interface's type variables
 * @param target what is called
 */
record LambdaClass(
    String name, String method, String making, Type erased, Type actual, Handle target) {
  /** The method that makes one. */
  static final String MAKE = "make";

  private static final String CONSTRUCTOR = "<init>";
  private static final String OBJECT = "java/lang/Object";

  byte[] bytes(int version) {
    // A single way through each method, so that no stack maps are needed.
    ClassWriter out = new ClassWriter(ClassWriter.COMPUTE_MAXS);
    Type made = Type.getMethodType(making);
    String[] interfaces = {made.getReturnType().getInternalName()};
    int access = Opcodes.ACC_FINAL | Opcodes.ACC_SUPER | Opcodes.ACC_SYNTHETIC;
    out.visit(version, access, name, null, OBJECT, interfaces);
    Type[] captured = made.getArgumentTypes();
    for (int i = 0; i < captured.length; i++) {
      int field = Opcodes.ACC_PRIVATE | Opcodes.ACC_FINAL;
      out.visitField(field, field(i), captured[i].getDescriptor(), null, null).visitEnd();
    }
    constructor(out, captured);
    maker(out, captured);
    call(out, captured);
    out.visitEnd();
    return out.toByteArray();
  }

  private static String field(int index) {
    return "captured" + index;
  }

  private void constructor(ClassWriter out, Type... captured) {
    String descriptor = Type.getMethodDescriptor(Type.VOID_TYPE, captured);
    MethodVisitor code = out.visitMethod(0, CONSTRUCTOR, descriptor, null, null);
    code.visitCode();
    code.visitVarInsn(Opcodes.ALOAD, 0);
    code.visitMethodInsn(Opcodes.INVOKESPECIAL, OBJECT, CONSTRUCTOR, "()V", false);
    int place = 1;
    for (int i = 0; i < captured.length; i++) {
      code.visitVarInsn(Opcodes.ALOAD, 0);
      code.visitVarInsn(captured[i].getOpcode(Opcodes.ILOAD), place);
      code.visitFieldInsn(Opcodes.PUTFIELD, name, field(i), captured[i].getDescriptor());
      place += captured[i].getSize();
    }
    finish(code, Type.VOID_TYPE);
  }

  private void maker(ClassWriter out, Type... captured) {
    MethodVisitor code = out.visitMethod(Opcodes.ACC_STATIC, MAKE, making, null, null);
    code.visitCode();
    code.visitTypeInsn(Opcodes.NEW, name);
    code.visitInsn(Opcodes.DUP);
    int place = 0;
    for (Type type : captured) {
      code.visitVarInsn(type.getOpcode(Opcodes.ILOAD), place);
      place += type.getSize();
    }
    String descriptor = Type.getMethodDescriptor(Type.VOID_TYPE, captured);
    code.visitMethodInsn(Opcodes.INVOKESPECIAL, name, CONSTRUCTOR, descriptor, false);
    finish(code, Type.getObjectType(name));
  }

  private void call(ClassWriter out, Type... captured) {
    MethodVisitor code =
        out.visitMethod(Opcodes.ACC_PUBLIC, method, erased.getDescriptor(), null, null);
    code.visitCode();
    begin(code, target);
    Type[] wanted = called(target).getArgumentTypes();
    for (int i = 0; i < captured.length; i++) {
      code.visitVarInsn(Opcodes.ALOAD, 0);
      code.visitFieldInsn(Opcodes.GETFIELD, name, field(i), captured[i].getDescriptor());
      new Conversion(captured[i], wanted[i]).write(code);
    }
    int place = 1;
    Type[] given = erased.getArgumentTypes();
    for (int i = 0; i < given.length; i++) {
      code.visitVarInsn(given[i].getOpcode(Opcodes.ILOAD), place);
      convert(code, given[i], actual.getArgumentTypes()[i], wanted[captured.length + i]);
      place += given[i].getSize();
    }
    invoke(code, target);
    new Conversion(called(target).getReturnType(), erased.getReturnType()).write(code);
    finish(code, erased.getReturnType());
  }

  /** By what it actually is, where that decides what a box holds. */
  private static void convert(MethodVisitor code, Type given, Type actual, Type wanted) {
    if (wanted.getSort() < Type.ARRAY && given.getSort() >= Type.ARRAY) {
      new Conversion(given, actual).write(code);
      new Conversion(actual, wanted).write(code);
    } else {
      new Conversion(given, wanted).write(code);
    }
  }

  private static void finish(MethodVisitor code, Type result) {
    code.visitInsn(result.getOpcode(Opcodes.IRETURN));
    code.visitMaxs(0, 0);
    code.visitEnd();
  }

  /**
   * What is called as if it were static: the object comes first, and a constructor has a result.
   */
  static Type called(Handle target) {
    Type type = Type.getMethodType(target.getDesc());
    Type owner = Type.getObjectType(target.getOwner());
    if (target.getTag() == Opcodes.H_NEWINVOKESPECIAL) {
      return Type.getMethodType(owner, type.getArgumentTypes());
    }
    if (target.getTag() == Opcodes.H_INVOKESTATIC) {
      return type;
    }
    Type[] given = type.getArgumentTypes();
    Type[] all = new Type[given.length + 1];
    all[0] = owner;
    System.arraycopy(given, 0, all, 1, given.length);
    return Type.getMethodType(type.getReturnType(), all);
  }

  /**
   * What comes before the arguments.
   *
   * @return how many places on the stack it takes
   */
  static int begin(MethodVisitor code, Handle target) {
    if (target.getTag() != Opcodes.H_NEWINVOKESPECIAL) {
      return 0;
    }
    code.visitTypeInsn(Opcodes.NEW, target.getOwner());
    code.visitInsn(Opcodes.DUP);
    return 2;
  }

  static void invoke(MethodVisitor code, Handle target) {
    int instruction =
        switch (target.getTag()) {
          case Opcodes.H_INVOKESTATIC -> Opcodes.INVOKESTATIC;
          case Opcodes.H_INVOKEVIRTUAL -> Opcodes.INVOKEVIRTUAL;
          case Opcodes.H_INVOKEINTERFACE -> Opcodes.INVOKEINTERFACE;
          case Opcodes.H_INVOKESPECIAL, Opcodes.H_NEWINVOKESPECIAL -> Opcodes.INVOKESPECIAL;
          default -> throw new IllegalArgumentException("not a method: " + target);
        };
    code.visitMethodInsn(
        instruction, target.getOwner(), target.getName(), target.getDesc(), target.isInterface());
  }
}
