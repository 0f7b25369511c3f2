/**
 * What differs by database, behind one interface: a folder an engine. Engines are found by the
 * service loader, so one more can be added from outside.
 */
package org.wornladder.engine;
