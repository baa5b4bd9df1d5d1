package jandrel.service.kernel;

import jandrel.sources.LimitedStream;
import java.io.IOException;
import java.io.InputStream;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.core.MethodParameter;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpInputMessage;
import org.springframework.http.HttpStatus;
import org.springframework.http.converter.HttpMessageConverter;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.servlet.mvc.method.annotation.RequestBodyAdviceAdapter;

/** What every JSON body is held to: a size, and that nothing is missing which is not said to be optional. */
@ControllerAdvice
class JsonBodies extends RequestBodyAdviceAdapter {
    private static final int USUAL_KILOBYTES = 64;
    private static final int MOST_NAMED = 10;
    private static final String OURS = "jandrel.";

    /** The body is larger than the call takes. */
    static final class TooLarge extends IOException {
        private static final long serialVersionUID = 1L;
        private final int kilobytes;

        TooLarge(int kilobytes) {
            super("the body is larger than " + kilobytes + " KB");
            this.kilobytes = kilobytes;
        }

        int kilobytes() {
            return kilobytes;
        }
    }

    @Override
    public boolean supports(MethodParameter parameter, Type type, Class<? extends HttpMessageConverter<?>> converter) {
        return true;
    }

    @Override
    public HttpInputMessage beforeBodyRead(
            HttpInputMessage message,
            MethodParameter parameter,
            Type type,
            Class<? extends HttpMessageConverter<?>> converter)
            throws IOException {
        int kilobytes = Optional.ofNullable(parameter.getMethodAnnotation(LargestBody.class))
                .map(LargestBody::kilobytes)
                .orElse(USUAL_KILOBYTES);
        if (message.getHeaders().getContentLength() > kilobytes * 1024L) {
            throw new TooLarge(kilobytes);
        }
        InputStream body = new LimitedStream(message.getBody(), kilobytes * 1024L, () -> new TooLarge(kilobytes));
        return new HttpInputMessage() {
            @Override
            public InputStream getBody() {
                return body;
            }

            @Override
            public HttpHeaders getHeaders() {
                return message.getHeaders();
            }
        };
    }

    @Override
    public Object afterBodyRead(
            Object body,
            HttpInputMessage message,
            MethodParameter parameter,
            Type type,
            Class<? extends HttpMessageConverter<?>> converter) {
        List<String> missing = new ArrayList<>();
        missing(body, "", missing);
        if (!missing.isEmpty()) {
            throw Refusal.of(
                    HttpStatus.BAD_REQUEST,
                    "The request is missing " + String.join(", ", missing),
                    "See /api/openapi.json for what this call accepts.");
        }
        return body;
    }

    /** By the path of each, such as {@code server.host}. */
    private static void missing(@Nullable Object value, String path, List<String> into) {
        if (value instanceof Collection<?> some) {
            if (some.stream().anyMatch(Objects::isNull)) {
                named("one of “" + path + "”", into);
            }
            some.forEach(one -> missing(one, path, into));
        } else if (value instanceof Record && value.getClass().getName().startsWith(OURS)) {
            for (RecordComponent component : value.getClass().getRecordComponents()) {
                Object part = part(value, component);
                String name = path.isEmpty() ? component.getName() : path + "." + component.getName();
                if (part != null) {
                    missing(part, name, into);
                } else if (!isOptional(component)) {
                    named("“" + name + "”", into);
                }
            }
        }
    }

    private static void named(String missing, List<String> into) {
        if (into.size() < MOST_NAMED) {
            into.add(missing);
        }
    }

    private static boolean isOptional(RecordComponent component) {
        return component.getAnnotatedType().isAnnotationPresent(Nullable.class);
    }

    private static @Nullable Object part(Object value, RecordComponent component) {
        try {
            component.getAccessor().setAccessible(true);
            return component.getAccessor().invoke(value);
        } catch (IllegalAccessException | InvocationTargetException impossible) {
            throw new IllegalStateException("a record does not give its own " + component.getName(), impossible);
        }
    }
}
