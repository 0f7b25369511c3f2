/** Applies a project's rungs when a Spring Boot application starts, before anything uses them. */
package org.wornladder.spring;
