/** The whole example, which explains the real commands that it runs. */
package org.wornladder.cli.demo;
