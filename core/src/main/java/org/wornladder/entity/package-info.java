/** The tables that an application's entity classes describe (Jakarta Persistence 3.2). */
package org.wornladder.entity;
