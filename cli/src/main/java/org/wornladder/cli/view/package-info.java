/** Results in, characters out: text for people, JSON for programs. */
package org.wornladder.cli.view;
