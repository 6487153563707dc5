-- What a model states of itself is long: which of it is shown when it is opened, as somebody chose before the draft was sent. Each choice is
-- kept, the last one holds.
CREATE TABLE draft_stated (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    draft_id uuid NOT NULL REFERENCES draft,
    position int NOT NULL,
    -- By their places in the scene's list, and what they say: a reader that reads better may list them otherwise.
    shown int[] NOT NULL,
    words text[] NOT NULL CHECK (cardinality(words) = cardinality(shown)),
    person_id uuid NOT NULL REFERENCES person,
    at timestamptz NOT NULL
);
CREATE INDEX draft_stated_last ON draft_stated (draft_id, position, id DESC);
GRANT SELECT, INSERT ON draft_stated TO froe_app;
