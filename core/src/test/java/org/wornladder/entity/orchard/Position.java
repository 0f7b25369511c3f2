package org.wornladder.entity.orchard;

import jakarta.persistence.Embeddable;

@Embeddable
record Position(double latitude, double longitude) {}
