/** The whole example, told as it runs the real commands. */
package org.wornladder.cli.demo;
