package jandrel.service.people;

import java.util.UUID;

/** A sign-in opens nothing from now on; heard in the transaction that ends it. Whatever else it had given out ends with it. */
public record SignInEnded(UUID signIn) {}
