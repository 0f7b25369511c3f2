package org.wornladder.engine;

/**
 * Why a statement is refused before anything runs.
 *
 * @param reason what is wrong with it there
 * @param next what to do instead
 */
public record Objection(String reason, String next) {}
