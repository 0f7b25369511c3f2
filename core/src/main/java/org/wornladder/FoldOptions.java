package org.wornladder;

/**
 * Which rungs become one, and what becomes of their files.
 *
 * @param upTo the highest rung to be folded; it and all below it become one
 * @param words what the new rung is for
 * @param deletes whether the folded files go; otherwise they move to a folder beside the rungs
 * @param write whether files are changed
 */
public record FoldOptions(long upTo, String words, boolean deletes, boolean write) {}
