package org.wornladder.sql;

import java.util.Collections;
import java.util.EnumSet;
import java.util.Set;

/**
 * How one database's SQL text is read.
 *
 * @param name the engine's name as it is in files, in lower case
 * @param traits what its text has beyond quotes, doubled quotes and {@code --} comments
 */
public record Dialect(String name, Set<Trait> traits) {
  /** A way of writing that some databases have and others do not. */
  public enum Trait {
    /** A block comment may hold block comments. */
    NESTED_COMMENTS,
    /** {@code #} begins a line comment. */
    HASH_COMMENTS,
    /** {@code //} begins a line comment. */
    SLASH_COMMENTS,
    /** {@code --} begins a comment only before a blank, a control character or the end. */
    DASHES_WANT_BLANK,
    /** {@code /*!} and {@code /*M!} comments are executed. */
    EXECUTED_COMMENTS,
    /** {@code sql_mode} decides about backslashes and double quotes. */
    SQL_MODE,
    /** A backslash escapes inside strings. */
    BACKSLASH_ESCAPES,
    /** Double quotes stand around names alone, even where others can be strings. */
    ANSI_QUOTES,
    /** {@code E'…'} strings, in which a backslash escapes. */
    ESCAPE_STRINGS,
    /** {@code $tag$ … $tag$} strings. */
    DOLLAR_QUOTES,
    /** Names in back quotes. */
    BACK_QUOTED_NAMES,
    /** Names in square brackets. */
    BRACKETED_NAMES,
    /** {@code DELIMITER} lines, as the database's own shell reads them. */
    DELIMITER_LINES,
    /** {@code COPY … FROM stdin} with its rows behind it. */
    LOAD_DATA,
    /** Semicolons inside parentheses do not end a statement (the actions of a rule). */
    PARENTHESES_HOLD,
    /** {@code CREATE TRIGGER … BEGIN … END}. */
    TRIGGER_BODIES,
    /** Stored routines with blocks, loops and branches. */
    ROUTINE_BODIES,
    /** Names without quotes are kept in lower case. */
    FOLDS_TO_LOWER,
    /** {@code BEGIN ATOMIC … END}. */
    ATOMIC_BODIES,
    /** It is no SQL: each statement is a JSON object. */
    JSON
  }

  public Dialect {
    // An enum set answers faster than any other, and every character asks.
    traits = Collections.unmodifiableSet(EnumSet.copyOf(traits));
  }

  /** The same with or without one trait. */
  Dialect with(Trait trait, boolean present) {
    if (has(trait) == present) {
      return this;
    }
    Set<Trait> other = EnumSet.copyOf(traits);
    if (!other.remove(trait)) {
      other.add(trait);
    }
    return new Dialect(name, other);
  }

  public boolean has(Trait trait) {
    return traits.contains(trait);
  }
}
