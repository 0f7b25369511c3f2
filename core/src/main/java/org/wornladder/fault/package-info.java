/**
 * What every failure has: what happened, where, and what to do next. Leaves stand in the packages
 * of the stage that failed.
 */
package org.wornladder.fault;
