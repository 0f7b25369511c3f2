package org.wornladder.cli.archive;

import java.util.Map;
import java.util.TreeMap;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Handle;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * Gives lambdas and method references classes of their own. The JVM makes them at run time
 * otherwise ({@code java.lang.invoke.LambdaMetafactory}), and to link one takes it as long as to
 * load twenty classes out of an archive.
 */
final class PlainLambdas extends ClassVisitor {
  private static final String FACTORY = "java/lang/invoke/LambdaMetafactory";
  private static final String LAMBDA = "lambda$";

  private final Map<String, byte[]> made = new TreeMap<>();
  private String host = "";
  private boolean inInterface;
  private int version;
  private int bridges;

  private PlainLambdas(ClassWriter writer) {
    super(Opcodes.ASM9, writer);
  }

  /**
   * @param classFile a class
   * @return the same without lambdas, and the classes that stand for them, by their internal names
   */
  static Map<String, byte[]> in(byte[] classFile) {
    ClassReader reader = new ClassReader(classFile);
    ClassWriter writer = new ClassWriter(reader, 0);
    PlainLambdas lambdas = new PlainLambdas(writer);
    reader.accept(lambdas, 0);
    if (lambdas.made.isEmpty()) {
      return Map.of(reader.getClassName(), classFile);
    }
    lambdas.made.put(reader.getClassName(), writer.toByteArray());
    return lambdas.made;
  }

  @Override
  public void visit(
      int version, int access, String name, String signature, String parent, String[] interfaces) {
    host = name;
    this.version = version;
    inInterface = (access & Opcodes.ACC_INTERFACE) != 0;
    super.visit(version, access, name, signature, parent, interfaces);
  }

  @Override
  public MethodVisitor visitMethod(
      int access, String name, String descriptor, String signature, String[] exceptions) {
    boolean opened = isBody(access, name);
    MethodVisitor method =
        super.visitMethod(
            opened ? opened(access) : access,
            opened ? unique(name) : name,
            descriptor,
            signature,
            exceptions);
    return new MethodVisitor(Opcodes.ASM9, method) {
      @Override
      public void visitInvokeDynamicInsn(
          String called, String type, Handle bootstrap, Object... arguments) {
        if (bootstrap.getOwner().equals(FACTORY) && bootstrap.getName().equals("metafactory")) {
          LambdaClass lambda = lambda(called, type, arguments);
          made.put(lambda.name(), lambda.bytes(version));
          super.visitMethodInsn(Opcodes.INVOKESTATIC, lambda.name(), LambdaClass.MAKE, type, false);
        } else {
          super.visitInvokeDynamicInsn(called, type, bootstrap, renamed(arguments));
        }
      }
    };
  }

  /**
   * @param arguments what the factory is given: the type of the interface's method, what is called,
   *     and the type with which it is
   */
  private LambdaClass lambda(String method, String type, Object... arguments) {
    String name = host + "$$Plain" + made.size();
    Handle target = (Handle) arguments[1];
    return new LambdaClass(
        name,
        method,
        type,
        (Type) arguments[0],
        (Type) arguments[2],
        isBody(target) ? body(target) : reachable(target));
  }

  private boolean isBody(Handle target) {
    return target.getOwner().equals(host) && target.getName().startsWith(LAMBDA);
  }

  /** What javac made of a lambda's body: nobody else calls it, so that it may have another name. */
  private static boolean isBody(int access, String name) {
    int both = Opcodes.ACC_PRIVATE | Opcodes.ACC_SYNTHETIC;
    return (access & both) == both && name.startsWith(LAMBDA);
  }

  private int opened(int access) {
    int open = access & ~Opcodes.ACC_PRIVATE;
    return inInterface ? open | Opcodes.ACC_PUBLIC : open;
  }

  /** A name that no class above or below has: what is private no more could be overridden. */
  private String unique(String name) {
    return name + "$" + host.substring(host.lastIndexOf('/') + 1);
  }

  private Handle body(Handle target) {
    int tag = target.getTag();
    if (tag != Opcodes.H_INVOKESTATIC) {
      tag = inInterface ? Opcodes.H_INVOKEINTERFACE : Opcodes.H_INVOKEVIRTUAL;
    }
    String name = unique(target.getName());
    return new Handle(tag, host, name, target.getDesc(), target.isInterface());
  }

  private Object[] renamed(Object... arguments) {
    Object[] renamed = arguments.clone();
    for (int i = 0; i < renamed.length; i++) {
      if (renamed[i] instanceof Handle handle && isBody(handle)) {
        renamed[i] = body(handle);
      }
    }
    return renamed;
  }

  /** A method that another class can call: one of the same nest may be private. */
  private Handle reachable(Handle target) {
    String outermost = host.replaceFirst("\\$.*", "");
    if (!target.getOwner().replaceFirst("\\$.*", "").equals(outermost)) {
      return target;
    }
    String name = "plain$" + bridges++ + "$" + host.substring(host.lastIndexOf('/') + 1);
    Type type = LambdaClass.called(target);
    int access = Opcodes.ACC_STATIC | Opcodes.ACC_SYNTHETIC;
    MethodVisitor bridge =
        super.visitMethod(
            inInterface ? access | Opcodes.ACC_PUBLIC : access,
            name,
            type.getDescriptor(),
            null,
            null);
    bridge.visitCode();
    int size = LambdaClass.begin(bridge, target);
    int place = 0;
    for (Type argument : type.getArgumentTypes()) {
      bridge.visitVarInsn(argument.getOpcode(Opcodes.ILOAD), place);
      place += argument.getSize();
    }
    LambdaClass.invoke(bridge, target);
    bridge.visitInsn(type.getReturnType().getOpcode(Opcodes.IRETURN));
    bridge.visitMaxs(place + size + type.getReturnType().getSize(), place);
    bridge.visitEnd();
    return new Handle(Opcodes.H_INVOKESTATIC, host, name, type.getDescriptor(), inInterface);
  }
}
