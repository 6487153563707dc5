-- What is written on the leaves of drafts, to be found. It follows from their forms, so it may be made anew at any time.
ALTER TABLE draft ADD COLUMN words_version int NOT NULL DEFAULT 0;
CREATE INDEX draft_words_missing ON draft (id) WHERE words_version < prepared;
GRANT UPDATE (words_version) ON draft TO froe_app;

CREATE TABLE leaf_text (
    draft_id uuid NOT NULL REFERENCES draft (id),
    position int NOT NULL,
    -- As it is compared (WrittenPage), and as it is written.
    folded text NOT NULL,
    lines text[] NOT NULL,
    PRIMARY KEY (draft_id, position)
);
CREATE INDEX leaf_text_folded ON leaf_text USING gin (folded gin_trgm_ops);
GRANT SELECT, INSERT, DELETE ON leaf_text TO froe_app;
