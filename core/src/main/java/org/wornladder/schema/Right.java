package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * Whose an object is, or what a role may do with it.
 *
 * @param object the object; its kind is SCHEMA for a database's own rights too
 * @param grantee the role that may do it; empty for the owner
 * @param said the role that owns it, or the rights, parted by a comma and a blank
 */
public record Right(ObjectId id, ObjectId object, String grantee, String said)
    implements DatabaseObject {
  /** What follows a right that its role may hand on. */
  public static final String GRANTABLE = " (may grant it on)";

  static final String OBJECT_KIND = "object kind";
  static final String OBJECT_SCHEMA = "object schema";
  static final String OBJECT = "object";
  static final String OBJECT_QUALIFIER = "object qualifier";
  static final String GRANTEE = "grantee";
  private static final String OWNER = "owner";
  private static final String RIGHTS = "rights";

  /** Whose an object is. */
  public static Right owner(ObjectId object, String label, String role) {
    return new Right(ObjectId.of(Kind.OWNER, label), object, "", role);
  }

  /**
   * What a role may do with an object.
   *
   * @param label the object's kind and name for people
   */
  public static Right grant(ObjectId object, String label, String grantee, String rights) {
    return new Right(ObjectId.of(Kind.GRANT, label + " to " + grantee), object, grantee, rights);
  }

  static Right of(ObjectId id, Map<String, String> facts) {
    Kind kind = Kind.of(facts.getOrDefault(OBJECT_KIND, "")).orElse(Kind.OTHER);
    return new Right(
        id,
        new ObjectId(
            kind,
            facts.getOrDefault(OBJECT_SCHEMA, ""),
            facts.getOrDefault(OBJECT, ""),
            facts.getOrDefault(OBJECT_QUALIFIER, "")),
        facts.getOrDefault(GRANTEE, ""),
        facts.getOrDefault(id.kind() == Kind.OWNER ? OWNER : RIGHTS, ""));
  }

  /** The table that it is about, if it is about one. */
  @Override
  public Optional<ObjectId> owner() {
    return Optional.of(object).filter(one -> one.kind() == Kind.TABLE);
  }

  @Override
  public List<Part> parts() {
    return List.of();
  }

  @Override
  public List<Dependency> dependsOn() {
    return List.of();
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(
        Map.of(),
        OBJECT_KIND,
        object.kind().label(),
        OBJECT_SCHEMA,
        object.schema(),
        OBJECT,
        object.name(),
        OBJECT_QUALIFIER,
        object.qualifier(),
        GRANTEE,
        grantee,
        kind() == Kind.OWNER ? OWNER : RIGHTS,
        said,
        Facts.TABLE,
        owner().map(ObjectId::displayName).orElse(""));
  }
}
