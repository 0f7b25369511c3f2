package org.wornladder.journal;

/**
 * What an entry is about.
 *
 * @param rung the rung's number; 0 for a standing script
 * @param name the rung's words, or the standing script's name
 * @param script a rung's way down, or a standing script's whole text, before values are put in
 */
public record Subject(
    long rung, String name, String upFingerprint, String downFingerprint, String script) {}
