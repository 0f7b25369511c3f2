/** A fuzz harness: runs the parsers and readers of the core on mutated inputs. */
package org.wornladder.fuzz;
