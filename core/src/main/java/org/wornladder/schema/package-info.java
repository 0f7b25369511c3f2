/**
 * The structure of a database as immutable records. A tree holds what the engine says of itself, in
 * a settled order, so that two trees of equal structures are equal.
 */
package org.wornladder.schema;
