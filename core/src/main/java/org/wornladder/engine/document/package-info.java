/** Document databases, by the open wire protocol that several of them share. */
package org.wornladder.engine.document;
