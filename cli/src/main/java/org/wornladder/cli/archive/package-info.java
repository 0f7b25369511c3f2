/** What the class-data archive is trained on. */
package org.wornladder.cli.archive;
