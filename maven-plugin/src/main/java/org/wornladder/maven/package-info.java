/** The goals of the Maven plugin: each calls the library, and fails the build by what it finds. */
package org.wornladder.maven;
