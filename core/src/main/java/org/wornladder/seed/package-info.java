/**
 * Reference data and generated rows: what files say should be in tables, compared with what is
 * there, and written.
 */
package org.wornladder.seed;
