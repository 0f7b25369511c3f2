/** The command line: words in, results out. Everything that is computed is computed in the core. */
package org.wornladder.cli;
