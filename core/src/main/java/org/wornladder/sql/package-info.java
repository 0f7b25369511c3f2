/**
 * SQL text: characters, tokens, statements and their meaning fingerprint, per dialect.
 *
 * <p>Nothing here knows a database. A {@link org.wornladder.sql.Dialect} says how text is read; the
 * text itself is kept as it is, to the character.
 */
package org.wornladder.sql;
