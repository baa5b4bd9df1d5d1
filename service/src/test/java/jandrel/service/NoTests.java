package jandrel.service;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.core.importer.Location;

/** What we wrote and ship: no module's tests, be they in a folder or in a jar, and nothing that Spring wrote for a quick start. */
final class NoTests implements ImportOption {
    private final ImportOption folders = new ImportOption.DoNotIncludeTests();

    @Override
    public boolean includes(Location location) {
        return folders.includes(location) && !location.contains("-tests.jar") && !location.contains("__");
    }
}
