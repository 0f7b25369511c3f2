package org.wornladder.spring.sample;

import org.springframework.boot.autoconfigure.SpringBootApplication;

/** An application that has nothing but its entities and the ladder that it brings along. */
@SpringBootApplication
public class SampleApplication {}
