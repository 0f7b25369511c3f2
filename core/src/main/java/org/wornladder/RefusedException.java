package org.wornladder;

import java.util.List;

/** Something that was not done because it would not be safe; nothing has been changed. */
public final class RefusedException extends LadderException {
  private final transient List<Refusal> refusals;

  /** One reason, with its place and what to do about it. */
  public record Refusal(String what, String where, Advice advice) {
    /** One with a hint that names no command. */
    public Refusal(String what, String where, String hint) {
      this(what, where, Advice.hint(hint));
    }
  }

  public RefusedException(List<Refusal> refusals) {
    super(refusals.get(0).what(), refusals.get(0).where(), refusals.get(0).advice(), null);
    this.refusals = List.copyOf(refusals);
  }

  /** With a hint that names no command; it may be empty. */
  public static RefusedException of(String what, String where, String hint) {
    return of(what, where, Advice.hint(hint));
  }

  public static RefusedException of(String what, String where, Advice advice) {
    return new RefusedException(List.of(new Refusal(what, where, advice)));
  }

  public List<Refusal> refusals() {
    return refusals;
  }
}
