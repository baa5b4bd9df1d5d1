package jandrel.standin;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;

/** The stand-in's own process. */
@SpringBootApplication
public class Standin {
    public static void main(String[] arguments) {
        SpringApplication.run(Standin.class, arguments);
    }
}
