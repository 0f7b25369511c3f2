/** Written at build time: shell completion, and the sources of the manual pages. */
package org.wornladder.cli.document;
