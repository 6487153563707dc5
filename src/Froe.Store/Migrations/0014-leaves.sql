-- A draft is a stack of leaves, each prepared in any number of forms; a new format brings rows, and no column.

CREATE TABLE draft_leaf (
    draft_id uuid NOT NULL REFERENCES draft,
    position int NOT NULL,
    name     text NOT NULL,
    -- What its places are counted in, with its kind.
    frame    jsonb NOT NULL,
    PRIMARY KEY (draft_id, position)
);
-- Inserted, never changed: a reader's next version makes rows of its own, and what was looked at before stays provable.
CREATE TABLE draft_form (
    draft_id uuid NOT NULL,
    position int NOT NULL,
    form     text NOT NULL,
    version  int NOT NULL,
    sha256   bytea NOT NULL REFERENCES content,
    PRIMARY KEY (draft_id, position, form, version),
    FOREIGN KEY (draft_id, position) REFERENCES draft_leaf
);
CREATE INDEX draft_form_content ON draft_form (sha256);

INSERT INTO draft_leaf (draft_id, position, name, frame)
SELECT draft_id, position, name, jsonb_build_object(
    'kind', 'sheet', 'unit', unit, 'extents', jsonb_build_object('minX', extents[1], 'minY', extents[2], 'maxX', extents[3], 'maxY', extents[4]))
FROM draft_sheet;
INSERT INTO draft_form (draft_id, position, form, version, sha256)
SELECT s.draft_id, s.position, f.form, 1, f.sha256
FROM draft_sheet s, LATERAL (VALUES ('geometry', s.geometry), ('picture', s.picture), ('small', s.small)) AS f (form, sha256);
DROP TABLE draft_sheet;

-- Which reader made a draft's forms, and the version whose forms are shown.
ALTER TABLE draft
    ADD reader   text NOT NULL DEFAULT 'dxf',
    ADD prepared int NOT NULL DEFAULT 1;
ALTER TABLE draft
    ALTER reader DROP DEFAULT,
    ALTER prepared DROP DEFAULT;
CREATE INDEX draft_prepared ON draft (reader, prepared);
-- Reports name leaves, not sheets.
UPDATE draft SET report = (report - 'sheets') || jsonb_build_object('leaves', report -> 'sheets') WHERE report ? 'sheets';

-- Forms that are being made anew, or could not be.
CREATE TABLE draft_anew (
    draft_id   uuid NOT NULL REFERENCES draft,
    version    int NOT NULL,
    claimed_at timestamptz NOT NULL,
    attempts   int NOT NULL DEFAULT 1,
    -- Why the forms of the version before stay.
    fault      text,
    PRIMARY KEY (draft_id, version)
);
-- Which drafts are looked at, for what is made anew first.
CREATE INDEX draft_opened_draft ON draft_opened (draft_id, at);

CREATE TABLE upload_form (
    upload_id uuid NOT NULL REFERENCES upload ON DELETE CASCADE,
    position  int NOT NULL,
    form      text NOT NULL,
    sha256    bytea NOT NULL REFERENCES content,
    PRIMARY KEY (upload_id, position, form)
);
CREATE INDEX upload_form_content ON upload_form (sha256);
ALTER TABLE upload
    ADD leaves  jsonb,
    ADD reader  text,
    ADD version int;
UPDATE upload SET reader = 'dxf', version = 1, report = (report - 'sheets') || jsonb_build_object('leaves', report -> 'sheets'), leaves = (
    SELECT jsonb_agg(jsonb_build_object('position', n - 1, 'name', s -> 'name', 'frame', jsonb_build_object(
        'kind', 'sheet', 'unit', s -> 'unit',
        'extents', jsonb_build_object('minX', s -> 'extents' -> 0, 'minY', s -> 'extents' -> 1, 'maxX', s -> 'extents' -> 2, 'maxY', s -> 'extents' -> 3))) ORDER BY n)
    FROM jsonb_array_elements(sheets) WITH ORDINALITY AS a (s, n))
WHERE sheets IS NOT NULL;
INSERT INTO upload_form (upload_id, position, form, sha256)
SELECT u.id, n - 1, f, decode(s ->> f, 'hex')
FROM upload u, jsonb_array_elements(u.sheets) WITH ORDINALITY AS a (s, n), unnest(ARRAY['geometry', 'picture', 'small']) f
-- What was registered is named by its draft; content of older uploads may be gone.
WHERE u.state = 'read' AND EXISTS (SELECT 1 FROM content c WHERE c.sha256 = decode(s ->> f, 'hex'));
ALTER TABLE upload DROP COLUMN sheets;

-- Deletes those of the files that nothing names; gives how many. Whatever is prepared of a file is named in one of these four.
CREATE OR REPLACE FUNCTION discard_content(candidates bytea[]) RETURNS int LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    free bytea[];
BEGIN
    -- Nobody stores a file while it is decided that it is not wanted; what is stored has its name in the same transaction.
    LOCK TABLE content IN SHARE ROW EXCLUSIVE MODE;
    SELECT array_agg(DISTINCT c) INTO free FROM unnest(candidates) c
    WHERE NOT EXISTS (SELECT 1 FROM draft WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM draft_form WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM upload WHERE sha256 = c)
      AND NOT EXISTS (SELECT 1 FROM upload_form WHERE sha256 = c);
    DELETE FROM content_chunk WHERE sha256 = ANY (free);
    DELETE FROM content WHERE sha256 = ANY (free);
    RETURN coalesce(cardinality(free), 0);
END $$;

GRANT SELECT, INSERT ON draft_leaf, draft_form TO froe_app;
GRANT UPDATE (frame) ON draft_leaf TO froe_app;
GRANT UPDATE (prepared, report) ON draft TO froe_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON draft_anew, upload_form TO froe_app;
