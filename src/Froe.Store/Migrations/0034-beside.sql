-- Models are put together from several files: which others a file consists of, and which of them were there when it was read.
CREATE TABLE upload_beside (
    upload_id  uuid NOT NULL REFERENCES upload ON DELETE CASCADE,
    name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
    -- Null while it is missing.
    sha256     bytea REFERENCES content,
    -- The draft that it was taken from; null for a file that came with the other.
    from_draft uuid REFERENCES draft,
    PRIMARY KEY (upload_id, name)
);
CREATE INDEX upload_beside_content ON upload_beside (sha256);
CREATE TABLE draft_beside (
    draft_id   uuid NOT NULL REFERENCES draft,
    name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
    -- Numbers that the name may mean a document by.
    numbers    text[] NOT NULL,
    sha256     bytea REFERENCES content,
    from_draft uuid REFERENCES draft,
    -- Files that came later may be the missing one.
    looked_at  timestamptz NOT NULL,
    PRIMARY KEY (draft_id, name)
);
CREATE INDEX draft_beside_content ON draft_beside (sha256);
CREATE INDEX draft_beside_missing ON draft_beside (looked_at) WHERE sha256 IS NULL;
CREATE INDEX draft_file_name ON draft (lower(file_name));
CREATE INDEX upload_file_name ON upload (person_id, lower(file_name));

-- How often a draft was completed by files that came later. Its forms bear the reader's version and this together, so that none is ever replaced.
ALTER TABLE draft ADD completed int NOT NULL DEFAULT 0;
DROP INDEX draft_prepared;
CREATE INDEX draft_prepared ON draft (reader, (prepared - completed));

-- Deletes those of the files that nothing names; gives how many. Whatever names a file is asked.
CREATE OR REPLACE FUNCTION discard_content(candidates bytea[]) RETURNS int LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    free bytea[];
BEGIN
    -- Nobody stores a file while it is decided that it is not wanted; what is stored has its name in the same transaction.
    LOCK TABLE content IN SHARE ROW EXCLUSIVE MODE;
    SELECT array_agg(DISTINCT c) INTO free FROM unnest(candidates) c
    WHERE NOT EXISTS (SELECT 1 FROM draft WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM draft_form WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM draft_beside WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM upload WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM upload_form WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM upload_beside WHERE sha256 = c);
    DELETE FROM content_chunk WHERE sha256 = ANY (free);
    DELETE FROM content WHERE sha256 = ANY (free);
    RETURN coalesce(cardinality(free), 0);
END $$;

GRANT SELECT, INSERT, DELETE ON upload_beside TO froe_app;
GRANT SELECT, INSERT ON draft_beside TO froe_app;
GRANT UPDATE (sha256, from_draft, looked_at) ON draft_beside TO froe_app;
GRANT UPDATE (completed) ON draft TO froe_app;
GRANT DELETE ON draft_opened TO froe_app;
