/** Examines a database and a project, and changes neither. */
package org.wornladder.service;
