/** Measures, each beside its reference from the same run. Not run by the tests. */
package org.wornladder.bench;
