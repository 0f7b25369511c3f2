/** Gives a JUnit 5 test class a database of its own with all rungs in place. */
package org.wornladder.junit;
