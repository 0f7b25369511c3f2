/** The front door for a Java program; what the commands call. */
package org.wornladder;
