-- Who has which sheet of a package before them, page by page. Nothing hangs on it, so that it is not written to the log.
CREATE UNLOGGED TABLE presence (
    page       uuid PRIMARY KEY,
    person_id  uuid NOT NULL REFERENCES person,
    package_id uuid NOT NULL REFERENCES package,
    draft_id   uuid NOT NULL REFERENCES draft,
    leaf       integer NOT NULL CHECK (leaf >= 0),
    at         timestamptz NOT NULL
);
CREATE INDEX presence_package ON presence (package_id, at);
GRANT SELECT, INSERT, UPDATE, DELETE ON presence TO froe_app;
