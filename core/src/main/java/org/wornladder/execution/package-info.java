/**
 * Plan and run: apply, roll back, settle. A plan is a value, computed from the files and the
 * journal; the runner does what it says and nothing else.
 */
package org.wornladder.execution;
