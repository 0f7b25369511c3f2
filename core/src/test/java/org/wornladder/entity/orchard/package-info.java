/** The entities of a sample application, which use every rule that is read. */
package org.wornladder.entity.orchard;
