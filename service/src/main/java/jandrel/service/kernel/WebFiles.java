package jandrel.service.kernel;

import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.ViewControllerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Serves the console: its pages are one file, its assets carry a digest in their names and never change. */
@Configuration(proxyBeanMethods = false)
class WebFiles implements WebMvcConfigurer {
    /** An address that a person may type; whether there is such a page, the console says. Files have a dot. */
    private static final String PAGE = "/{page:(?!api$|scim$|assets$)[^.]+}";

    @Override
    public void addViewControllers(ViewControllerRegistry pages) {
        for (String page : new String[] {"/", PAGE, PAGE + "/**"}) {
            pages.addViewController(page).setViewName("forward:/index.html");
        }
    }

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry resources) {
        resources
                .addResourceHandler("/assets/**")
                .addResourceLocations("classpath:/static/assets/")
                .setCacheControl(
                        CacheControl.maxAge(Duration.ofDays(365)).cachePublic().immutable());
        resources
                .addResourceHandler("/index.html", "/favicon.svg")
                .addResourceLocations("classpath:/static/")
                .setCacheControl(CacheControl.noCache());
    }
}
