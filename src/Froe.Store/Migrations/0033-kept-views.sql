-- Views of models as people keep them for themselves, by name.
CREATE TABLE kept_view (
    person_id uuid NOT NULL REFERENCES person,
    draft_id  uuid NOT NULL REFERENCES draft,
    position  integer NOT NULL,
    name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
    view      jsonb NOT NULL,
    kept_at   timestamptz NOT NULL,
    PRIMARY KEY (draft_id, person_id, position, name)
);
GRANT SELECT, INSERT, UPDATE, DELETE ON kept_view TO froe_app;
