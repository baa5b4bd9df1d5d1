package jandrel.client;

/** What every command has to work with. */
interface ClientContext {
    Home home();

    Http http();

    Out out();
}
