package org.wornladder.bench;

/** The bare JVM: the reference for every start. */
public final class Hello {
  private Hello() {}

  public static void main(String[] args) {
    System.out.println("hello");
  }
}
