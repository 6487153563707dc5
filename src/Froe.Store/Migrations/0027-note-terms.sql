-- What a note says besides its words: how pressing it is, by when it is wanted, what it is about, and whether it is about all of its package.
ALTER TABLE note
    ADD urgent boolean NOT NULL DEFAULT false,
    ADD due date,
    ADD tags text[] NOT NULL DEFAULT '{}' CHECK (cardinality(tags) <= 8),
    ADD on_package boolean NOT NULL DEFAULT false;
CREATE INDEX note_tags ON note USING gin (tags);
CREATE INDEX note_pressing ON note (due, id) WHERE standing IN ('open', 'answered') AND (urgent OR due IS NOT NULL);
