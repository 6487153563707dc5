-- Wordings that people use often: one's own, or, where they have no owner, the office's.
CREATE TABLE phrase (
    id       uuid PRIMARY KEY,
    owner    uuid REFERENCES person,
    words    text NOT NULL CHECK (length(words) BETWEEN 1 AND 500),
    made_at  timestamptz NOT NULL
);
CREATE UNIQUE INDEX phrase_words ON phrase (owner, words) NULLS NOT DISTINCT;
GRANT SELECT, INSERT, UPDATE, DELETE ON phrase TO froe_app;
