package org.wornladder;

import java.util.List;

/** Something that was not done because it would not be safe; nothing has been changed. */
public final class RefusedException extends LadderException {
  private final transient List<Refusal> refusals;

  /** One reason, with its place and its way on. */
  public record Refusal(String what, String where, String next) {}

  public RefusedException(List<Refusal> refusals) {
    super(refusals.get(0).what(), refusals.get(0).where(), refusals.get(0).next(), null);
    this.refusals = List.copyOf(refusals);
  }

  public static RefusedException of(String what, String where, String next) {
    return new RefusedException(List.of(new Refusal(what, where, next)));
  }

  public List<Refusal> refusals() {
    return refusals;
  }
}
