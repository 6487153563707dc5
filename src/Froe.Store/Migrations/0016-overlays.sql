-- What is drawn is apart from what is said: a person's overlays on a draft hold markups, a note has any number of them as its places.

CREATE TABLE overlay (
    id             uuid PRIMARY KEY,
    draft_id       uuid NOT NULL REFERENCES draft,
    owner          uuid NOT NULL REFERENCES person,
    name           text NOT NULL,
    made_at        timestamptz NOT NULL,
    -- How often it has changed, and the digest of what it holds.
    version        bigint NOT NULL,
    sha256         bytea NOT NULL,
    -- The version its owner signed with last.
    signed_version bigint NOT NULL DEFAULT 0
);
CREATE UNIQUE INDEX overlay_name ON overlay (draft_id, owner, lower(name));

CREATE TABLE markup (
    id         uuid PRIMARY KEY,
    overlay_id uuid NOT NULL REFERENCES overlay,
    place      jsonb NOT NULL,
    shape      jsonb NOT NULL,
    note_id    uuid REFERENCES note,
    -- Where it lies in words, such as “D3”.
    zone       text,
    -- Its overlay's version when it last changed, and the hash of what was written of it then.
    version    bigint NOT NULL,
    sha256     bytea NOT NULL,
    changed_at timestamptz NOT NULL,
    erased_at  timestamptz
);
CREATE INDEX markup_overlay ON markup (overlay_id, version);
CREATE INDEX markup_note ON markup (note_id) WHERE note_id IS NOT NULL;

-- Every change ever made, so that what lay on a draft when somebody signed can be shown and proven. Inserted, never changed.
CREATE TABLE markup_change (
    overlay_id uuid NOT NULL REFERENCES overlay,
    version    bigint NOT NULL,
    markup_id  uuid NOT NULL REFERENCES markup,
    at         timestamptz NOT NULL,
    -- Place, shape and note as they were written, to the letter; null when it was erased.
    body       text,
    PRIMARY KEY (overlay_id, version, markup_id)
);

-- Until now each note was one markup, and its author the overlay.
INSERT INTO overlay (id, draft_id, owner, name, made_at, version, sha256)
SELECT md5('overlay ' || draft_id || author)::uuid, draft_id, author, 'Marks', min(at), 1, '' FROM note GROUP BY draft_id, author;
INSERT INTO markup (id, overlay_id, place, shape, note_id, zone, version, sha256, changed_at, erased_at)
SELECT md5('markup ' || n.id)::uuid, md5('overlay ' || n.draft_id || n.author)::uuid, jsonb_build_object('on', 'sheet', 'leaf', n.sheet), n.shape, n.id, n.zone, 1, '', n.at, a.at
FROM note n LEFT JOIN LATERAL (SELECT max(t.at) AS at FROM note_act t WHERE t.note_id = n.id AND n.standing = 'withdrawn') a ON true;
INSERT INTO markup_change (overlay_id, version, markup_id, at, body)
SELECT overlay_id, 1, id, changed_at, json_build_object('place', place, 'shape', shape, 'note', note_id)::text FROM markup;
UPDATE markup m SET sha256 = sha256(convert_to(c.body, 'UTF8')) FROM markup_change c WHERE c.markup_id = m.id;
INSERT INTO markup_change (overlay_id, version, markup_id, at) SELECT overlay_id, 2, id, erased_at FROM markup WHERE erased_at IS NOT NULL;
UPDATE markup SET version = 2, changed_at = erased_at WHERE erased_at IS NOT NULL;
UPDATE overlay o SET version = (SELECT max(version) FROM markup WHERE overlay_id = o.id),
    sha256 = sha256(coalesce((SELECT string_agg(uuid_send(id) || sha256, ''::bytea ORDER BY id) FROM markup WHERE overlay_id = o.id AND erased_at IS NULL), ''));
UPDATE overlay o SET signed_version = version
WHERE EXISTS (SELECT 1 FROM verdict v JOIN sign_off s ON s.id = v.sign_off_id WHERE v.draft_id = o.draft_id AND s.person_id = o.owner AND s.stands);
ALTER TABLE note
    DROP COLUMN shape,
    DROP COLUMN sheet,
    DROP COLUMN zone;

GRANT SELECT, INSERT ON overlay, markup, markup_change TO froe_app;
GRANT UPDATE (name, version, sha256, signed_version) ON overlay TO froe_app;
GRANT UPDATE (place, shape, note_id, zone, version, sha256, changed_at, erased_at) ON markup TO froe_app;
