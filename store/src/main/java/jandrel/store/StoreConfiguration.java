package jandrel.store;

import jandrel.store.kernel.ArrayHandlers;
import java.util.UUID;
import org.apache.ibatis.session.AutoMappingBehavior;
import org.mybatis.spring.annotation.MapperScan;
import org.mybatis.spring.boot.autoconfigure.ConfigurationCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.ComponentScan;
import org.springframework.context.annotation.Configuration;

/** Wires the mappers; the data source and Flyway come from the application. */
@Configuration(proxyBeanMethods = false)
@ComponentScan
@MapperScan(annotationClass = org.apache.ibatis.annotations.Mapper.class)
public class StoreConfiguration {
    @Bean
    ConfigurationCustomizer handlers() {
        return configuration -> {
            configuration.setMapUnderscoreToCamelCase(true);
            configuration.setArgNameBasedConstructorAutoMapping(true);
            configuration.setAutoMappingBehavior(AutoMappingBehavior.FULL);
            configuration.setCallSettersOnNulls(true);
            configuration.getTypeHandlerRegistry().register(UUID.class, new ArrayHandlers.Uuid());
            configuration.getTypeHandlerRegistry().register(UUID[].class, new ArrayHandlers.Uuids());
            configuration.getTypeHandlerRegistry().register(String[].class, new ArrayHandlers.Texts());
            configuration.getTypeHandlerRegistry().register(Long[].class, new ArrayHandlers.Longs());
        };
    }
}
