/** What makes the program start fast: its training for the class-data archive, and its jars. */
package org.wornladder.cli.archive;
