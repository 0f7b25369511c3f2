/** MariaDB and MySQL; which of them it is, {@code MariadbServer} knows. */
package org.wornladder.engine.mariadb;
