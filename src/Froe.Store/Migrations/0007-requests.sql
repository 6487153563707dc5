-- Notes are found across packages: by what they say, by the document they are about, by who asked and who is asked.
-- A document's number and title never change, nor does who sent a package; a note keeps them, so that an index can keep its order.
ALTER TABLE note
    ADD subject    text,
    ADD originator uuid REFERENCES person;
UPDATE note n SET subject = d.number || ' ' || d.title, originator = k.originator
FROM document d, package k WHERE d.id = n.document_id AND k.id = n.package_id;
ALTER TABLE note
    ALTER subject SET NOT NULL,
    ALTER originator SET NOT NULL;

CREATE INDEX note_asked ON note (kind, at, id);
CREATE INDEX note_standing ON note (kind, standing, at, id);
CREATE INDEX note_subject ON note (kind, subject COLLATE reading_order, id);
-- What is not settled is little, however much is.
CREATE INDEX note_unsettled ON note (kind, at, id) WHERE standing IN ('open', 'answered');
CREATE INDEX note_unsettled_subject ON note (kind, subject COLLATE reading_order, id) WHERE standing IN ('open', 'answered');
CREATE INDEX note_author ON note (author, at, id);
CREATE INDEX note_originator ON note (originator, at, id);
CREATE INDEX note_words ON note USING gin (body gin_trgm_ops, subject gin_trgm_ops);
CREATE INDEX note_document ON note (document_id);

ALTER TABLE saved_view DROP CONSTRAINT saved_view_list_check;
ALTER TABLE saved_view ADD CONSTRAINT saved_view_list_check CHECK (list IN ('register', 'monitor', 'requests'));
