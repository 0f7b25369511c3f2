/** MariaDB, and MySQL as far as its driver goes. */
package org.wornladder.engine.mariadb;
