-- A question asks somebody: the originator, or whom the originator asks. What is asked of a document goes on with it, from package to package.
ALTER TABLE note RENAME originator TO asked_of;
ALTER INDEX note_originator RENAME TO note_asked_of;
ALTER TABLE note ADD origin uuid REFERENCES note;
CREATE INDEX note_origin ON note (origin) WHERE origin IS NOT NULL;

-- Packages that wait for their originator: back, or held until what was noted is answered.
CREATE TABLE awaited_answer (
    package_id uuid PRIMARY KEY REFERENCES package,
    since      timestamptz NOT NULL,
    due        timestamptz,
    nudge_at   timestamptz
);
CREATE INDEX awaited_answer_due ON awaited_answer (due) WHERE due IS NOT NULL;
CREATE INDEX awaited_answer_nudge ON awaited_answer (nudge_at) WHERE nudge_at IS NOT NULL;
INSERT INTO awaited_answer (package_id, since)
SELECT k.id, coalesce((SELECT max(e.at) FROM ledger_entry e WHERE e.chain = k.id AND e.action IN ('package returned', 'package pulled back', 'package recalled', 'split off', 'signed', 'signed as deputy')), k.round_at)
FROM package k WHERE k.standing = 'returned' OR k.held;

-- Whoever is told of a package may see it.
CREATE TABLE package_told (
    person_id  uuid NOT NULL REFERENCES person,
    package_id uuid NOT NULL REFERENCES package,
    PRIMARY KEY (person_id, package_id)
);
INSERT INTO package_told (person_id, package_id)
SELECT DISTINCT m.person_id, k.id FROM message m JOIN package k ON m.link = '/packages/' || k.id OR starts_with(m.link, '/packages/' || k.id || '?') WHERE m.link LIKE '/packages/%';

-- Who got a revision for use on site.
CREATE TABLE revision_use (
    revision_id uuid NOT NULL REFERENCES revision,
    person_id   uuid NOT NULL REFERENCES person,
    at          timestamptz NOT NULL,
    PRIMARY KEY (person_id, revision_id)
);
CREATE INDEX revision_use_of ON revision_use (revision_id);
INSERT INTO revision_use (revision_id, person_id, at)
SELECT DISTINCT ON (r.id, p.id) r.id, p.id, e.at
FROM ledger_entry e JOIN revision r ON r.id::text = e.payload::jsonb ->> 'revision'
JOIN person p ON p.id IN (SELECT x::uuid FROM jsonb_array_elements_text(coalesce(nullif(e.payload::jsonb -> 'people', 'null'), '[]')) x)
    OR p.id IN (SELECT m.person_id FROM group_member m WHERE m.group_id IN (SELECT x::uuid FROM jsonb_array_elements_text(coalesce(nullif(e.payload::jsonb -> 'groups', 'null'), '[]')) x))
WHERE e.action = 'sent for use' AND e.payload::jsonb ->> 'revision' ~ '^[0-9a-f-]{36}$' ORDER BY r.id, p.id, e.at;

GRANT SELECT, INSERT, UPDATE, DELETE ON awaited_answer TO froe_app;
GRANT SELECT, INSERT ON package_told, revision_use TO froe_app;
