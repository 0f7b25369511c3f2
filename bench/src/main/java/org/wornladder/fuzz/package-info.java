/** Feeds mutated inputs to what reads them, for as long as it is told to. */
package org.wornladder.fuzz;
