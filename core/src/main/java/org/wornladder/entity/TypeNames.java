package org.wornladder.entity;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;
import org.objectweb.asm.signature.SignatureReader;
import org.objectweb.asm.signature.SignatureVisitor;

/**
 * A type with its arguments, by the names of their classes (Java Virtual Machine Specification,
 * 4.7.9.1).
 *
 * @param arguments those of the type itself; what stands inside of them is left out
 */
record TypeNames(String name, List<String> arguments) {
  private static final String OBJECT = "java.lang.Object";

  TypeNames {
    arguments = List.copyOf(arguments);
  }

  /** A type without arguments. */
  static TypeNames ofDescriptor(String descriptor) {
    return new TypeNames(Type.getType(descriptor).getClassName(), List.of());
  }

  /**
   * A type of a signature.
   *
   * @param variables what the type variables stand for
   */
  static TypeNames ofSignature(String signature, Map<String, String> variables) {
    Reader reader = new Reader(variables);
    new SignatureReader(signature).acceptType(reader);
    return reader.type();
  }

  /** The return type of a method's signature. */
  static TypeNames ofReturn(String signature, Map<String, String> variables) {
    List<Reader> returned = new ArrayList<>();
    new SignatureReader(signature)
        .accept(
            new SignatureVisitor(Opcodes.ASM9) {
              @Override
              public SignatureVisitor visitReturnType() {
                returned.add(new Reader(variables));
                return returned.get(0);
              }
            });
    return returned.get(0).type();
  }

  /** The superclass and the interfaces of a class's signature. */
  static List<TypeNames> ofSupertypes(String signature, Map<String, String> variables) {
    List<Reader> all = new ArrayList<>();
    new SignatureReader(signature)
        .accept(
            new SignatureVisitor(Opcodes.ASM9) {
              @Override
              public SignatureVisitor visitSuperclass() {
                return next();
              }

              @Override
              public SignatureVisitor visitInterface() {
                return next();
              }

              private SignatureVisitor next() {
                all.add(new Reader(variables));
                return all.get(all.size() - 1);
              }
            });
    return all.stream().map(Reader::type).toList();
  }

  /** The names of a class's own type variables. */
  static List<String> variables(String signature) {
    List<String> names = new ArrayList<>();
    new SignatureReader(signature)
        .accept(
            new SignatureVisitor(Opcodes.ASM9) {
              @Override
              public void visitFormalTypeParameter(String name) {
                names.add(name);
              }
            });
    return names;
  }

  /** Takes one type. */
  private static final class Reader extends SignatureVisitor {
    private final Map<String, String> variables;
    private final List<Reader> arguments = new ArrayList<>();
    private String name = OBJECT;
    private String arrays = "";

    Reader(Map<String, String> variables) {
      super(Opcodes.ASM9);
      this.variables = variables;
    }

    TypeNames type() {
      return new TypeNames(
          name + arrays, arguments.stream().map(one -> one.type().name()).toList());
    }

    @Override
    public void visitBaseType(char descriptor) {
      name = Type.getType(String.valueOf(descriptor)).getClassName();
    }

    @Override
    public void visitTypeVariable(String variable) {
      name = variables.getOrDefault(variable, OBJECT);
    }

    @Override
    public SignatureVisitor visitArrayType() {
      arrays += "[]";
      return this;
    }

    @Override
    public void visitClassType(String internal) {
      name = internal.replace('/', '.');
    }

    @Override
    public void visitInnerClassType(String inner) {
      name += "$" + inner;
    }

    @Override
    public SignatureVisitor visitTypeArgument(char wildcard) {
      arguments.add(new Reader(variables));
      return arguments.get(arguments.size() - 1);
    }
  }
}
