-- Files that nothing names any more: those a reader refused, and those nobody registered within a day.
-- The server may not delete content; it may ask for this function, which deletes only what nothing names.

ALTER TABLE upload ALTER COLUMN sha256 DROP NOT NULL;

-- Whether a file is named is asked of every table that names files.
CREATE INDEX draft_content ON draft (sha256);
CREATE INDEX draft_sheet_geometry ON draft_sheet (geometry);
CREATE INDEX draft_sheet_picture ON draft_sheet (picture);
CREATE INDEX draft_sheet_small ON draft_sheet (small);
CREATE INDEX upload_content ON upload (sha256);

-- Deletes those of the files that neither a draft nor an upload names; gives how many.
CREATE FUNCTION discard_content(candidates bytea[]) RETURNS int LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    free bytea[];
BEGIN
    -- Nobody stores a file while it is decided that it is not wanted; what is stored has its name in the same transaction.
    LOCK TABLE content IN SHARE ROW EXCLUSIVE MODE;
    SELECT array_agg(DISTINCT c) INTO free FROM unnest(candidates) c
    WHERE NOT EXISTS (SELECT 1 FROM draft WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM draft_sheet WHERE geometry = c)
      AND NOT EXISTS (SELECT 1 FROM draft_sheet WHERE picture = c)
      AND NOT EXISTS (SELECT 1 FROM draft_sheet WHERE small = c)
      AND NOT EXISTS (SELECT 1 FROM upload WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM upload u, jsonb_array_elements(u.sheets) s WHERE encode(c, 'hex') IN (s->>'geometry', s->>'picture', s->>'small'));
    DELETE FROM content_chunk WHERE sha256 = ANY (free);
    DELETE FROM content WHERE sha256 = ANY (free);
    RETURN coalesce(cardinality(free), 0);
END $$;
REVOKE ALL ON FUNCTION discard_content(bytea[]) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION discard_content(bytea[]) TO froe_app;
