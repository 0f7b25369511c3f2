/** Differences of two structures. Pure functions: two trees in, a value out. */
package org.wornladder.change;
