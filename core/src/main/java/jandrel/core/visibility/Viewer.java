package jandrel.core.visibility;

import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** @param person the person of ours behind the sign-in; null for one that is nobody's, such as an outside auditor's */
public record Viewer(Role role, @Nullable UUID person) {}
