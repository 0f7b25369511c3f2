/** H2. */
package org.wornladder.engine.h2;
