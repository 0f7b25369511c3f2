/** PostgreSQL. */
package org.wornladder.engine.postgres;
