/** Any engine with a JDBC driver, served by what the driver and the SQL standard say. */
package org.wornladder.engine.jdbc;
