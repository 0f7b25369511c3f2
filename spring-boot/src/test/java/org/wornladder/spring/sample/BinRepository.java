package org.wornladder.spring.sample;

import org.springframework.data.jpa.repository.JpaRepository;

/** The application's bins. */
public interface BinRepository extends JpaRepository<Bin, Long> {}
