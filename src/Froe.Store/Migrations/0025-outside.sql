-- Annotations of files that were marked outside and brought in: each is taken in once, by its name in the file and what it says.
CREATE TABLE brought_in (
    document_id uuid NOT NULL REFERENCES document,
    foreign_id  text NOT NULL CHECK (length(foreign_id) <= 200),
    digest      text NOT NULL CHECK (length(digest) = 32),
    note_id     uuid REFERENCES note,
    person_id   uuid NOT NULL REFERENCES person,
    at          timestamptz NOT NULL,
    PRIMARY KEY (document_id, foreign_id, digest)
);
GRANT SELECT, INSERT ON brought_in TO froe_app;
