package org.wornladder.seed;

import org.wornladder.schema.Column;

/**
 * A reference by meaning: a column that the file gives by what the row it points to says.
 *
 * @param part the column of the stage that takes what the file says
 * @param header the file's name for it
 * @param column the column that is looked up
 * @param target the table that it points to
 * @param targetColumn the column there that it takes its value from
 * @param meaning the column there that has what the file says
 * @param isUnique whether the table sees to it that no two rows mean the same
 */
record LookupColumn(
    String part,
    String header,
    String column,
    String target,
    String targetColumn,
    Column meaning,
    boolean isUnique) {}
