package org.wornladder.project;

import de.siegmar.fastcsv.reader.CsvCallbackHandler;
import de.siegmar.fastcsv.reader.RecordType;
import java.util.Arrays;

/** Builds a CSV record's fields; null is an empty field without quotes. */
final class CsvFields extends CsvCallbackHandler<String[]> {
  private String[] values = new String[8];
  private int count;
  private long line;
  private boolean empty;

  /** The line on which the record begins, from 1. */
  long line() {
    return line;
  }

  @Override
  protected RecordType getRecordType() {
    return empty ? RecordType.EMPTY : RecordType.DATA;
  }

  @Override
  protected int getFieldCount() {
    return count;
  }

  @Override
  protected void beginRecord(long startingLine) {
    count = 0;
    empty = false;
    line = startingLine;
  }

  @Override
  protected void addField(char[] buffer, int offset, int length, boolean quoted) {
    boolean none = length == 0 && !quoted;
    if (count == values.length) {
      values = Arrays.copyOf(values, count * 2);
    }
    values[count] = none ? null : new String(buffer, offset, length);
    count++;
  }

  @Override
  protected void setComment(char[] buffer, int offset, int length) {
    throw new IllegalStateException("comments are not read");
  }

  @Override
  protected void setEmpty() {
    empty = true;
  }

  @Override
  protected String[] buildRecord() {
    return Arrays.copyOf(values, count);
  }
}
