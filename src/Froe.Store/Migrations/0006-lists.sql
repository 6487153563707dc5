-- Lists stand in the order people read in: capitals among small letters, accents beside their letter, 9 before 10
-- (Unicode Collation Algorithm, UTS #10, with numeric ordering, UTS #35 part 5 "kn").
CREATE COLLATION reading_order (provider = icu, locale = 'und-u-kn-true');

-- What lists sort and filter by stands in the document's own row, so that an index can keep its order.
ALTER TABLE document
    ADD standing        text NOT NULL DEFAULT 'in work',
    ADD changed_at      timestamptz NOT NULL DEFAULT now(),
    ADD originator_name text NOT NULL DEFAULT '';

CREATE FUNCTION keep_document() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    -- In the order of their ids, as everything locks documents.
    PERFORM 1 FROM document WHERE id IN (SELECT document_id FROM touched) ORDER BY id FOR NO KEY UPDATE;
    UPDATE document d SET standing = now.standing, changed_at = coalesce(now.changed_at, d.registered_at)
    FROM (SELECT t.document_id, r.standing, greatest(w.uploaded_at, r.released_at) AS changed_at
          FROM (SELECT DISTINCT document_id FROM touched) t
          JOIN LATERAL (SELECT * FROM revision WHERE document_id = t.document_id ORDER BY ordinal DESC LIMIT 1) r ON true
          LEFT JOIN LATERAL (SELECT * FROM draft WHERE revision_id = r.id ORDER BY ordinal DESC LIMIT 1) w ON true) now
    WHERE d.id = now.document_id AND (d.standing, d.changed_at) IS DISTINCT FROM (now.standing, coalesce(now.changed_at, d.registered_at));
    RETURN NULL;
END $$;

CREATE TRIGGER document_follows AFTER INSERT ON revision REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION keep_document();
CREATE TRIGGER document_follows_change AFTER UPDATE ON revision REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION keep_document();
CREATE TRIGGER document_follows AFTER INSERT ON draft REFERENCING NEW TABLE AS touched FOR EACH STATEMENT EXECUTE FUNCTION keep_document();

-- The person's row is held meanwhile, so that no change of the name slips in between.
CREATE FUNCTION name_originator() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.originator_name := coalesce((SELECT name FROM person WHERE id = NEW.originator FOR SHARE), '');
    RETURN NEW;
END $$;
CREATE TRIGGER document_names BEFORE INSERT OR UPDATE OF originator ON document FOR EACH ROW EXECUTE FUNCTION name_originator();

CREATE FUNCTION rename_originator() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM 1 FROM document WHERE originator = NEW.id ORDER BY id FOR NO KEY UPDATE;
    UPDATE document SET originator_name = NEW.name WHERE originator = NEW.id;
    RETURN NULL;
END $$;
CREATE TRIGGER person_renamed AFTER UPDATE OF name ON person FOR EACH ROW WHEN (OLD.name IS DISTINCT FROM NEW.name) EXECUTE FUNCTION rename_originator();

-- What is there already.
UPDATE revision SET standing = standing;
UPDATE document SET originator = originator;

CREATE INDEX document_number ON document (number COLLATE reading_order);
CREATE INDEX document_title ON document (title COLLATE reading_order, number);
CREATE INDEX document_kind ON document (kind, number);
CREATE INDEX document_discipline ON document (discipline COLLATE reading_order, number);
CREATE INDEX document_folder_order ON document (folder COLLATE reading_order, number);
CREATE INDEX document_standing ON document (standing, number);
CREATE INDEX document_changed ON document (changed_at, number);
CREATE INDEX document_originator_name ON document (originator_name COLLATE reading_order, number);
CREATE INDEX package_title ON package (title COLLATE reading_order, id);
CREATE INDEX package_standing_title ON package (standing, title COLLATE reading_order, id);

-- Messages go through pages both ways, from the newest and from the oldest.
DROP INDEX message_person;
CREATE INDEX message_person ON message (person_id, at, id);

-- A list as somebody likes to see it: its filters, order and columns, as they stand in the page's address.
CREATE TABLE saved_view (
    person_id uuid NOT NULL REFERENCES person,
    list      text NOT NULL CHECK (list IN ('register', 'monitor')),
    name      text NOT NULL,
    query     text NOT NULL,
    PRIMARY KEY (person_id, list, name)
);
GRANT SELECT, INSERT, UPDATE, DELETE ON saved_view TO froe_app;
