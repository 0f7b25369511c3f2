package org.wornladder.schema;

import java.util.Optional;

/** What an object in a database is, in the order in which a structure lists them. */
public enum Kind {
  SCHEMA("schema", "schemas"),
  EXTENSION("extension", "extensions"),
  ENUM("enum", "enums"),
  DOMAIN("domain", "domains"),
  COMPOSITE("composite type", "composite types"),
  RANGE("range type", "range types"),
  SEQUENCE("sequence", "sequences"),
  TABLE("table", "tables"),
  /** The documents of a document database under one name. */
  COLLECTION("collection", "collections"),
  COLUMN("column", "columns"),
  PRIMARY_KEY("primary key", "primary keys"),
  UNIQUE("unique constraint", "unique constraints"),
  FOREIGN_KEY("foreign key", "foreign keys"),
  CHECK("check constraint", "check constraints"),
  EXCLUSION("exclusion constraint", "exclusion constraints"),
  INDEX("index", "indexes"),
  POLICY("policy", "policies"),
  VIEW("view", "views"),
  MATERIALISED_VIEW("materialised view", "materialised views"),
  FUNCTION("function", "functions"),
  PROCEDURE("procedure", "procedures"),
  AGGREGATE("aggregate", "aggregates"),
  TRIGGER("trigger", "triggers"),
  EVENT("event", "events"),
  USER("user", "users"),
  ROLE("role", "roles"),
  /** Whose an object is. Compared only when that is asked for. */
  OWNER("owner", "owners"),
  /** Who may do what with an object. Compared only when that is asked for. */
  GRANT("grant", "grants"),
  /** There, and named, but its definition is not read. */
  OTHER("other object", "other objects");

  private final String word;
  private final String plural;

  Kind(String word, String plural) {
    this.word = word;
    this.plural = plural;
  }

  /** Whether it says who may, and not what is there. */
  public boolean isRight() {
    return this == OWNER || this == GRANT;
  }

  /** Whether it holds rows or documents of its own. */
  public boolean isTable() {
    return this == TABLE || this == COLLECTION;
  }

  /** Whether it is a query under a name. */
  public boolean isView() {
    return this == VIEW || this == MATERIALISED_VIEW;
  }

  public String label() {
    return word;
  }

  public String plural() {
    return plural;
  }

  /** The kind of a word; empty if there is none. */
  public static Optional<Kind> of(String word) {
    for (Kind kind : values()) {
      if (kind.word.equals(word)) {
        return Optional.of(kind);
      }
    }
    return Optional.empty();
  }
}
