package org.wornladder;

import java.util.List;

/**
 * A rung that was moved to the end of the ladder.
 *
 * @param from the file's old name
 * @param file its new name
 * @param recorded the environments whose journals have the new number now
 */
public record RenumberResult(String from, String file, List<String> recorded) {}
