/** What rungs erase, kept aside for a while, so that a roll-back can bring rows back. */
package org.wornladder.attic;
