package jandrel.store.kernel;

import org.mybatis.spring.mapper.MapperFactoryBean;
import org.springframework.beans.factory.aot.BeanRegistrationExcludeFilter;
import org.springframework.beans.factory.support.RegisteredBean;

/**
 * Mappers are found at each start, whatever else was found out when the service was built: they are their packages' own, and code that
 * Spring writes elsewhere could not name them.
 */
final class MappersAtStart implements BeanRegistrationExcludeFilter {
    @Override
    public boolean isExcludedFromAotProcessing(RegisteredBean bean) {
        return MapperFactoryBean.class.isAssignableFrom(bean.getBeanClass());
    }
}
