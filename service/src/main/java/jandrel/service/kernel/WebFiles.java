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
    @Override
    public void addViewControllers(ViewControllerRegistry pages) {
        for (String page : new String[] {
            "/",
            "/sign-in",
            "/overview",
            "/timeline",
            "/timeline/{id}",
            "/decisions",
            "/triage",
            "/calendar",
            "/in-step",
            "/address-books",
            "/measures",
            "/exclusions",
            "/connections",
            "/directory",
            "/policy",
            "/coverage",
            "/sign-ins",
            "/servers",
            "/mailbox",
            "/account",
            "/welcome",
            "/journal"
        }) {
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
