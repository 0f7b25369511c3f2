/** One small class a command: read the options, call the core, hand the result to a view. */
package org.wornladder.cli.command;
