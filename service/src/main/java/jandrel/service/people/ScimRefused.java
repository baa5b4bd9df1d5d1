package jandrel.service.people;

import org.springframework.http.HttpStatus;

/** A refusal in SCIM's own words (RFC 7644 §3.12). */
final class ScimRefused extends RuntimeException {
    private static final long serialVersionUID = 1L;
    final HttpStatus status;
    final String type;

    ScimRefused(HttpStatus status, String type, String detail) {
        super(detail);
        this.status = status;
        this.type = type;
    }
}
