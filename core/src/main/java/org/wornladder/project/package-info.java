/**
 * What is on disk: settings, variables, rungs and standing scripts, read and checked without a
 * database. Everything wrong is collected and reported together.
 */
package org.wornladder.project;
