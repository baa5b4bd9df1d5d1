package jandrel.service.people;

import java.util.UUID;

/**
 * A sign-in was added for a person of ours, who is to know of it.
 *
 * @param person whose it is
 * @param name of the person
 * @param address where they are told
 * @param by the login of who added it
 */
public record SignInAdded(UUID person, String name, String address, String login, String by) {}
