package org.wornladder.entity;

import jakarta.persistence.Column;
import jakarta.persistence.Id;
import jakarta.persistence.PersistenceException;
import java.io.IOException;
import java.lang.reflect.Constructor;
import java.lang.reflect.Field;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.logging.Level;
import java.util.logging.Logger;
import org.hibernate.SessionFactory;
import org.hibernate.boot.registry.BootstrapServiceRegistryBuilder;
import org.hibernate.cfg.Configuration;

/** One version of an application that keeps bins, at work through its persistence provider. */
record ApplicationVersion(Path classes) {
  private static final Logger QUIET = Logger.getLogger("org.hibernate");

  /** Whether it can store bins, with all and with the least that it demands, and read all bins. */
  boolean worksOn(String url) throws ReflectiveOperationException, IOException {
    QUIET.setLevel(Level.OFF);
    try (URLClassLoader loader =
        new URLClassLoader(
            new URL[] {classes.toUri().toURL()}, ApplicationVersion.class.getClassLoader())) {
      Configuration settings =
          new Configuration(new BootstrapServiceRegistryBuilder().applyClassLoader(loader).build());
      Class<?> bin = loader.loadClass("shop.Bin");
      settings.addAnnotatedClass(bin);
      settings.addAnnotatedClass(loader.loadClass("shop.Grower"));
      settings.setProperty("hibernate.connection.url", url);
      settings.setProperty("hibernate.hbm2ddl.auto", "none");
      try (SessionFactory application = settings.buildSessionFactory()) {
        Object full = filled(bin, false);
        application.inTransaction(session -> session.persist(full));
        Object sparse = filled(bin, true);
        application.inTransaction(session -> session.persist(sparse));
        application.inTransaction(session -> session.createQuery("from Bin", bin).list());
        return true;
      } catch (PersistenceException e) {
        return false;
      }
    }
  }

  private static boolean isRequired(Field field) {
    Column column = field.getAnnotation(Column.class);
    return field.isAnnotationPresent(Id.class) || column != null && !column.nullable();
  }

  private static Object filled(Class<?> type, boolean sparse) throws ReflectiveOperationException {
    Constructor<?> constructor = type.getDeclaredConstructor();
    constructor.setAccessible(true);
    Object made = constructor.newInstance();
    for (Field field : type.getDeclaredFields()) {
      field.setAccessible(true);
      Map<Class<?>, Object> values =
          Map.of(
              String.class,
              "b" + System.nanoTime() % 1_000_000,
              Integer.class,
              (int) (System.nanoTime() % 1_000_000_000),
              Long.class,
              System.nanoTime(),
              Set.class,
              Set.of(),
              List.class,
              new ArrayList<>());
      if (sparse && !isRequired(field)) {
        continue;
      }
      if (values.containsKey(field.getType())) {
        field.set(made, values.get(field.getType()));
      } else if (field.getType().isEnum()) {
        field.set(made, field.getType().getEnumConstants()[0]);
      }
    }
    return made;
  }
}
