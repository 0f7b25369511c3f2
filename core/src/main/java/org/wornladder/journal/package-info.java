/**
 * The record inside a database. Entries are only ever added; what state a rung is in is what its
 * entries say, read in order.
 */
package org.wornladder.journal;
