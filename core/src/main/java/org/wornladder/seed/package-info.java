/**
 * Reference data and generated rows: what files say shall stand in tables, laid beside what stands
 * there, and written.
 */
package org.wornladder.seed;
