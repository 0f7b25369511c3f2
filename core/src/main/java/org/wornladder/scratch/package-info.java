/** Scratch databases: what files make is found out by making it, in a database that is dropped. */
package org.wornladder.scratch;
