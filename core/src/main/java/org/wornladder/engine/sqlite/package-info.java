/** SQLite, embedded. */
package org.wornladder.engine.sqlite;
